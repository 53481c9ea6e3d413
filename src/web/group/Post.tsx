import { useState } from 'react'
import type { GroupPage } from '../../contract/groups.ts'
import type { PostView } from '../../contract/talk.ts'
import { sayInstant } from '../../core/zone.ts'
import { Button } from '../kit/Button.tsx'
import { Markdown } from '../kit/Markdown.tsx'
import { PostField } from './PostField.tsx'

/** One post: who wrote it and when beside what it says, as in minutes. */
export function Post({
  post,
  page,
  isNew,
  onEdit,
  onRemove,
}: {
  post: PostView
  page: GroupPage
  /** Whether the reader has not read it before. */
  isNew: boolean
  onEdit: (text: string) => Promise<boolean>
  onRemove: () => void
}) {
  const { zone } = page.sheet
  const [text, setText] = useState<string | null>(null)
  const [busy, setBusy] = useState(false)
  const keep = async () => {
    setBusy(true)
    if (await onEdit(text ?? '')) setText(null)
    setBusy(false)
  }
  return (
    <article
      aria-label={`${post.by}, ${sayInstant(post.postedAt, zone)}`}
      className={`grid gap-x-4 gap-y-1 border-l-[3px] py-2 pl-3 sm:grid-cols-[9rem_minmax(0,1fr)] ${
        post.mentionsYou ? 'border-ember' : isNew ? 'border-seat' : 'border-transparent'
      }`}
    >
      <div className="text-sm text-soft">
        <p className="font-semibold text-ink">{post.yours ? 'You' : post.by}</p>
        <p className="figures">{sayInstant(post.postedAt, zone)}</p>
        {post.editedAt && !post.removed && <p>edited {sayInstant(post.editedAt, zone)}</p>}
        {isNew && <p className="font-semibold text-seat">new</p>}
        {post.mentionsYou && <p className="font-semibold text-ember">names you</p>}
      </div>
      <div className="min-w-0">
        {post.removed ? (
          <p className="text-soft italic">
            Removed by {post.removed.by}, {sayInstant(post.removed.at, zone)}
          </p>
        ) : text === null ? (
          <div className="wrap-anywhere">
            <Markdown text={post.text} />
          </div>
        ) : (
          <div className="flex flex-col gap-2">
            <PostField label="Your post" value={text} onValue={setText} people={page.people} />
            <div className="flex gap-2">
              <Button size="small" look="main" busy={busy} onClick={() => void keep()}>
                Save post
              </Button>
              <Button size="small" onClick={() => setText(null)}>
                Cancel
              </Button>
            </div>
          </div>
        )}
        <div className="mt-1 flex flex-wrap items-center gap-1 empty:hidden">
          {page.may.write && post.mayEdit && text === null && (
            <Button size="small" look="quiet" onClick={() => setText(post.text)}>
              Edit
            </Button>
          )}
          {page.may.write && post.mayRemove && text === null && (
            <Button size="small" look="quiet" onClick={onRemove}>
              Remove
            </Button>
          )}
        </div>
        {post.earlier.length > 0 && (
          <details className="text-sm text-soft">
            <summary className="min-h-8 cursor-pointer py-1">What it said before</summary>
            <ul className="flex flex-col gap-1">
              {post.earlier.map(({ text, until }) => (
                <li key={until} className="whitespace-pre-line wrap-anywhere">
                  until {sayInstant(until, zone)}: {text}
                </li>
              ))}
            </ul>
          </details>
        )}
      </div>
    </article>
  )
}

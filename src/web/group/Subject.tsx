import { type FormEvent, useEffect, useState } from 'react'
import type { GroupPage } from '../../contract/groups.ts'
import { editPost, markRead, removePost, reply, type SubjectView, subject } from '../../contract/talk.ts'
import { useAnswer } from '../data/answers.ts'
import { call } from '../data/call.ts'
import { useUnsent } from '../data/useDraft.ts'
import { useAct } from '../kit/Acting.tsx'
import { Button } from '../kit/Button.tsx'
import { Loading, Trouble } from '../kit/Waiting.tsx'
import { Post } from './Post.tsx'
import { PostField } from './PostField.tsx'

/** The posts of one subject, and a field for a reply. What is shown counts as read. */
export function Subject({
  page,
  code,
  lastAt,
  mayReply,
  refetch,
}: {
  page: GroupPage
  code: string
  mayReply: boolean
  /** When the newest post came: a newer one is fetched. */
  lastAt: string
  refetch: () => void
}) {
  const at = { sheet: page.sheet.code, group: page.code, subject: code }
  const { data, error, mutate } = useAnswer(subject, at)
  const unsent = useUnsent(`reply ${code}`, '')
  const text = unsent.value
  // What was new when the subject was opened stays marked while it is open.
  const [firstNew, setFirstNew] = useState<string | null | undefined>(undefined)
  if (data && firstNew === undefined) setFirstNew(data.firstUnread)

  // biome-ignore lint/correctness/useExhaustiveDependencies: asked again when the list or the page tells of something newer
  useEffect(() => void mutate(), [lastAt, page.now])

  const newest = data?.posts.at(-1)?.code
  const unread = data !== undefined && data.firstUnread !== null
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each newest post
  useEffect(() => {
    if (!newest || !unread || document.hidden) return
    call(markRead, at, { post: newest }).then(refetch, () => {})
  }, [newest, unread])

  const act = useAct()
  /** True when it worked. */
  const write = async (work: () => Promise<SubjectView>): Promise<boolean> => {
    const done = await act.do({
      work,
      put: (next) => {
        void mutate(next, { revalidate: false })
        refetch()
      },
    })
    return !done.fault
  }
  const send = async (event: FormEvent) => {
    event.preventDefault()
    if (await write(() => call(reply, at, { text }))) unsent.drop()
  }
  if (!data)
    return error ? <Trouble fault={error} retry={() => void mutate()} /> : <Loading what="the talk" />
  const from = data.posts.findIndex((post) => post.code === firstNew)
  return (
    <div className="flex flex-col gap-1 border-t tear px-4 py-3">
      {data.shared && <p className="text-sm text-soft">Opened in several groups; each talks for itself.</p>}
      {data.posts.map((post, i) => (
        <Post
          key={post.code}
          post={post}
          page={page}
          isNew={from >= 0 && i >= from && !post.yours && !post.removed}
          onEdit={(text) => write(() => call(editPost, { ...at, post: post.code }, { text }))}
          onRemove={() => void write(() => call(removePost, { ...at, post: post.code }))}
        />
      ))}
      {mayReply && (
        <form className="mt-2 flex flex-col gap-2" onSubmit={(event) => void send(event)}>
          <PostField label="Reply" value={text} onValue={unsent.write} people={page.people} />
          <div>
            <Button type="submit" size="touch" look="main" busy={act.busy} disabled={text.trim() === ''}>
              Reply
            </Button>
          </div>
        </form>
      )}
    </div>
  )
}

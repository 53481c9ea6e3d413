import type { ReactNode } from 'react'
import type { RemarkView } from '../../contract/remarks.ts'
import { aboutOf } from '../../core/remarks.ts'
import { sayInstant } from '../../core/zone.ts'
import type { Placed } from './placed.ts'

/** What is said at one place: its number, its points, its words, the answers to it, and what can be done with it. */
export function Said({
  placed: { remark, n },
  criteria,
  zone,
  active,
  onShow,
  children,
}: {
  placed: Pick<Placed, 'n' | 'remark'>
  criteria: readonly { id: string; title: string }[]
  zone: string
  active: boolean
  /** Brings its place into sight. */
  onShow: () => void
  children?: ReactNode
}) {
  const about = aboutOf(remark, criteria)
  return (
    <article
      aria-label={`Remark ${n}`}
      className={`rounded-field border bg-surface px-2.5 py-2 ${active ? 'border-ember' : 'border-line'}`}
    >
      <p className="flex items-baseline gap-2">
        <button
          type="button"
          aria-label={`Show the place of remark ${n}`}
          aria-pressed={active}
          onClick={onShow}
          className={`figures drawn inline-flex h-6 min-w-6 shrink-0 items-center justify-center relative rounded-pip px-1 text-sm font-bold after:absolute after:-inset-2.5 ${active ? 'bg-ember text-on-ember' : 'bg-seat text-on-seat'}`}
        >
          {n}
        </button>
        {about && <strong className="figures min-w-0 wrap-anywhere">{about}</strong>}
      </p>
      {remark.words && <p className="mt-1 whitespace-pre-line wrap-anywhere">{remark.words}</p>}
      <Answers remark={remark} zone={zone} />
      <div className="mt-1 flex flex-wrap items-center justify-between gap-x-2 empty:hidden">
        {remark.by && <span className="text-sm text-soft">{remark.by}</span>}
        {children}
      </div>
    </article>
  )
}

function Answers({ remark: { answers }, zone }: { remark: RemarkView; zone: string }) {
  if (answers.length === 0) return null
  return (
    <ul aria-label="Answers" className="mt-1.5 flex flex-col gap-1 border-l-[3px] border-seat pl-2">
      {answers.map(({ by, words, answeredAt, yours }) => (
        <li key={`${by} ${answeredAt}`}>
          <span className="text-sm text-soft">
            {yours ? 'You' : by}, <span className="figures">{sayInstant(answeredAt, zone)}</span>
          </span>
          <p className="whitespace-pre-line wrap-anywhere">{words}</p>
        </li>
      ))}
    </ul>
  )
}

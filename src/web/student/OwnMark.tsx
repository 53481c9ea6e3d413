import type { ReactNode } from 'react'
import type { OwnTask, ReleasedMark } from '../../contract/ownWork.ts'
import { mostPoints } from '../../core/marks.ts'

/** The reader's own mark, by criteria, with what was said. */
export function OwnMark({
  title,
  mark,
  work,
  children,
}: {
  /** The task’s title. */
  title: string
  mark: ReleasedMark
  work: NonNullable<OwnTask['work']>
  /** What came with it. */
  children?: ReactNode
}) {
  return (
    <section aria-label={`Your mark for ${title}`} className="rounded-field border border-seat px-3 py-2">
      <p className="flex items-baseline justify-between gap-3">
        <span className="font-semibold">Your mark{mark.apart && ', set apart from the group’s'}</span>
        <span className="figures font-display text-[1.625rem] font-bold">
          {mark.points ?? '–'} <span className="text-base text-soft">of {mostPoints(work)}</span>
        </span>
      </p>
      {work.criteria.length > 0 && (
        <ul className="mt-1 flex flex-col gap-1">
          {work.criteria.map(({ id, title, points, levels }) => {
            const given = mark.placements[id]
            return (
              <li key={id}>
                <span className="flex justify-between gap-3">
                  {title}
                  <span className="figures whitespace-nowrap">
                    {given ?? '–'} of {points}
                  </span>
                </span>
                <span
                  aria-hidden="true"
                  className="drawn relative mt-1 block h-1.5 rounded-full border border-line-strong bg-line"
                >
                  <span
                    className="absolute inset-y-0 left-0 rounded-full bg-seat"
                    style={{ width: `${(100 * (given ?? 0)) / points}%` }}
                  />
                </span>
                {levels.length > 1 && (
                  <span className="flex justify-between text-xs text-faint">
                    {levels.map((level) => (
                      <span key={level}>{level}</span>
                    ))}
                  </span>
                )}
              </li>
            )
          })}
        </ul>
      )}
      {mark.feedback && <p className="mt-2 border-t tear pt-2 whitespace-pre-line">{mark.feedback}</p>}
      {children}
    </section>
  )
}

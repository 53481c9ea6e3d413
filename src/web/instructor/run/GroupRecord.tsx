import { ledger } from '../../../contract/ledger.ts'
import type { RunView } from '../../../contract/seats.ts'
import { sayInstant } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'
import { namingOf } from '../record/naming.ts'
import { causeOf, entryWords } from '../record/words.ts'

/** The newest entries of the ledger that concern one group, and how each member came to sit there. */
export function useGroupRecord(view: RunView, group: string) {
  const { data } = useAnswer(ledger, { sheet: view.code }, { refreshInterval: 30_000 })
  if (!data) return null
  const naming = namingOf(data)
  const lines = data.entries.filter(
    ({ from, to, detail }) => from === group || to === group || detail.group === group,
  )
  const cameBy = new Map(
    lines.flatMap((line) =>
      line.to === group && line.person ? [[line.person, causeOf(line, naming)] as const] : [],
    ),
  )
  return { lines: lines.toReversed(), naming, cameBy }
}

/** A group's own record, folded away until it is wanted. */
export function GroupRecord({
  view,
  record,
}: {
  view: RunView
  record: NonNullable<ReturnType<typeof useGroupRecord>>
}) {
  const { lines, naming } = record
  return (
    <details className="mt-3 border-t tear pt-2">
      <summary className="cursor-pointer text-sm font-semibold text-soft">
        Record ({lines.length === 1 ? '1 entry' : `${lines.length} entries`})
      </summary>
      <ol className="mt-1 flex max-h-72 flex-col gap-1.5 overflow-auto text-sm">
        {lines.slice(0, 100).map((line) => (
          <li key={line.position}>
            {entryWords(line, naming)}
            <span className="figures block text-soft">
              {[sayInstant(line.at, view.course.zone), causeOf(line, naming)].filter(Boolean).join(', ')}
            </span>
          </li>
        ))}
      </ol>
      {lines.length === 0 && <p className="text-sm text-soft">Nothing happened here yet.</p>}
    </details>
  )
}

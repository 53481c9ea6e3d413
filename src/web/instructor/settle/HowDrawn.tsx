import { Dialog } from 'radix-ui'
import { useMemo, useState } from 'react'
import type { PlanContent, SettleView } from '../../../contract/plans.ts'
import { matches } from '../../../core/names.ts'
import type { Chances } from '../../../core/plan/chances.ts'
import type { PlanInput } from '../../../core/plan/types.ts'
import { DialogBox } from '../../kit/DialogBox.tsx'
import { ScrollBox } from '../../kit/ScrollBox.tsx'
import { SearchBox } from '../../kit/SearchBox.tsx'
import { drawnSentences, shareWords } from './drawnWords.ts'
import type { PlanNaming } from './naming.ts'
import { useChances } from './useChances.ts'

/** How a plan was drawn: the lot number, what was drawn among what, and the chances that each person had. */
export function HowDrawn({
  view,
  input,
  content,
  naming,
  onClose,
}: {
  view: SettleView
  input: PlanInput
  content: PlanContent
  naming: PlanNaming
  onClose: () => void
}) {
  const { chances, progress, fault } = useChances(input)
  const [typed, setTyped] = useState('')
  const sections = new Map(view.sections.map(({ code, name }) => [code, name]))
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <DialogBox title="How was this drawn?" width="large">
        <p>
          From lot number <strong className="figures">{content.settings.lotNumber}</strong>. Whoever plans
          again with the same number, from the same seats and rules, gets the same plan.
        </p>
        <ul className="list-disc pl-5">
          {drawnSentences(input, content, (section) => sections.get(section) ?? '').map((sentence) => (
            <li key={sentence}>{sentence}</li>
          ))}
        </ul>
        {fault && (
          <p role="alert" className="text-ember">
            {fault}
          </p>
        )}
        {!chances && !fault && (
          <p className="flex items-center gap-3 text-soft">
            <progress
              className="w-40 accent-seat"
              value={progress}
              max={1}
              aria-label="Share of the draws that are done"
            />
            Drawing the same plan with many other numbers…
          </p>
        )}
        {chances && (
          <>
            <div className="flex flex-wrap items-center justify-between gap-2 border-t tear pt-3">
              <p>The chances each had, counted over {chances.draws.toLocaleString('en')} lot numbers.</p>
              <SearchBox label="Search in the chances" value={typed} onValue={setTyped} />
            </div>
            <ChanceTable key={typed} chances={chances} content={content} naming={naming} typed={typed} />
          </>
        )}
      </DialogBox>
    </Dialog.Root>
  )
}

/** Groups named beside a person's own, the likeliest first. */
const OTHERS = 3

function ChanceTable({
  chances,
  content,
  naming,
  typed,
}: {
  chances: Chances
  content: PlanContent
  naming: PlanNaming
  typed: string
}) {
  const seat = useMemo(() => new Map(content.moves.map(({ person, to }) => [person, to])), [content])
  const rows = chances.people.filter(({ person }) => matches(typed, naming.person(person)))
  const [shown, setShown] = useState(60)
  if (rows.length === 0)
    return <p className="p-4 text-center text-soft">Nobody who was drawn is called that.</p>
  return (
    <ScrollBox label="Chances" className="max-h-[44vh] min-h-40">
      <table className="w-full border-collapse">
        <caption className="sr-only">The chances each had</caption>
        <thead className="sticky top-0 bg-surface">
          <tr className="border-b border-line text-left text-sm text-soft [&>th]:px-2 [&>th]:py-1.5 [&>th]:font-semibold">
            <th scope="col">Student</th>
            <th scope="col">Drawn here</th>
            <th scope="col">Chance of that</th>
            <th scope="col">Of other groups</th>
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, shown).map(({ person, groups }) => {
            const own = seat.get(person) ?? ''
            const share = (group: string) => (groups[group] ?? 0) / chances.draws
            const others = Object.keys(groups)
              .filter((group) => group !== own)
              .sort((a, b) => share(b) - share(a))
            const said = others.slice(0, OTHERS).map((group) => {
              const name = group === '' ? 'no group' : naming.group(group)
              return `${name} ${shareWords(share(group))}`
            })
            const more = others.length > OTHERS ? `, and ${others.length - OTHERS} more` : ''
            return (
              <tr key={person} className="border-b border-line [&>*]:px-2 [&>*]:py-1">
                <th scope="row" className="text-left font-semibold">
                  {naming.person(person)}
                </th>
                <td>{own === '' ? 'no group' : naming.group(own)}</td>
                <td className="figures">{shareWords(share(own))}</td>
                <td className="text-sm text-soft">{said.length > 0 ? said.join(', ') + more : 'none'}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {rows.length > shown && (
        <button
          type="button"
          className="m-2 min-h-9 rounded-field border border-line-strong px-3 font-semibold"
          onClick={() => setShown(shown + 200)}
        >
          Show {Math.min(200, rows.length - shown)} more
        </button>
      )}
    </ScrollBox>
  )
}

import type { ComposeView, SheetChanges } from '../../../contract/sheets.ts'
import { MOST_SEATS_EACH } from '../../../core/rules.ts'
import { Card, type ChangeSheet } from './Card.tsx'
import { typedNumber } from './cells.tsx'
import { RULES, type RuleWords } from './rules.ts'
import { useChosen } from './useChosen.ts'
import { useKept } from './useKept.ts'

/** The house rules as sentences with a choice each. */
export function HouseRulesCard({ view, change }: { view: ComposeView; change: ChangeSheet }) {
  const { rules, mayEdit } = view
  const each = useKept(String(rules.seatsEach), (typed) =>
    change({ seatsEach: typedNumber(typed) ?? 1 }, { seatsEach: rules.seatsEach }),
  )
  return (
    <Card title="House rules">
      <ul className="flex flex-col">
        <li className="border-b tear py-1.5">
          <label className="flex items-center justify-between gap-3">
            Seats per student, up to
            <input
              inputMode="numeric"
              value={each.text}
              readOnly={!mayEdit}
              aria-invalid={each.fault ? true : undefined}
              onChange={(event) => each.change(event.target.value)}
              onBlur={each.flush}
              className="figures min-h-8 w-12 rounded-field border border-line-strong bg-surface text-center font-semibold aria-invalid:border-ember"
            />
          </label>
          <p className={`text-sm ${each.fault ? 'text-ember' : 'text-faint'}`}>
            {each.fault?.field('seatsEach') ??
              each.fault?.message ??
              (rules.seatsEach === 1
                ? 'Taking another seat is a move.'
                : `They may hold ${rules.seatsEach} seats, none at the same time as another. ${MOST_SEATS_EACH} is the most.`)}
          </p>
        </li>
        <Fixed rule="How seats are given" holds="as they come" notice="A seat is theirs at once." />
        {RULES.filter(({ asked }) => asked?.(rules) ?? true).map((words) => (
          <RuleLine key={words.rule} words={words} view={view} change={change} />
        ))}
      </ul>
    </Card>
  )
}

/** A rule that has one choice. */
function Fixed({ rule, holds, notice }: { rule: string; holds: string; notice: string }) {
  return (
    <li className="border-b tear py-1.5 last:border-0">
      <p className="flex justify-between gap-3">
        {rule} <strong className="text-right font-semibold">{holds}</strong>
      </p>
      <p className="text-sm text-faint">{notice}</p>
    </li>
  )
}

/** One rule: its sentence, its choice, and what students will notice of it. */
function RuleLine({ words, view, change }: { words: RuleWords; view: ComposeView; change: ChangeSheet }) {
  const { rule, label, choices } = words
  const { rules, mayEdit } = view
  const kept = useChosen<string>(rules[rule], (value) =>
    change({ [rule]: value } as SheetChanges, { [rule]: rules[rule] } as SheetChanges),
  )
  const chosen = choices.find(({ value }) => value === kept.value)
  return (
    <li className="border-b tear py-1.5 last:border-0">
      <label className="flex items-center justify-between gap-3">
        {label}
        <select
          value={kept.value}
          disabled={!mayEdit}
          onChange={({ target }) => void kept.choose(target.value)}
          className="min-h-8 max-w-48 rounded-field border border-line-strong bg-surface px-1.5 font-semibold disabled:opacity-100"
        >
          {choices.map(({ value, label }) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </select>
      </label>
      <p className="text-sm text-faint">
        {chosen?.notice}
        {rule === 'convener' && kept.value === 'lot' && ` Lot number ${view.lotNumber}.`}
      </p>
    </li>
  )
}

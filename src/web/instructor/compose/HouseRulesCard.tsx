import type { ComposeView, SheetChanges } from '../../../contract/sheets.ts'
import { MOST_SEATS_EACH } from '../../../core/rules.ts'
import { Card } from '../../kit/Card.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { typedNumber } from '../record/limits.ts'
import { FieldNotes } from './cells.tsx'
import { RULES, type RuleWords } from './rules.ts'
import type { Composing } from './useComposing.ts'
import { useChoice, useField } from './useField.ts'

/** The house rules as sentences with a choice each. */
export function HouseRulesCard({ view, composing }: { view: ComposeView; composing: Composing }) {
  const { rules, mayEdit } = view
  const each = useField({
    key: `compose ${view.code} seatsEach`,
    value: String(rules.seatsEach),
    keep: (typed, was) =>
      composing.sheet({ seatsEach: typedNumber(typed) ?? 1 }, { seatsEach: typedNumber(was) ?? 1 }),
    read: (next) => String(next.rules.seatsEach),
    refetch: composing.refetch,
  })
  return (
    <Card title="House rules">
      <ul className="flex flex-col">
        <li className="border-b tear py-1.5">
          <label className="flex items-center justify-between gap-3">
            Seats per student, up to
            <input
              inputMode="numeric"
              value={each.value}
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
          <FieldNotes field={{ ...each, fault: null }} />
        </li>
        {RULES.filter(({ asked }) => asked?.(rules) ?? true).map((words) => (
          <RuleLine key={words.rule} words={words} view={view} composing={composing} />
        ))}
      </ul>
    </Card>
  )
}

/** One rule: its sentence, its choice, and what students will notice of it. */
function RuleLine({ words, view, composing }: { words: RuleWords; view: ComposeView; composing: Composing }) {
  const { rule, label, choices } = words
  const { rules, mayEdit } = view
  const kept = useChoice<string>({
    key: `compose ${view.code} ${rule}`,
    value: rules[rule],
    keep: (value, was) => composing.sheet({ [rule]: value } as SheetChanges, { [rule]: was } as SheetChanges),
    read: (next) => next.rules[rule],
    refetch: composing.refetch,
  })
  const chosen = choices.find(({ value }) => value === kept.value)
  return (
    <li className="border-b tear py-1.5 last:border-0">
      <label className="flex items-center justify-between gap-3">
        {label}
        <Choice
          value={kept.value}
          disabled={!mayEdit}
          onValue={kept.change}
          className="max-w-48 font-semibold"
        >
          {choices.map(({ value, label }) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </Choice>
      </label>
      <FieldNotes field={kept} said={(value) => choices.find((one) => one.value === value)?.label ?? value} />
      <p className="text-sm text-faint">
        {chosen?.notice}
        {rule === 'convener' && kept.value === 'lot' && ` Lot number ${view.lotNumber}.`}
      </p>
    </li>
  )
}

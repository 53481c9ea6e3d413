import { Fragment } from 'react'
import type { ComposeView, SheetChanges } from '../../../contract/sheets.ts'
import { MOST_SEATS_EACH, type NumberRule } from '../../../core/rules.ts'
import { Card } from '../../kit/Card.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { typedNumber } from '../record/limits.ts'
import { RULES, type RuleWords } from '../record/rules.ts'
import { FieldNotes } from './cells.tsx'
import type { Composing } from './useComposing.ts'
import { useChoice, useField } from './useField.ts'

/** The house rules as sentences with a choice each. */
export function HouseRulesCard({ view, composing }: { view: ComposeView; composing: Composing }) {
  const { rules } = view
  return (
    <Card title="House rules">
      <ul className="flex flex-col">
        <NumberLine
          rule="seatsEach"
          label="Seats per student, up to"
          notice={
            rules.seatsEach === 1
              ? 'Taking another seat is a move.'
              : `They may hold ${rules.seatsEach} seats, none at the same time as another. ${MOST_SEATS_EACH} is the most.`
          }
          view={view}
          composing={composing}
        />
        {RULES.filter(({ asked }) => asked?.(rules) ?? true).map((words) => (
          <Fragment key={words.rule}>
            <RuleLine words={words} view={view} composing={composing} />
            {words.rule === 'road' && rules.road === 'wished' && (
              <WishNumbers view={view} composing={composing} />
            )}
          </Fragment>
        ))}
      </ul>
    </Card>
  )
}

/** How long lists of wishes are. */
function WishNumbers(props: { view: ComposeView; composing: Composing }) {
  const { wishesLeast, cannotMost, matesMost } = props.view.rules
  return (
    <>
      <NumberLine
        rule="wishesLeast"
        label="They rank at least"
        notice={`A list counts once it has ${wishesLeast === 1 ? 'a topic' : `${wishesLeast} topics`}, or every topic that is offered where those are fewer.`}
        {...props}
      />
      <NumberLine
        rule="wishesMost"
        label="They rank at most"
        notice="Topics past that cannot be added to a list."
        {...props}
      />
      <NumberLine
        rule="cannotMost"
        label="They can leave out as impossible"
        notice={
          cannotMost === 0
            ? 'Nobody can say that they cannot have a topic.'
            : `Up to ${cannotMost === 1 ? 'one topic' : `${cannotMost} topics`}, with a reason that you see. They never get it.`
        }
        {...props}
      />
      <NumberLine
        rule="matesMost"
        label="Mates they can name, up to"
        notice={
          matesMost === 0
            ? 'Nobody says with whom they would sit.'
            : 'By mail address. It counts once each has named all the others; they are seated together, or not, as each chose.'
        }
        {...props}
      />
    </>
  )
}

/** A rule that is a number, and what it means. */
function NumberLine({
  rule,
  label,
  notice,
  view,
  composing,
}: {
  rule: NumberRule
  label: string
  notice: string
  view: ComposeView
  composing: Composing
}) {
  const { rules, mayEdit } = view
  const field = useField({
    key: `compose ${view.code} ${rule}`,
    value: String(rules[rule]),
    keep: (typed, was) =>
      composing.sheet(
        { [rule]: typedNumber(typed) ?? rules[rule] },
        { [rule]: typedNumber(was) ?? rules[rule] },
      ),
    read: (next) => String(next.rules[rule]),
    refetch: composing.refetch,
  })
  return (
    <li className="border-b tear py-1.5">
      <label className="flex items-center justify-between gap-3">
        {label}
        <input
          inputMode="numeric"
          value={field.value}
          readOnly={!mayEdit}
          aria-invalid={field.fault ? true : undefined}
          onChange={(event) => field.change(event.target.value)}
          onBlur={field.flush}
          className="figures min-h-8 w-12 rounded-field border border-line-strong bg-surface text-center font-semibold aria-invalid:border-ember"
        />
      </label>
      <p className={`text-sm ${field.fault ? 'text-ember' : 'text-faint'}`}>
        {field.fault?.field(rule) ?? field.fault?.message ?? notice}
      </p>
      <FieldNotes field={{ ...field, fault: null }} />
    </li>
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

import { Dices } from 'lucide-react'
import type { SettleView } from '../../../contract/plans.ts'
import { rankWords } from '../../../contract/wishWords.ts'
import { counted } from '../../../core/counted.ts'
import { DEFAULT_ORDER } from '../../../core/names.ts'
import { SECTION_MARK } from '../../../core/pattern.ts'
import type { PlanMethod } from '../../../core/plan/types.ts'
import { type GroupCount, saySizes } from '../../../core/supply.ts'
import type { Priority } from '../../../core/wishes/rules.ts'
import { Button } from '../../kit/Button.tsx'
import { Card } from '../../kit/Card.tsx'
import { Check } from '../../kit/Check.tsx'
import { Choice } from '../../kit/Choice.tsx'
import {
  type Choices,
  COUNTS_IN,
  type CountsIn,
  countedBy,
  countsIn,
  firstMaking,
  type MadeIn,
  type Making,
  madeIn,
  nextRound,
  roundChosen,
} from './input.ts'
import { NameOrderFields } from './NameOrderFields.tsx'

const BY_WISHES = {
  value: 'wishes' as const,
  label: 'By wishes',
  notice: 'As students ranked the topics; who ranked nothing comes after the others, by lot.',
}

const METHODS: { value: PlanMethod; label: string; notice: string }[] = [
  {
    value: 'evenly',
    label: 'Evenly',
    notice: 'Sizes as even as can be; which groups get one more, and who goes where, is drawn.',
  },
  {
    value: 'lot',
    label: 'By lot',
    notice: 'Every free seat is as likely as any other, as far as floors and keepings let it.',
  },
  {
    value: 'surname',
    label: 'By surname',
    notice: 'In the order of the class list, through the groups in theirs.',
  },
]

/** How the rest are seated, and into which groups. */
export function HowCard({
  view,
  choices,
  change,
  refetch,
}: {
  view: SettleView
  choices: Choices
  change: (more: Partial<Choices>) => void
  /** Reads the page's view anew. */
  refetch: () => void
}) {
  const { method, making, lotNumber } = choices
  return (
    <Card title="How to seat the rest">
      <div role="radiogroup" aria-label="How to seat the rest" className="mt-2 flex flex-col gap-1.5">
        {(view.rules.road === 'wished' ? [BY_WISHES, ...METHODS] : METHODS).map(
          ({ value, label, notice }) => (
            <label
              key={value}
              className={`flex cursor-pointer items-start gap-2.5 rounded-field border px-3 py-1.5 ${method === value ? 'border-seat bg-seat-soft' : 'border-line-strong'}`}
            >
              <input
                type="radio"
                name="method"
                className="mt-1 accent-seat"
                checked={method === value}
                onChange={() => change({ method: value })}
              />
              <span>
                <span className="font-semibold">{label}</span>
                <span className="block text-sm text-soft">{notice}</span>
              </span>
            </label>
          ),
        )}
      </div>
      <label className="mt-3 flex flex-col gap-1 text-sm text-soft">
        Into
        <Choice
          value={making?.by ?? 'there'}
          onValue={(value) =>
            change({
              making:
                value === 'there'
                  ? null
                  : { ...(making ?? firstMaking(view)), by: value as GroupCount['by'] },
              pins: new Map(),
            })
          }
          className="font-semibold"
        >
          <option value="there">the groups there are</option>
          <option value="number">
            new groups: so many{view.sections.length > 0 && !making?.mixed && ' in each section'}
          </option>
          <option value="size">new groups: of about so many people</option>
          <option value="most">new groups: of at most so many people</option>
          <option value="least">new groups: of at least so many people</option>
        </Choice>
      </label>
      {making && (
        <>
          <label className="mt-2 flex items-center justify-between gap-2">
            {COUNTED[making.by]}
            <input
              type="number"
              min={1}
              max={200}
              value={making.n}
              onChange={({ target }) =>
                change({
                  making: { ...making, n: Math.max(1, Math.min(200, Math.round(Number(target.value) || 1))) },
                })
              }
              className="figures min-h-8 w-16 rounded-field border border-line-strong bg-surface text-center font-semibold"
            />
          </label>
          <Arithmetic view={view} made={madeIn(view, choices)} />
          {view.sections.length > 0 && (
            <Check
              checked={making.mixed}
              onValue={(mixed) => change({ making: { ...making, mixed }, pins: new Map() })}
            >
              Sections mixed
            </Check>
          )}
          <NamesOfGroups
            making={making}
            sections={!making.mixed && view.sections.length > 0}
            change={(more) => change({ making: { ...making, ...more } })}
          />
        </>
      )}
      {method === 'surname' && (
        <NameOrderFields
          course={view.course.code}
          order={view.basis.names ?? DEFAULT_ORDER}
          onChanged={refetch}
        />
      )}
      {method === 'wishes' && view.rules.seatsEach > 1 && (
        <WhichSeat view={view} choices={choices} change={change} />
      )}
      {method === 'wishes' && <WhatFirst choices={choices} change={change} />}
      {method !== 'surname' && (
        <div className="mt-3 border-t tear pt-2">
          <label className="flex items-center justify-between gap-2">
            Lot number
            <span className="flex items-center gap-1">
              <input
                inputMode="numeric"
                value={lotNumber}
                onChange={({ target }) =>
                  change({ lotNumber: Number(target.value.replace(/\D/g, '').slice(0, 9)) })
                }
                className="figures min-h-8 w-24 rounded-field border border-line-strong bg-surface px-2 text-right font-semibold"
              />
              <Button
                size="small"
                aria-label="Draw another lot number"
                onClick={() =>
                  change({ lotNumber: crypto.getRandomValues(new Uint32Array(1))[0]! % 100_000 })
                }
              >
                <Dices size={16} aria-hidden="true" />
              </Button>
            </span>
          </label>
          <p className="mt-1 text-sm text-faint">
            The same number draws the same plan again, so that anybody can check it.
          </p>
        </div>
      )}
    </Card>
  )
}

/** Which seat of each person is given, where everybody may hold several: one in each round. */
function WhichSeat({
  view,
  choices: { byWishes },
  change,
}: {
  view: SettleView
  choices: Choices
  change: (more: Partial<Choices>) => void
}) {
  const newest = nextRound(view)
  return (
    <label className="mt-3 flex flex-col gap-1 text-sm text-soft">
      Each is given
      <Choice
        value={String(roundChosen({ round: newest }, byWishes))}
        onValue={(value) => change({ byWishes: { ...byWishes, round: Number(value) }, pins: new Map() })}
        className="font-semibold"
      >
        {Array.from({ length: newest }, (_, i) => (
          <option key={rankWords(i + 1)} value={i + 1}>
            the {rankWords(i + 1)} seat
          </option>
        ))}
      </Choice>
      <span className="text-faint">
        {newest === 1
          ? `Up to ${view.rules.seatsEach} each: once this is applied, the next round gives the second, and the lot is gone through from its end.`
          : 'Who has fewer is seated once more: no topic twice, nothing at one time. Every second round goes through the lot from its end.'}
      </span>
    </label>
  )
}

/** What counts before what, once as few as can be are left. */
function WhatFirst({
  choices: { byWishes },
  change,
}: {
  choices: Choices
  change: (more: Partial<Choices>) => void
}) {
  return (
    <label className="mt-3 flex flex-col gap-1 text-sm text-soft">
      Nobody left comes first, then
      <Choice
        value={byWishes.order.join(' ')}
        onValue={(value) => change({ byWishes: { ...byWishes, order: value.split(' ') as Priority[] } })}
        className="font-semibold"
      >
        {ORDERS.map((order) => (
          <option key={order.join(' ')} value={order.join(' ')}>
            {order.map((one) => PRIORITIES[one]).join(', ')}
          </option>
        ))}
      </Choice>
      <span className="text-faint">
        Last come even sizes, through those for whom one seat is as good as another.
      </span>
    </label>
  )
}

const PRIORITIES: Record<Priority, string> = { floors: 'floors', moved: 'few moves', wishes: 'wishes' }
/** The usual order first. */
const ORDERS: readonly (readonly Priority[])[] = [
  ['floors', 'moved', 'wishes'],
  ['floors', 'wishes', 'moved'],
  ['moved', 'floors', 'wishes'],
  ['moved', 'wishes', 'floors'],
  ['wishes', 'floors', 'moved'],
  ['wishes', 'moved', 'floors'],
]

const COUNTED: Record<GroupCount['by'], string> = {
  number: 'Groups',
  size: 'People in each, about',
  most: 'People in each, at most',
  least: 'People in each, at least',
}

/** How the groups that are made are called. */
function NamesOfGroups({
  making,
  sections,
  change,
}: {
  making: Making
  /** Whether groups are made in each section. */
  sections: boolean
  change: (more: Partial<Making>) => void
}) {
  return (
    <div className="mt-2 flex items-end gap-2">
      <label className="flex min-w-0 flex-1 flex-col text-sm text-soft">
        Called (# counts{sections && `, ${SECTION_MARK} is the section`})
        <input
          value={making.pattern}
          maxLength={60}
          onChange={({ target }) => change({ pattern: target.value })}
          className="min-h-8 w-full rounded-field border border-line-strong bg-surface px-2"
        />
      </label>
      <label className="flex flex-col text-sm text-soft">
        in
        <Choice
          value={countsIn(making)}
          onValue={(value) => change(countedBy(value as CountsIn, making.pattern))}
        >
          {Object.entries(COUNTS_IN)
            .filter(([value]) => sections || value !== 'sections')
            .map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
        </Choice>
      </label>
    </div>
  )
}

/** What the numbers come to, per section. */
function Arithmetic({ view, made }: { view: SettleView; made: readonly MadeIn[] }) {
  const names = new Map(view.sections.map(({ code, name }) => [code, name]))
  return (
    <ul className="mt-1 text-sm text-soft">
      {made.map(({ section, people, sizes }) => (
        <li key={section ?? ''}>
          {section !== null && `${names.get(section)}: `}
          {people === 0 ? 'nobody to seat' : `${counted(people, 'person', 'people')}, ${saySizes(sizes)}`}
        </li>
      ))}
    </ul>
  )
}

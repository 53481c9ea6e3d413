import { useMemo, useState } from 'react'
import type { SentLimit } from '../../../contract/fields.ts'
import { type ComposeView, changeSheet } from '../../../contract/sheets.ts'
import { addTopics, changeLimits, removeTopic } from '../../../contract/topics.ts'
import { takesPeople } from '../../../core/groupState.ts'
import { NO_LIMIT } from '../../../core/limit.ts'
import { LIMITS } from '../../../core/limits.ts'
import { topicsOfPattern } from '../../../core/pattern.ts'
import { type Remedy, remediesFor } from '../../../core/remedies.ts'
import { evenSizes, rowsToSeat, saySizes, seatsCheck, seatsShort, sizesOf } from '../../../core/supply.ts'
import { call } from '../../data/call.ts'
import { Button } from '../../kit/Button.tsx'
import { Card } from '../../kit/Card.tsx'
import { sayLimit, sentLimit, typedLimit, typedNumber } from '../record/limits.ts'
import { FieldNotes } from './cells.tsx'
import { sectionName, supplyOf } from './supply.ts'
import type { Composing, SheetDeed } from './useComposing.ts'
import { type Field, useField } from './useField.ts'

/** Seats against students, per section, and the remedies: each shown before it is applied, each undone by one click. */
export function SeatsCheck({ view, composing }: { view: ComposeView; composing: Composing }) {
  const input = useMemo(() => supplyOf(view), [view])
  const supply = seatsCheck(input)
  const short = seatsShort(supply)
  const [looked, setLooked] = useState<Remedy | null>(null)
  const remedies = useMemo(
    () => remediesFor(rowsToSeat(input), input.groups, view.seats, LIMITS.seats),
    [input, view.seats],
  )
  const nowhere = view.topics.filter((topic) => !topic.groups.some(takesPeople))
  const shown = remedies.filter(({ kind }) => short > 0 || kind !== 'share-evenly')

  const apply = async (remedy: Remedy) => {
    setLooked(null)
    await composing.do({ ...workOf(remedy, view), said: 'Done: a seat for everybody.' })
  }
  return (
    <Card
      title="Seats check"
      tone={short > 0 ? 'border-ember/30 bg-ember-soft' : ''}
      aside={
        <span className={`text-sm font-semibold ${short > 0 ? 'text-ember' : 'text-moss'}`}>
          {view.students === 0 ? '' : short > 0 ? `${short} short` : 'a seat for everybody'}
        </span>
      }
    >
      {view.students === 0 ? (
        <p className="text-soft">Nobody is on the roster yet, so there is nothing to count against.</p>
      ) : (
        <ul className="figures flex flex-col gap-1">
          {supply.map(({ key, students, seats, spare, groups: count, cannotWork }) => (
            <li key={key ?? ''}>
              <span className="grid grid-cols-[1fr_auto_4.5rem] gap-x-3">
                <span>{sectionName(view, key)}</span>
                <span>
                  {Number.isFinite(seats)
                    ? `${seats} ${seats === 1 ? 'seat' : 'seats'} for ${students}`
                    : `no limit for ${students}`}
                </span>
                <span className={`text-right ${spare < 0 ? 'font-bold text-ember' : 'text-moss'}`}>
                  {spare < 0 ? `${-spare} short` : Number.isFinite(spare) ? `${spare} spare` : 'enough'}
                </span>
              </span>
              <span className="block text-sm text-soft">
                {count > 0 && students > 0 && `spread evenly: ${saySizes(evenSizes(students, count))}`}
                {view.seats !== NO_LIMIT && students > 0 && (
                  <span className="block">
                    {students} in groups of {view.seats}: {saySizes(sizesOf(students, view.seats))}
                  </span>
                )}
                {cannotWork > 0 && count > 0 && (
                  <span className="text-ember">
                    {' '}
                    · {cannotWork === 1 ? '1 group' : `${cannotWork} groups`} cannot reach the floor
                  </span>
                )}
              </span>
            </li>
          ))}
        </ul>
      )}
      {nowhere.length > 0 && (
        <p className="mt-2 text-sm text-sun-ink">
          Offered in no section: {nowhere.map(({ title }) => title).join(', ')}.
        </p>
      )}
      {view.mayEdit && shown.length > 0 && (
        <div className="mt-2.5 flex flex-wrap gap-1.5">
          {shown.map((remedy) => (
            <Button
              key={remedy.kind}
              size="small"
              aria-expanded={looked?.kind === remedy.kind}
              onClick={() => setLooked(looked?.kind === remedy.kind ? null : remedy)}
            >
              {remedyLabel(remedy)}
            </Button>
          ))}
        </div>
      )}
      {looked && (
        <div className="mt-2 rounded-field border border-line-strong bg-surface p-2.5">
          <p>{remedyWords(looked, view)}</p>
          <div className="mt-2 flex gap-2">
            <Button size="small" look="main" onClick={() => void apply(looked)}>
              Apply remedy
            </Button>
            <Button size="small" look="quiet" onClick={() => setLooked(null)}>
              Cancel
            </Button>
          </div>
        </div>
      )}
      <Common view={view} composing={composing} />
    </Card>
  )
}

function remedyLabel(remedy: Remedy): string {
  switch (remedy.kind) {
    case 'raise-common':
      return `Common limit ${remedy.seats}`
    case 'raise-groups':
      return remedy.changes.length === 1 ? 'Raise 1 group' : `Raise ${remedy.changes.length} groups`
    case 'add-topics':
      return remedy.count === 1 ? 'Add 1 topic' : `Add ${remedy.count} topics`
    case 'share-evenly':
      return 'Share evenly'
  }
}

/** What a remedy would change, before it is applied. */
function remedyWords(remedy: Remedy, view: ComposeView): string {
  switch (remedy.kind) {
    case 'raise-common':
      return `Every topic without a limit of its own gets ${remedy.seats} seats instead of ${sayLimit(view.seats)}.`
    case 'add-topics':
      return `${remedy.count} more with ${view.seats} seats in each section, to be named by you: ${newTitles(remedy.count, view).join(', ')}.`
    case 'raise-groups':
    case 'share-evenly':
      return `${changesInWords(remedy.changes, view)}. The others stay as they are.`
  }
}

function changesInWords(changes: readonly { code: string; seats: number }[], view: ComposeView): string {
  const said = changes.slice(0, 6).map(({ code, seats }) => {
    const topic = view.topics.find(({ groups }) => groups.some((group) => group.code === code))
    const group = topic?.groups.find((one) => one.code === code)
    const section = view.sections.length > 0 ? `, ${sectionName(view, group?.section ?? null)}` : ''
    return `${topic?.title}${section} to ${seats}`
  })
  return changes.length > said.length
    ? `${said.join('; ')}; and ${changes.length - said.length} more`
    : said.join('; ')
}

/** Titles for added topics that the sheet does not have yet. */
function newTitles(count: number, view: ComposeView): string[] {
  const taken = new Set(view.topics.map(({ title }) => title.toLowerCase()))
  const all = topicsOfPattern(
    { kind: 'numbers', pattern: 'Topic #', count: LIMITS.topics * 2, first: view.topics.length + 1 },
    LIMITS.topics * 2,
  )
  return all
    .map(({ title }) => title)
    .filter((title) => !taken.has(title.toLowerCase()))
    .slice(0, count)
}

/** How a remedy is sent, and how it is taken back. */
function workOf(remedy: Remedy, view: ComposeView): Pick<SheetDeed, 'work' | 'undo'> {
  const sheet = view.code
  if (remedy.kind === 'raise-common') {
    const [seats, was] = [remedy.seats, sentLimit(view.seats) ?? 1]
    return {
      work: (confirmed) => call(changeSheet, { sheet }, { seats, was: { seats: was }, confirmed }),
      undo: (confirmed) => call(changeSheet, { sheet }, { seats: was, was: { seats }, confirmed }),
    }
  }
  if (remedy.kind === 'add-topics') {
    const known = new Set(view.topics.map(({ code }) => code))
    let added: string[] = []
    return {
      work: async () => {
        const next = await call(
          addTopics,
          { sheet },
          { topics: newTitles(remedy.count, view).map((title) => ({ title })) },
        )
        added = next.topics.map(({ code }) => code).filter((code) => !known.has(code))
        return next
      },
      undo: async (confirmed) => {
        let last = view
        for (const topic of added) last = await call(removeTopic, { sheet, topic }, { confirmed })
        return last
      },
    }
  }
  const own = new Map(
    view.topics.flatMap(({ groups }) => groups.map((group) => [group.code, group.own.seats] as const)),
  )
  const after = remedy.changes.map(({ code, seats }) => ({
    group: code,
    seats: seats as SentLimit | null,
    was: sentLimit(own.get(code) ?? null),
  }))
  const before = after.map(({ group, seats, was }) => ({ group, seats: was, was: seats }))
  const send = (changes: typeof before) => (confirmed: boolean) =>
    call(changeLimits, { sheet }, { changes, confirmed })
  return { work: send(after), undo: send(before) }
}

function Common({ view, composing }: { view: ComposeView; composing: Composing }) {
  const seats = useField({
    key: `compose ${view.code} seats`,
    value: sayLimit(view.seats),
    keep: (typed, was) => composing.sheet({ seats: typedLimit(typed) ?? 1 }, { seats: typedLimit(was) ?? 1 }),
    read: (next) => sayLimit(next.seats),
    refetch: composing.refetch,
  })
  const floor = useField({
    key: `compose ${view.code} floor`,
    value: String(view.floor),
    keep: (typed, was) =>
      composing.sheet({ floor: typedNumber(typed) ?? 1 }, { floor: typedNumber(was) ?? 1 }),
    read: (next) => String(next.floor),
    refetch: composing.refetch,
  })
  const box = (kept: Field, label: string) => (
    <label className="flex items-center gap-2">
      {label}
      <input
        inputMode={label === 'Floor' ? 'numeric' : 'text'}
        readOnly={!view.mayEdit}
        aria-invalid={kept.fault ? true : undefined}
        value={kept.value}
        onChange={(event) => kept.change(event.target.value)}
        onBlur={kept.flush}
        onKeyDown={(event) => event.key === 'Enter' && kept.flush()}
        className="figures min-h-8 w-14 rounded-field border border-line-strong bg-surface text-center aria-invalid:border-ember"
      />
    </label>
  )
  return (
    <div className="mt-3 border-t tear pt-2.5">
      <div className="flex flex-wrap gap-x-4 gap-y-2">
        {box(seats, 'Seats per group')}
        {box(floor, 'Floor')}
      </div>
      <FieldNotes field={seats} path="seats" />
      <FieldNotes field={floor} path="floor" />
      <p className="mt-1 text-sm text-faint">
        They hold for every topic that has no number of its own. “none” is no limit.
      </p>
    </div>
  )
}

import { changeGroup, type GroupChanges, type GroupView, type TopicView } from '../../../contract/topics.ts'
import { call } from '../../data/call.ts'
import { Markdown } from '../../kit/Markdown.tsx'
import {
  CellFaults,
  FigureCell,
  SMALL,
  sayLimit,
  sayLocal,
  sentLimit,
  typedLimit,
  typedNumber,
} from './cells.tsx'
import { HeldSeats } from './HeldSeats.tsx'
import type { RowContext } from './TopicRow.tsx'
import { useChosen } from './useChosen.ts'
import { type Kept, useKept } from './useKept.ts'

/** What of a topic is wanted seldom: date and link, how its brief reads, and exceptions of single sections. */
export function TopicDetails({ topic, context }: { topic: TopicView; context: RowContext }) {
  const { zone, mayEdit, sections } = context
  const starts = useKept(sayLocal(topic.startsAt, zone), (typed) =>
    context.change(topic, { startsAt: typed || null }),
  )
  const ends = useKept(sayLocal(topic.endsAt, zone), (typed) =>
    context.change(topic, { endsAt: typed || null }),
  )
  const link = useKept(topic.link, (typed) => context.change(topic, { link: typed }))
  return (
    <div className="ml-10 border-t tear px-2 pt-2 pb-3">
      <div className="flex flex-wrap items-end gap-3">
        <TimeField label="Starts" kept={starts} readOnly={!mayEdit} />
        <TimeField label="Ends" kept={ends} readOnly={!mayEdit} />
        <label className="flex min-w-48 flex-1 flex-col text-sm text-soft">
          Meeting link
          <input
            type="url"
            value={link.text}
            readOnly={!mayEdit}
            placeholder="https://"
            onChange={(event) => link.change(event.target.value)}
            onBlur={link.flush}
            className={SMALL}
          />
        </label>
      </div>
      <CellFaults
        fields={[
          { path: 'startsAt', kept: starts },
          { path: 'endsAt', kept: ends },
          { path: 'link', kept: link },
        ]}
      />
      {/[*_[`#>-]/.test(topic.brief) && (
        <div className="mt-2 text-sm text-soft">
          <p className="font-semibold">How the brief reads</p>
          <Markdown text={topic.brief} inline />
        </div>
      )}
      <div className="mt-3 overflow-x-auto">
        <table className="w-full min-w-[44rem] border-collapse text-left text-sm">
          <caption className="sr-only">Exceptions of {topic.title} by section</caption>
          <thead className="text-soft">
            <tr>
              {[
                sections.length > 0 ? 'Section' : 'Group',
                'Seats',
                'Floor',
                'Place',
                'Starts',
                'Ends',
                'Kept free',
              ].map((head) => (
                <th key={head} scope="col" className="px-1 pb-1 font-semibold">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {topic.groups.map((group) => (
              <GroupLine key={group.code} group={group} topic={topic} context={context} />
            ))}
          </tbody>
        </table>
      </div>
    </div>
  )
}

function TimeField({ label, kept, readOnly }: { label: string; kept: Kept; readOnly: boolean }) {
  return (
    <label className="flex flex-col text-sm text-soft">
      {label}
      <input
        type="datetime-local"
        value={kept.text}
        readOnly={readOnly}
        onChange={(event) => kept.change(event.target.value)}
        onBlur={kept.flush}
        className={SMALL}
      />
    </label>
  )
}

/** The exceptions of one section's group. */
function GroupLine({ group, topic, context }: { group: GroupView; topic: TopicView; context: RowContext }) {
  const { code: sheet, zone, mayEdit, sections, edit } = context
  const name = sections.find(({ code }) => code === group.section)?.name ?? 'Everybody'
  const { own } = group
  const change = (patch: GroupChanges, before: GroupChanges) =>
    edit(
      (confirmed) => call(changeGroup, { sheet, group: group.code }, { ...patch, confirmed }),
      (confirmed) => call(changeGroup, { sheet, group: group.code }, { ...before, confirmed }),
    )
  const offered = useChosen(group.offered, (chosen) =>
    change({ offered: chosen }, { offered: group.offered }),
  )
  const seats = useKept(sayLimit(own.seats), (typed) =>
    change({ seats: typedLimit(typed) }, { seats: sentLimit(own.seats) }),
  )
  const floor = useKept(own.floor === null ? '' : String(own.floor), (typed) =>
    change({ floor: typedNumber(typed) }, { floor: own.floor }),
  )
  const place = useKept(own.place ?? '', (typed) => change({ place: typed || null }, { place: own.place }))
  const local = (instant: string | null) => sayLocal(instant, zone) || null
  const starts = useKept(sayLocal(own.startsAt, zone), (typed) =>
    change({ startsAt: typed || null }, { startsAt: local(own.startsAt) }),
  )
  const ends = useKept(sayLocal(own.endsAt, zone), (typed) =>
    change({ endsAt: typed || null }, { endsAt: local(own.endsAt) }),
  )
  const label = (what: string) => `${what} of ${topic.title}, ${name}`
  return (
    <>
      <tr className={group.offered ? '' : 'text-faint'}>
        <th scope="row" className="px-1 py-0.5 font-normal whitespace-nowrap">
          <label className="flex min-h-8 items-center gap-2">
            <input
              type="checkbox"
              checked={offered.value}
              disabled={!mayEdit}
              onChange={(event) => void offered.choose(event.target.checked)}
              className="size-4 accent-seat"
            />
            {name}
            {!group.offered && ' (not offered)'}
          </label>
        </th>
        <td className="w-16 px-1">
          <FigureCell
            kept={seats}
            label={label('Seats')}
            followed={sayLimit(topic.seats ?? context.seats)}
            readOnly={!mayEdit}
          />
        </td>
        <td className="w-16 px-1">
          <FigureCell
            kept={floor}
            label={label('Floor')}
            followed={String(topic.floor ?? context.floor)}
            readOnly={!mayEdit}
          />
        </td>
        <td className="px-1">
          <input
            aria-label={label('Place')}
            value={place.text}
            readOnly={!mayEdit}
            placeholder={topic.place}
            onChange={(event) => place.change(event.target.value)}
            onBlur={place.flush}
            className={SMALL}
          />
        </td>
        {[
          { kept: starts, what: 'Start' },
          { kept: ends, what: 'End' },
        ].map(({ kept, what }) => (
          <td key={what} className="w-44 px-1">
            <input
              type="datetime-local"
              aria-label={label(what)}
              value={kept.text}
              readOnly={!mayEdit}
              onChange={(event) => kept.change(event.target.value)}
              onBlur={kept.flush}
              className={SMALL}
            />
          </td>
        ))}
        <td className="px-1">
          <HeldSeats
            group={group}
            sheet={sheet}
            mayEdit={mayEdit}
            label={label('Seat kept free')}
            edit={edit}
          />
        </td>
      </tr>
      <tr>
        <td colSpan={7}>
          <CellFaults
            fields={[
              { path: 'seats', kept: seats },
              { path: 'floor', kept: floor },
              { path: 'place', kept: place },
              { path: 'startsAt', kept: starts },
              { path: 'endsAt', kept: ends },
            ]}
          />
        </td>
      </tr>
    </>
  )
}

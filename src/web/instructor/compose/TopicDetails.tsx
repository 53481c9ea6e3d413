import { changeTopic } from '../../../contract/topics.ts'
import type { GroupView, TopicView } from '../../../contract/topicViews.ts'
import { takesPeople } from '../../../core/groupState.ts'
import { call } from '../../data/call.ts'
import { Check } from '../../kit/Check.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { Markdown } from '../../kit/Markdown.tsx'
import { sentTime, TimeInput } from '../../kit/TimeField.tsx'
import { sayLimit, typedLimit, typedNumber } from '../record/limits.ts'
import { CellFaults, FigureCell, SMALL } from './cells.tsx'
import { HeldSeats } from './HeldSeats.tsx'
import type { RowContext } from './rowContext.ts'
import { groupField, groupIn, same, topicField } from './topicField.ts'
import { closeOrOpen } from './useComposing.ts'
import { type Field, useChoice, useField, useTimeField } from './useField.ts'

/** What of a topic is wanted seldom: date and link, how its brief reads, and exceptions of single sections. */
export function TopicDetails({ topic, context }: { topic: TopicView; context: RowContext }) {
  const { mayEdit, sections } = context
  const starts = useTimeField(topicField(topic, context, 'startsAt', sentTime))
  const ends = useTimeField(topicField(topic, context, 'endsAt', sentTime))
  const link = useField(topicField(topic, context, 'link', same))
  return (
    <div className="ml-10 border-t tear px-2 pt-2 pb-3">
      <div className="flex flex-wrap items-end gap-3">
        <TimeCell label="Starts" kept={starts} readOnly={!mayEdit} />
        <TimeCell label="Ends" kept={ends} readOnly={!mayEdit} />
        <label className="flex min-w-48 flex-1 flex-col text-sm text-soft">
          Meeting link
          <input
            type="url"
            value={link.value}
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
      {sections.length > 0 && (
        <label className="mt-3 flex items-center gap-2 text-sm text-soft">
          {topic.title} has
          <Choice
            value={topic.mixed === null ? 'sheet' : topic.mixed ? 'mixed' : 'each'}
            disabled={!mayEdit}
            onValue={(value) => spread(context, topic, value === 'sheet' ? null : value === 'mixed')}
          >
            <option value="sheet">groups as the sheet says</option>
            <option value="each">a group in each section</option>
            <option value="mixed">one group for everybody</option>
          </Choice>
        </label>
      )}
      <div className="mt-3 overflow-x-auto">
        <table className="w-full min-w-[52rem] border-collapse text-left text-sm">
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

/** Gives a topic one group for everybody, or one in each section; an undo brings back who sat there. */
function spread({ code: sheet, composing }: RowContext, topic: TopicView, mixed: boolean | null): void {
  const at = { sheet, topic: topic.code }
  void composing.do({
    work: (confirmed) => call(changeTopic, at, { mixed, confirmed }),
    undo: (confirmed) => call(changeTopic, at, { mixed: topic.mixed, bringBack: true, confirmed }),
    ask: { title: `Change the groups of ${topic.title}?`, yes: 'Change groups' },
    said: `The groups of ${topic.title} are changed.`,
  })
}

function TimeCell({ label, kept, readOnly }: { label: string; kept: Field; readOnly: boolean }) {
  return (
    <div className="flex w-60 flex-col text-sm text-soft">
      {label}
      <TimeInput
        aria-label={label}
        value={kept.value}
        readOnly={readOnly}
        onValue={kept.change}
        onLeave={kept.flush}
        className={SMALL}
      />
    </div>
  )
}

/** The exceptions of one section's group. */
function GroupLine({ group, topic, context }: { group: GroupView; topic: TopicView; context: RowContext }) {
  const { code: sheet, mayEdit, sections, composing } = context
  const name = sections.find(({ code }) => code === group.section)?.name ?? 'Everybody'
  const offered = useChoice({
    key: `compose ${sheet} group ${group.code} offered`,
    value: takesPeople(group),
    keep: (chosen) => closeOrOpen(context, group.code, `${topic.title}, ${name}`, chosen),
    read: (view) => {
      const there = groupIn(view, group.code)
      return there !== undefined && takesPeople(there)
    },
    refetch: composing.refetch,
  })
  const seats = useField(groupField(group, context, 'seats', typedLimit))
  const floor = useField(groupField(group, context, 'floor', typedNumber))
  const place = useField(groupField(group, context, 'place', (typed) => typed || null))
  const starts = useTimeField(groupField(group, context, 'startsAt', sentTime))
  const ends = useTimeField(groupField(group, context, 'endsAt', sentTime))
  const label = (what: string) => `${what} of ${topic.title}, ${name}`
  return (
    <>
      <tr className={takesPeople(group) ? '' : 'text-faint'}>
        <th scope="row" className="px-1 py-0.5 font-normal whitespace-nowrap">
          <Check checked={offered.value} disabled={!mayEdit} onValue={offered.change}>
            {name}
            {!takesPeople(group) && ' (not offered)'}
          </Check>
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
            value={place.value}
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
          <td key={what} className="w-56 px-1">
            <TimeInput
              aria-label={label(what)}
              value={kept.value}
              readOnly={!mayEdit}
              onValue={kept.change}
              onLeave={kept.flush}
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
            composing={composing}
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

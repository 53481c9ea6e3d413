import { X } from 'lucide-react'
import { type ReactNode, useEffect } from 'react'
import { Link } from 'react-router'
import type { RunView } from '../../../contract/seats.ts'
import { counted } from '../../../core/counted.ts'
import { NO_LIMIT } from '../../../core/limit.ts'
import { sayInstant, saySlot } from '../../../core/zone.ts'
import { IconButton } from '../../kit/IconButton.tsx'
import { PipRow } from '../../kit/Pip.tsx'
import { AddressesOf } from '../AddressesOf.tsx'
import { DROP, SCROLLS, useDraggedOver } from './drops.ts'
import { GroupRecord, useGroupRecord } from './GroupRecord.tsx'
import { GroupTools } from './GroupTools.tsx'
import { PersonChip } from './PersonChip.tsx'
import { PickList } from './PickList.tsx'
import { isPicked, pickKey } from './picks.ts'
import { Tutors } from './Tutors.tsx'
import type { Seating } from './useSeating.ts'

/** One group, beside the field: who sits there, since when and how they came to; and what can be changed of it. */
export function GroupPanel({
  view,
  group,
  seating,
  onChanged,
  onClose,
  children,
}: {
  view: RunView
  group: RunView['groups'][number]
  seating: Seating
  /** Called when something of the group was changed. */
  onChanged: () => void
  onClose: () => void
  /** What stands before who sits there. */
  children?: ReactNode
}) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => event.key === 'Escape' && !event.defaultPrevented && onClose()
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [onClose])
  const isOver = useDraggedOver(group.code)
  const record = useGroupRecord(view, group.code)
  const topic = view.topics.find(({ code }) => code === group.topic)
  const section = view.sections.find(({ code }) => code === group.section)
  const away = new Set(view.away.map(({ code }) => code))
  const names = new Map([...view.people, ...view.away].map(({ code, name }) => [code, name]))
  const members = view.seats.filter((seat) => seat.group === group.code)
  const list = members
    .filter(({ person }) => !away.has(person))
    .map(({ person }) => ({ person, from: group.code }))
  /** What stands below a member's name. */
  const standing = (person: string, at: string) =>
    [
      person === group.convener && 'answers for the group',
      away.has(person) && 'not active',
      `since ${sayInstant(at, view.course.zone)}`,
      record?.cameBy.get(person),
    ]
      .filter(Boolean)
      .join(', ')
  const own = (person: string) => ({
    to: `/courses/${view.course.code}/people/${person}`,
    name: names.get(person) ?? '',
  })
  const missing = Math.max(0, group.floor - members.length)
  const mayPick = view.maySeat === 'all' || (view.maySeat === 'own' && group.tutors.includes(view.you))
  return (
    <aside
      {...{ [DROP]: group.code, [SCROLLS]: '' }}
      aria-label="Group"
      className={`w-72 overflow-auto border-l border-line bg-surface px-4 py-3 max-lg:w-auto max-lg:border-t ${isOver ? 'outline-2 -outline-offset-2 outline-seat outline-dashed' : ''}`}
    >
      <div className="flex items-start justify-between gap-2">
        <div>
          <h2 className="text-lg">{topic?.title}</h2>
          {group.called && <p className="text-soft">called {group.called}</p>}
          <p className="text-soft">{[section?.name, group.place].filter(Boolean).join(' · ')}</p>
          {(view.mayEdit || group.tutors.includes(view.you)) && (
            <Link
              to={`/sheets/${view.code}/groups/${group.code}`}
              className="text-seat underline underline-offset-2"
            >
              Group page
            </Link>
          )}
        </div>
        <IconButton icon={X} name="Close the group" onClick={onClose} className="-mr-1" />
      </div>
      {group.startsAt && (
        <p className="figures text-soft">{saySlot(group.startsAt, group.endsAt, view.course.zone)}</p>
      )}
      {children}
      <p className="mt-2 flex items-center gap-2">
        <PipRow taken={members.length} seats={group.seats} held={group.held} />
        <span className="figures text-soft">
          {group.seats === NO_LIMIT
            ? `${members.length}, no limit`
            : `${members.length} of ${counted(group.seats, 'seat')}`}
          {group.held > 0 && `, ${group.held} kept free`}
        </span>
      </p>
      {missing > 0 && (
        <p className="mt-1 font-semibold text-ember">
          {missing === 1 ? '1 more is' : `${missing} more are`} needed to reach the floor of {group.floor}.
        </p>
      )}
      {mayPick ? (
        <PickList
          label="Members"
          list={list}
          seating={seating}
          className="mt-3 flex flex-col gap-1 border-t tear pt-2"
        >
          {(reached) =>
            members.map(({ person, at }) => (
              <div key={person}>
                {away.has(person) ? (
                  <span className="block font-semibold">{names.get(person)}</span>
                ) : (
                  <PersonChip
                    person={person}
                    from={group.code}
                    name={names.get(person) ?? ''}
                    pip="taken"
                    picked={isPicked(seating.picks, { person, from: group.code })}
                    reached={reached === pickKey({ person, from: group.code })}
                    wide
                  />
                )}
                {/* A list to pick from holds no links: whoever is picked has one in the bar below. */}
                <span className="figures block px-1 text-sm text-soft">{standing(person, at)}</span>
              </div>
            ))
          }
        </PickList>
      ) : (
        <ul className="mt-3 flex flex-col gap-1 border-t tear pt-2">
          {members.map(({ person, at }) => (
            <li key={person}>
              <span className="block font-semibold">{names.get(person)}</span>
              <PersonLink {...own(person)}>{standing(person, at)}</PersonLink>
            </li>
          ))}
        </ul>
      )}
      {members.length === 0 && <p className="text-soft">Nobody sits here yet.</p>}
      {members.length > 0 && (
        <div className="mt-2">
          <AddressesOf sheet={view.code} people={members.map(({ person }) => person)} of="this group" />
        </div>
      )}
      {group.line.length > 0 && (
        <div className="mt-3">
          <h3 className="text-base">In line</h3>
          <ol className="list-decimal pl-5">
            {group.line.map((person) => (
              <li key={person}>
                <Link className="hover:underline" to={own(person).to}>
                  {names.get(person)}
                </Link>
              </li>
            ))}
          </ol>
        </div>
      )}
      {view.mayEdit && (
        <GroupTools view={view} group={group} members={members} names={names} onChanged={onChanged} />
      )}
      <Tutors view={view} group={group} onChanged={onChanged} />
      {record && <GroupRecord view={view} record={record} />}
    </aside>
  )
}

/** How somebody sits in the group, as the way to all that there is of them. */
function PersonLink({ to, name, children }: { to: string; name: string; children: string }) {
  return (
    <Link
      to={to}
      aria-label={`${name}: ${children}`}
      title={`All there is of ${name}`}
      className="figures block px-1 text-sm text-soft hover:underline"
    >
      {children}
    </Link>
  )
}

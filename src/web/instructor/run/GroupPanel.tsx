import { X } from 'lucide-react'
import { useEffect } from 'react'
import type { RunView } from '../../../contract/seats.ts'
import { NO_LIMIT } from '../../../core/limit.ts'
import { sayInstant, saySlot } from '../../../core/zone.ts'
import { PipRow } from '../../kit/Pip.tsx'

/** One group, beside the field: who sits there and since when. */
export function GroupPanel({
  view,
  group,
  mayEdit,
  onConvener,
  onTutors,
  onClose,
}: {
  view: RunView
  group: RunView['groups'][number]
  mayEdit: boolean
  onConvener: (person: string | null) => Promise<void>
  onTutors: (tutors: string[]) => Promise<void>
  onClose: () => void
}) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => event.key === 'Escape' && !event.defaultPrevented && onClose()
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [onClose])
  const topic = view.topics.find(({ code }) => code === group.topic)
  const section = view.sections.find(({ code }) => code === group.section)
  const away = new Set(view.away.map(({ code }) => code))
  const names = new Map([...view.people, ...view.away].map(({ code, name }) => [code, name]))
  const members = view.seats.filter((seat) => seat.group === group.code)
  const missing = Math.max(0, group.floor - members.length)
  return (
    <aside
      aria-label="Group"
      className="w-72 overflow-auto border-l border-line bg-surface px-4 py-3 max-lg:w-auto max-lg:border-t"
    >
      <div className="flex items-start justify-between gap-2">
        <div>
          <h2 className="text-lg">{topic?.title}</h2>
          <p className="text-soft">{[section?.name, group.place].filter(Boolean).join(' · ')}</p>
        </div>
        <button
          type="button"
          aria-label="Close the group"
          onClick={onClose}
          className="-mr-1 grid size-8 place-items-center rounded-field hover:bg-seat-soft"
        >
          <X size={18} aria-hidden="true" />
        </button>
      </div>
      {group.startsAt && (
        <p className="figures text-soft">{saySlot(group.startsAt, group.endsAt, view.course.zone)}</p>
      )}
      <p className="mt-2 flex items-center gap-2">
        <PipRow taken={members.length} seats={group.seats} held={group.held} />
        <span className="figures text-soft">
          {group.seats === NO_LIMIT
            ? `${members.length}, no limit`
            : `${members.length} of ${group.seats} seats`}
          {group.held > 0 && `, ${group.held} kept free`}
        </span>
      </p>
      {missing > 0 && (
        <p className="mt-1 font-semibold text-ember">
          {missing === 1 ? '1 more is' : `${missing} more are`} needed to reach the floor of {group.floor}.
        </p>
      )}
      <ol className="mt-3 border-t tear">
        {members.map(({ person, at }) => (
          <li key={person} className="border-b border-line py-1.5">
            <span className="block font-semibold">
              {names.get(person)}
              {person === group.convener && (
                <span className="font-normal text-soft"> · answers for the group</span>
              )}
              {away.has(person) && <span className="font-normal text-sun-ink"> · not active</span>}
            </span>
            <span className="figures text-sm text-soft">since {sayInstant(at, view.course.zone)}</span>
          </li>
        ))}
      </ol>
      {view.rules.convener === 'named' && mayEdit && members.length > 0 && (
        <label className="mt-3 flex flex-col gap-1 text-sm text-soft">
          Who answers for the group
          <select
            value={group.convener ?? ''}
            onChange={({ target }) => void onConvener(target.value || null)}
            className="min-h-9 rounded-field border border-line-strong bg-surface px-2 text-ink"
          >
            <option value="">nobody yet</option>
            {members.map(({ person }) => (
              <option key={person} value={person}>
                {names.get(person)}
              </option>
            ))}
          </select>
        </label>
      )}
      {members.length === 0 && <p className="mt-3 text-soft">Nobody sits here yet.</p>}
      {group.line.length > 0 && (
        <div className="mt-3">
          <h3 className="text-base">In line</h3>
          <ol className="list-decimal pl-5">
            {group.line.map((person) => (
              <li key={person}>{names.get(person)}</li>
            ))}
          </ol>
        </div>
      )}
      <Tutors view={view} group={group} mayEdit={mayEdit} onTutors={onTutors} />
    </aside>
  )
}

/** Who looks after the group, and for instructors the choice. */
function Tutors({
  view,
  group,
  mayEdit,
  onTutors,
}: {
  view: RunView
  group: RunView['groups'][number]
  mayEdit: boolean
  onTutors: (tutors: string[]) => Promise<void>
}) {
  const named = view.staff.filter(({ code }) => group.tutors.includes(code)).map(({ name }) => name)
  if (!mayEdit)
    return (
      <p className="mt-3 text-sm text-soft">
        {named.length > 0 ? `Looked after by ${named.join(', ')}.` : 'Nobody looks after it yet.'}
      </p>
    )
  return (
    <fieldset className="mt-3 border-t tear pt-2">
      <legend className="sr-only">Who looks after this group</legend>
      <p className="text-sm text-soft">Looked after by</p>
      {view.staff.map(({ code, name }) => (
        <label key={code} className="flex min-h-8 items-center gap-2">
          <input
            type="checkbox"
            className="size-4 accent-seat"
            checked={group.tutors.includes(code)}
            onChange={({ target }) =>
              void onTutors(
                target.checked ? [...group.tutors, code] : group.tutors.filter((one) => one !== code),
              )
            }
          />
          {name}
        </label>
      ))}
    </fieldset>
  )
}

import type { RunView } from '../../../contract/seats.ts'
import { assignTutors } from '../../../contract/topics.ts'
import { counted } from '../../../core/counted.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Check } from '../../kit/Check.tsx'

interface Change {
  group: string
  add: string[]
  remove: string[]
}

/** Who looks after the group, and for instructors the choice. */
export function Tutors({
  view,
  group,
  onChanged,
}: {
  view: RunView
  group: RunView['groups'][number]
  onChanged: () => void
}) {
  const act = useAct()
  // Whoever left the course looks after nothing, and is not named.
  const staff = new Set(view.staff.map(({ code }) => code))
  const named = view.staff.filter(({ code }) => group.tutors.includes(code)).map(({ name }) => name)
  if (!view.mayEdit)
    return (
      <p className="mt-3 text-sm text-soft">
        {named.length > 0 ? `Looked after by ${named.join(', ')}.` : 'Nobody looks after it yet.'}
      </p>
    )
  const assign = (changes: Change[], said: string) => {
    const send = (body: Change[]) => call(assignTutors, { sheet: view.code }, { changes: body })
    return act.do({
      work: () => send(changes),
      undo: () => send(changes.map((one) => ({ ...one, add: one.remove, remove: one.add }))),
      put: onChanged,
      refetch: onChanged,
      said,
      // Ticked one after the other on a slow line, each counts.
      line: `tutors ${view.code}`,
    })
  }
  const tick = (code: string, name: string, on: boolean) =>
    void assign(
      [{ group: group.code, add: on ? [code] : [], remove: on ? [] : [code] }],
      on ? `${name} looks after it.` : `${name} does not look after it any more.`,
    )
  /** Gives other groups the same people as this one has. */
  const asHere = (groups: string[]) => {
    const others = view.groups.filter(({ code }) => groups.includes(code) && code !== group.code)
    const changes = others.map((one) => ({
      group: one.code,
      add: group.tutors.filter((code) => staff.has(code) && !one.tutors.includes(code)),
      remove: one.tutors.filter((code) => staff.has(code) && !group.tutors.includes(code)),
    }))
    const wanted = changes.filter(({ add, remove }) => add.length + remove.length > 0)
    if (wanted.length > 0)
      void assign(
        wanted,
        `${counted(groups.length, 'group is', 'groups are')} looked after by the same people.`,
      )
  }
  const ofTopic = view.groups.filter(({ topic }) => topic === group.topic).map(({ code }) => code)
  const ofSection = view.groups.filter(({ section }) => section === group.section).map(({ code }) => code)
  return (
    <details className="mt-3 border-t tear pt-2" open={named.length > 0}>
      <summary className="cursor-pointer text-sm font-semibold text-soft">
        Looked after by {named.length > 0 ? named.join(', ') : 'nobody yet'}
      </summary>
      <fieldset className="mt-1">
        <legend className="sr-only">Who looks after this group</legend>
        {view.staff.map(({ code, name }) => (
          <Check key={code} checked={group.tutors.includes(code)} onValue={(on) => tick(code, name, on)}>
            {name}
          </Check>
        ))}
        <p className="mt-1 flex flex-wrap gap-x-3 text-sm">
          {ofTopic.length > 1 && (
            <button
              type="button"
              className="text-seat underline underline-offset-2"
              onClick={() => asHere(ofTopic)}
            >
              The same for this topic everywhere
            </button>
          )}
          {ofSection.length > 1 && group.section !== null && (
            <button
              type="button"
              className="text-seat underline underline-offset-2"
              onClick={() => asHere(ofSection)}
            >
              The same for the whole section
            </button>
          )}
        </p>
      </fieldset>
    </details>
  )
}

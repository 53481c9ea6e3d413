import type { RunView } from '../../../contract/seats.ts'
import { assignTutors } from '../../../contract/topics.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Check } from '../../kit/Check.tsx'

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
  const named = view.staff.filter(({ code }) => group.tutors.includes(code)).map(({ name }) => name)
  if (!view.mayEdit)
    return (
      <p className="mt-3 text-sm text-soft">
        {named.length > 0 ? `Looked after by ${named.join(', ')}.` : 'Nobody looks after it yet.'}
      </p>
    )
  const assign = (groups: string[], tutors: string[]) => {
    const before = new Map(view.groups.map((one) => [one.code, one.tutors]))
    const send = (body: { groups: string[]; tutors: string[] }) =>
      call(assignTutors, { sheet: view.code }, body)
    return act.do({
      work: () => send({ groups, tutors }),
      undo: async () => {
        const [first, ...rest] = groups.map((one) => ({
          groups: [one],
          tutors: [...(before.get(one) ?? [])],
        }))
        let answer = await send(first ?? { groups, tutors })
        for (const one of rest) answer = await send(one)
        return answer
      },
      put: onChanged,
      refetch: onChanged,
      said:
        groups.length === 1 ? 'Who looks after it is changed.' : `${groups.length} groups have the same now.`,
    })
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
          <Check
            key={code}
            checked={group.tutors.includes(code)}
            onValue={(on) =>
              void assign(
                [group.code],
                on ? [...group.tutors, code] : group.tutors.filter((one) => one !== code),
              )
            }
          >
            {name}
          </Check>
        ))}
        <p className="mt-1 flex flex-wrap gap-x-3 text-sm">
          {ofTopic.length > 1 && (
            <button
              type="button"
              className="text-seat underline underline-offset-2"
              onClick={() => void assign(ofTopic, group.tutors)}
            >
              The same for this topic everywhere
            </button>
          )}
          {ofSection.length > 1 && group.section !== null && (
            <button
              type="button"
              className="text-seat underline underline-offset-2"
              onClick={() => void assign(ofSection, group.tutors)}
            >
              The same for the whole section
            </button>
          )}
        </p>
      </fieldset>
    </details>
  )
}

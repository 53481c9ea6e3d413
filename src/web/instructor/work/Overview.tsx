import { useMemo, useRef, useState } from 'react'
import type { WorkState, WorkView } from '../../../contract/tasks.ts'
import { matches } from '../../../core/names.ts'
import { Choice } from '../../kit/Choice.tsx'
import { BOX } from '../../kit/Field.tsx'
import { useKey } from '../../kit/keys.ts'
import { ScrollBox } from '../../kit/ScrollBox.tsx'
import { useLongTable } from '../../kit/useLongTable.tsx'
import { PersonRow, ROW } from './PersonRow.tsx'
import { STATES, workOf } from './states.ts'

/** Everybody by task: how the work stands and what it got, with the way to the desk and to a seat. */
export function Overview({ view }: { view: WorkView }) {
  const [typed, setTyped] = useState('')
  const [section, setSection] = useState('')
  // Tutors read the work of the groups they look after, and no other.
  const [tutor, setTutor] = useState(view.mayEdit ? '' : view.you)
  const [group, setGroup] = useState('')
  const [byGroup, setByGroup] = useState(false)
  const search = useRef<HTMLInputElement>(null)
  const box = useRef<HTMLElement>(null)
  useKey('/', () => search.current?.focus())
  const titles = useMemo(() => new Map(view.topics.map(({ code, title }) => [code, title])), [view.topics])
  const groupsOf = useMemo(() => {
    const groups = new Map<string, string[]>()
    for (const { code, members } of view.groups)
      for (const member of members) groups.set(member, [...(groups.get(member) ?? []), code])
    return groups
  }, [view.groups])
  const groupsByCode = useMemo(() => new Map(view.groups.map((one) => [one.code, one])), [view.groups])
  const sectionNames = new Map(view.sections.map(({ code, name }) => [code, name]))
  const labelOf = (code: string) => titles.get(groupsByCode.get(code)?.topic ?? '') ?? ''
  const inOrder = useMemo(() => new Map(view.groups.map(({ code }, i) => [code, i])), [view.groups])
  const placeOf = (person: string) => inOrder.get(groupsOf.get(person)?.[0] ?? '') ?? view.groups.length
  const sorted = view.people
  const found = sorted.filter((person) => {
    const own = groupsOf.get(person.code) ?? []
    if (section !== '' && person.section !== section) return false
    if (group === 'none' ? own.length > 0 : group !== '' && !own.includes(group)) return false
    if (tutor !== '' && !own.some((code) => groupsByCode.get(code)?.tutors.includes(tutor))) return false
    return typed === '' || matches(typed, person.name, ...own.map(labelOf))
  })
  const people = byGroup ? found.toSorted((a, b) => placeOf(a.code) - placeOf(b.code)) : found
  // Rows are drawn anew only when something in them changes, so what they are given is made once.
  const labelsOf = useMemo(
    () =>
      keptBy((person: string) =>
        (groupsOf.get(person) ?? [])
          .map((code) => titles.get(groupsByCode.get(code)?.topic ?? '') ?? '')
          .join(', '),
      ),
    [groupsOf, groupsByCode, titles],
  )
  const worksOf = useMemo(
    () =>
      keptBy((person: string) =>
        view.tasks.map((task) => workOf(person, groupsOf.get(person) ?? [], task, task.work)),
      ),
    [view.tasks, groupsOf],
  )
  const { shown, above, below } = useLongTable(box, people.length, ROW, 6)
  return (
    <section aria-labelledby="overview" className="flex flex-col gap-2">
      <div className="flex flex-wrap items-center gap-2">
        <h2 id="overview" className="mr-2 text-lg">
          Everybody
        </h2>
        {view.sections.length > 0 && (
          <Choice aria-label="Section" value={section} onValue={setSection}>
            <option value="">every section</option>
            {view.sections.map(({ code, name }) => (
              <option key={code} value={code}>
                {name}
              </option>
            ))}
          </Choice>
        )}
        <Choice aria-label="Group" value={group} onValue={setGroup}>
          <option value="">every group</option>
          <option value="none">no group</option>
          {view.groups
            .filter(({ members }) => members.length > 0)
            .map((one) => (
              <option key={one.code} value={one.code}>
                {labelOf(one.code)}
                {one.section && `, ${sectionNames.get(one.section)}`}
              </option>
            ))}
        </Choice>
        {view.mayEdit && view.tutors.length > 0 && (
          <Choice aria-label="Tutor" value={tutor} onValue={setTutor}>
            <option value="">every tutor</option>
            {view.tutors.map(({ code, name }) => (
              <option key={code} value={code}>
                {name}
              </option>
            ))}
          </Choice>
        )}
        <Choice
          aria-label="Order"
          value={byGroup ? 'group' : 'name'}
          onValue={(value) => setByGroup(value === 'group')}
        >
          <option value="name">by surname</option>
          <option value="group">by group</option>
        </Choice>
        <input
          ref={search}
          type="search"
          aria-label="Search by name or topic"
          placeholder="Search by name or topic  /"
          value={typed}
          onChange={({ target }) => setTyped(target.value)}
          className={`${BOX} ml-auto min-h-8 max-w-64`}
        />
      </div>
      <p className="flex flex-wrap gap-x-4 text-sm text-soft">
        {legendOf(view).map((state) => (
          <span key={state}>
            <span aria-hidden="true" className={STATES[state].look}>
              {STATES[state].sign}
            </span>{' '}
            {STATES[state].word}
          </span>
        ))}
      </p>
      <ScrollBox
        box={box}
        label="Everybody by task"
        className="max-h-[34rem] rounded-card border border-line bg-surface"
      >
        <table
          aria-rowcount={people.length + 1}
          className="w-full table-fixed border-separate border-spacing-0"
          style={{ minWidth: `${28 + view.tasks.length * 9}rem` }}
        >
          <caption className="sr-only">Work by person and task</caption>
          <thead className="sticky top-0 z-10 bg-surface">
            <tr className="text-left text-soft">
              <th scope="col" className="w-56 border-b border-line px-3 py-1.5 font-semibold">
                Student
              </th>
              <th scope="col" className="w-56 border-b border-line px-3 py-1.5 font-semibold">
                Group
              </th>
              {view.tasks.map((task) => (
                <th
                  key={task.code}
                  scope="col"
                  className="truncate border-b border-l border-line px-3 py-1.5 font-semibold"
                >
                  {task.title}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {above}
            {shown.map((index) => {
              const person = people[index]
              if (!person) return null
              const works = worksOf(person.code)
              return (
                <PersonRow
                  key={person.code}
                  sheet={view.code}
                  index={index}
                  person={person.code}
                  name={person.name}
                  labels={labelsOf(person.code)}
                  tasks={view.tasks}
                  works={works}
                />
              )
            })}
            {below}
          </tbody>
        </table>
        {people.length === 0 && <p className="p-6 text-center text-soft">Nobody is like that.</p>}
      </ScrollBox>
      <p className="text-sm text-faint">* set apart from the group’s mark</p>
    </section>
  )
}

/** The states that the table can have: those of what takes place only where something does. */
function legendOf({ tasks }: WorkView): WorkState[] {
  const handedIn = tasks.some(({ handsIn }) => handsIn)
  const takesPlace = tasks.some(({ work }) =>
    work.some(({ state }) => state === 'ahead' || state === 'took-place'),
  )
  return [
    ...(handedIn ? (['handed-in', 'late', 'missing', 'not-due'] as const) : []),
    ...(takesPlace ? (['took-place', 'ahead'] as const) : []),
    'no-group',
  ]
}

/** The same function, which remembers what it gave. */
function keptBy<Value>(make: (key: string) => Value): (key: string) => Value {
  const kept = new Map<string, Value>()
  return (key) => {
    const known = kept.get(key)
    if (known !== undefined) return known
    const value = make(key)
    kept.set(key, value)
    return value
  }
}

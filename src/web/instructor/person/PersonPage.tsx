import { Link, useParams } from 'react-router'
import { type PersonOnSheet, type PersonTask, type PersonView, personPage } from '../../../contract/people.ts'
import { sayInstant } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'
import { Awaited } from '../../kit/Awaited.tsx'
import { Card } from '../../kit/Card.tsx'
import { Frame } from '../../kit/Frame.tsx'
import { StateWord } from '../../kit/StateWord.tsx'
import { FindBox } from '../FindBox.tsx'
import { causeOf, entryWords, type Naming } from '../record/words.ts'

/** One person over all sheets of a course: groups, hand-ins and marks, requests, nudges, what was changed and by whom. */
export function PersonPage() {
  const { course = '', person = '' } = useParams()
  const answer = useAnswer(personPage, { course, person })
  return (
    <Awaited of={answer} what="the person" elsewhere={`/courses/${course}/roster`}>
      {(view) => <Person view={view} />}
    </Awaited>
  )
}

function Person({ view }: { view: PersonView }) {
  const { course, name, listed, number, email, section, role, status, attributes, lists } = view
  const roster = `/courses/${course.code}/roster`
  const meant = view.sheets.filter((one) => one.meant || one.changes.length > 0)
  const facts = [
    listed && `on the roster as ${listed}`,
    number && `student number ${number}`,
    section,
    role === 'student' ? null : role,
    status === 'active' ? null : status,
    ...Object.entries(attributes).flatMap(([column, value]) => (value ? [`${column}: ${value}`] : [])),
  ].filter(Boolean)
  return (
    <Frame
      title={name}
      crumbs={[
        { label: `${course.courseCode} ${course.title}`, to: `/courses/${course.code}` },
        { label: 'Roster', to: roster },
        { label: name },
      ]}
      find={<FindBox />}
    >
      <div className="mx-auto flex w-full max-w-[62rem] flex-col gap-4 px-10 py-6 max-sm:px-4">
        <div>
          <h1 className="text-[1.625rem]">{name}</h1>
          <p className="text-soft">
            <a className="font-semibold text-seat underline underline-offset-2" href={`mailto:${email}`}>
              {email}
            </a>
            {facts.length > 0 && ` · ${facts.join(' · ')}`}
          </p>
          {lists.length > 0 && <p className="text-sm text-soft">On the lists: {lists.join(', ')}</p>}
          <p className="mt-1">
            <Link className="font-semibold text-seat hover:underline" to={`${roster}?person=${view.code}`}>
              Edit on the roster
            </Link>
          </p>
        </div>
        {role !== 'student' && <p className="text-soft">Tutors and instructors have no seats.</p>}
        {role === 'student' && meant.length === 0 && (
          <p className="rounded-card border tear p-6 text-center text-soft">
            No sheet of the course is for {name}.
          </p>
        )}
        {meant.map((sheet, i) => {
          // Sheets of one title are told apart by how many there were before.
          const before = meant.slice(0, i).filter(({ title }) => title === sheet.title).length
          const label = before === 0 ? sheet.title : `${sheet.title}, ${before + 1}`
          return <OnSheet key={sheet.code} view={view} sheet={sheet} label={label} />
        })}
      </div>
    </Frame>
  )
}

function OnSheet({
  view,
  sheet,
  label,
}: {
  view: PersonView
  sheet: PersonOnSheet
  /** What its card is called among the others. */
  label: string
}) {
  const { zone } = view.course
  const naming: Naming = {
    person: () => view.name,
    group: (code) => (code === null ? 'a group' : (sheet.groups[code] ?? 'a group')),
    plan: () => null,
    topic: () => '',
    at: (instant) => sayInstant(instant, zone),
  }
  const when = naming.at
  const { visited, request } = sheet
  const out = sheet.state !== 'draft' && sheet.state !== 'scheduled'
  // While topics are ranked nobody has a group, and nobody lacks one.
  const lacks = out && !(sheet.road === 'wished' && sheet.state === 'open')
  const notes = [
    visited && `opened it first ${when(visited.first)}, last ${when(visited.last)}`,
    !visited && out && 'never opened it',
    sheet.nudges > 0 && (sheet.nudges === 1 ? '1 nudge' : `${sheet.nudges} nudges`),
    request && `asked to change ${when(request.madeAt)} (${request.state}): “${request.reason}”`,
  ].filter(Boolean)
  return (
    <Card
      title={sheet.title}
      label={label}
      aside={
        <span className="flex items-baseline gap-3">
          <Link
            className="font-semibold text-seat hover:underline"
            to={`/sheets/${sheet.code}`}
            aria-label={`To the sheet ${sheet.title}`}
          >
            To the sheet
          </Link>
          <StateWord state={sheet.state} road={sheet.road} />
        </span>
      }
    >
      {sheet.seats.length === 0 ? (
        <p className={lacks ? 'font-semibold text-ember' : 'text-soft'}>No group{lacks ? '' : ' yet'}</p>
      ) : (
        <ul>
          {sheet.seats.map(({ group, since, convener }) => (
            <li key={group}>
              <Link
                className="font-semibold text-seat hover:underline"
                to={`/sheets/${sheet.code}/groups/${group}`}
              >
                {naming.group(group)}
              </Link>
              <span className="text-soft">
                {' '}
                since {when(since)}
                {convener && ', answers for the group'}
              </span>
            </li>
          ))}
        </ul>
      )}
      {notes.length > 0 && <p className="text-sm text-soft">{notes.join(' · ')}</p>}
      {sheet.tasks.length > 0 && (
        <div className="mt-2 overflow-x-auto">
          <table className="w-full border-collapse text-left">
            <caption className="sr-only">Tasks of {sheet.title}</caption>
            <thead className="text-sm text-soft">
              <tr>
                <th scope="col" className="pr-4 font-semibold">
                  Task
                </th>
                <th scope="col" className="pr-4 font-semibold">
                  Handed in
                </th>
                <th scope="col" className="font-semibold">
                  Mark
                </th>
              </tr>
            </thead>
            <tbody>
              {sheet.tasks.map((task) => (
                <tr key={task.code} className="border-t border-line">
                  <th scope="row" className="py-1 pr-4 font-semibold">
                    {task.title}
                  </th>
                  <td className="figures py-1 pr-4">
                    {handedWords(task, when)}
                    {task.differs && <span className="text-soft"> · differs for them</span>}
                  </td>
                  <td className="figures py-1">
                    {task.points === null
                      ? 'open'
                      : `${task.points} of ${task.most}${task.released ? '' : ', not released'}`}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {sheet.changes.length > 0 && (
        <details className="mt-2">
          <summary className="cursor-pointer font-semibold">
            What was changed ({sheet.changes.length})
          </summary>
          <ul className="mt-1 text-sm">
            {sheet.changes.map((line) => {
              const cause = causeOf(line, naming)
              return (
                <li key={line.position} className="border-t border-line py-1">
                  <span className="figures text-soft">{when(line.at)}</span> {entryWords(line, naming)}
                  {cause && <span className="text-soft">, {cause}</span>}
                </li>
              )
            })}
          </ul>
        </details>
      )}
    </Card>
  )
}

/** How somebody's work for a task stands, in words. */
function handedWords({ handedAt, handsIn, late }: PersonTask, when: (at: string) => string): string {
  if (handedAt !== null) return `${when(handedAt)}${late ? ', late' : ''}`
  return handsIn ? 'not handed in' : 'nothing to hand in'
}

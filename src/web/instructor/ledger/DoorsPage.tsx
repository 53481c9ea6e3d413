import { useState } from 'react'
import { useParams } from 'react-router'
import { type RunView, run } from '../../../contract/seats.ts'
import { sayInstantWithYear, sayTime } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'
import { Awaited } from '../../kit/Awaited.tsx'
import { Button, ButtonLink } from '../../kit/Button.tsx'
import { columnsOf } from '../columns.ts'

/** The door list: for each section a page with its groups and who is in them, to print and pin up. */
export function DoorsPage() {
  const { sheet: code = '' } = useParams()
  const answer = useAnswer(run, { sheet: code })
  return (
    <Awaited of={answer} what="the door list" elsewhere={`/sheets/${code}`}>
      {(view) => <Doors data={view} />}
    </Awaited>
  )
}

function Doors({ data }: { data: RunView }) {
  const { code } = data
  const [byName, setByName] = useState(false)
  const people = data.sections.length > 0 ? data.sections : [null]
  const pages = byName ? people : columnsOf(data.sections, data.groups)
  return (
    <main id="page" className="mx-auto max-w-[52rem] px-8 py-6 print:max-w-none print:p-0">
      <title>{`Door list: ${data.title}`}</title>
      <div className="mb-5 flex flex-wrap items-center gap-2 print:hidden">
        <ButtonLink to={`/sheets/${code}/ledger`}>Back to the ledger</ButtonLink>
        <Button look="main" onClick={() => window.print()}>
          Print
        </Button>
        <Button aria-pressed={byName} onClick={() => setByName(!byName)}>
          {byName ? 'By group' : 'By name'}
        </Button>
        <p className="text-soft">One page for each section. It shows names: mind where you pin it up.</p>
      </div>
      {pages.map((section) => (
        <section
          key={section?.code ?? ''}
          className="mb-10 break-after-page last:break-after-auto print:mb-0"
        >
          <header className="flex items-end justify-between gap-4 border-b-2 border-ink pb-2">
            <div>
              <p className="text-soft">
                {data.course.courseCode} {data.course.title}
              </p>
              <h1 className="text-2xl">
                {data.title}
                {section && `, ${section.name}`}
              </h1>
            </div>
            <p className="figures text-sm text-soft">
              as of {sayInstantWithYear(data.now, data.course.zone)}
            </p>
          </header>
          {byName ? (
            <ByName view={data} section={section?.code ?? null} />
          ) : (
            <ByGroup view={data} section={section?.code ?? null} />
          )}
        </section>
      ))}
    </main>
  )
}

/** When a group meets, with the year: what is pinned up hangs there for long. */
function slot(startsAt: string, endsAt: string | null, zone: string): string {
  const from = sayInstantWithYear(startsAt, zone)
  if (endsAt === null) return from
  const to = sayInstantWithYear(endsAt, zone)
  const sameDay = from.split(',')[0] === to.split(',')[0]
  return `${from} to ${sameDay ? sayTime(endsAt, zone) : to}`
}

/** Who sits in each group, in the order of the class list. */
function membersIn(view: RunView): Map<string, { code: string; name: string }[]> {
  const groupsOf = new Map<string, string[]>()
  for (const { group, person } of view.seats) groupsOf.set(person, [...(groupsOf.get(person) ?? []), group])
  const members = new Map<string, { code: string; name: string }[]>()
  for (const { code, name } of view.people)
    for (const group of groupsOf.get(code) ?? [])
      members.set(group, [...(members.get(group) ?? []), { code, name }])
  return members
}

function ByGroup({ view, section }: { view: RunView; section: string | null }) {
  const members = membersIn(view)
  const order = new Map(view.topics.map(({ code }, i) => [code, i]))
  const titles = new Map(view.topics.map(({ code, title }) => [code, title]))
  const seated = new Set(view.seats.map(({ person }) => person))
  // Beside pages of sections, that of the groups for all has nobody of its own.
  const beside = section === null && view.groups.some((group) => group.section !== null)
  const without = view.people.filter(
    (person) => !beside && !seated.has(person.code) && (section === null || person.section === section),
  )
  const groups = view.groups
    .filter((group) => group.section === section)
    .sort((a, b) => (order.get(a.topic) ?? 0) - (order.get(b.topic) ?? 0))
  return (
    <ul className="columns-2 gap-8 pt-3 max-sm:columns-1">
      {groups.map((group) => (
        <li key={group.code} className="mb-4 break-inside-avoid">
          <h2 className="border-b tear text-base">{titles.get(group.topic)}</h2>
          <p className="figures text-sm text-soft">
            {[group.startsAt && slot(group.startsAt, group.endsAt, view.course.zone), group.place]
              .filter(Boolean)
              .join(', ')}
          </p>
          <ol>
            {(members.get(group.code) ?? []).map(({ code, name }) => (
              <li key={code}>
                {name}
                {code === group.convener && <span className="text-soft"> (answers for the group)</span>}
              </li>
            ))}
          </ol>
          {!members.has(group.code) && <p className="text-soft">nobody yet</p>}
        </li>
      ))}
      {without.length > 0 && (
        <li className="mb-4 break-inside-avoid">
          <h2 className="border-b tear text-base">No group yet</h2>
          <ul>
            {without.map(({ code, name }) => (
              <li key={code}>{name}</li>
            ))}
          </ul>
        </li>
      )}
    </ul>
  )
}

function ByName({ view, section }: { view: RunView; section: string | null }) {
  const titles = new Map(view.topics.map(({ code, title }) => [code, title]))
  const topics = new Map(view.groups.map(({ code, topic }) => [code, titles.get(topic)]))
  const places = new Map<string, string[]>()
  for (const { person, group } of view.seats)
    places.set(person, [...(places.get(person) ?? []), topics.get(group) ?? ''])
  const people = view.people.filter((person) => section === null || person.section === section)
  return (
    <ul className="columns-2 gap-8 pt-3 max-sm:columns-1">
      {people.map(({ code, name }) => (
        <li key={code} className="flex justify-between gap-3 border-b border-line py-0.5 break-inside-avoid">
          <span className="font-semibold">{name}</span>
          <span className="text-right">{places.get(code)?.join(', ') ?? 'no group yet'}</span>
        </li>
      ))}
    </ul>
  )
}

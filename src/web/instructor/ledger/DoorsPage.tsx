import { useState } from 'react'
import { useParams } from 'react-router'
import { type RunView, run } from '../../../contract/seats.ts'
import { bySurname } from '../../../core/names.ts'
import { sayInstant, saySlot } from '../../../core/zone.ts'
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
            <p className="figures text-sm text-soft">as of {sayInstant(data.now, data.course.zone)}</p>
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

function membersIn(view: RunView): Map<string, { code: string; name: string }[]> {
  const people = new Map(view.people.map(({ code, name }) => [code, name]))
  const members = new Map<string, { code: string; name: string }[]>()
  for (const { group, person } of view.seats) {
    const name = people.get(person)
    if (name === undefined) continue
    const own = members.get(group)
    if (own) own.push({ code: person, name })
    else members.set(group, [{ code: person, name }])
  }
  for (const own of members.values()) own.sort((a, b) => bySurname(a.name, b.name))
  return members
}

function ByGroup({ view, section }: { view: RunView; section: string | null }) {
  const members = membersIn(view)
  const order = new Map(view.topics.map(({ code }, i) => [code, i]))
  const titles = new Map(view.topics.map(({ code, title }) => [code, title]))
  const groups = view.groups
    .filter((group) => group.section === section)
    .sort((a, b) => (order.get(a.topic) ?? 0) - (order.get(b.topic) ?? 0))
  return (
    <ul className="columns-2 gap-8 pt-3 max-sm:columns-1">
      {groups.map((group) => (
        <li key={group.code} className="mb-4 break-inside-avoid">
          <h2 className="border-b tear text-base">{titles.get(group.topic)}</h2>
          <p className="figures text-sm text-soft">
            {[group.startsAt && saySlot(group.startsAt, group.endsAt, view.course.zone), group.place]
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
    </ul>
  )
}

function ByName({ view, section }: { view: RunView; section: string | null }) {
  const titles = new Map(view.topics.map(({ code, title }) => [code, title]))
  const topics = new Map(view.groups.map(({ code, topic }) => [code, titles.get(topic)]))
  const places = new Map<string, string[]>()
  for (const { person, group } of view.seats)
    places.set(person, [...(places.get(person) ?? []), topics.get(group) ?? ''])
  const people = view.people
    .filter((person) => section === null || person.section === section)
    .sort((a, b) => bySurname(a.name, b.name))
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

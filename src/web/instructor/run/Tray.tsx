import { type ReactNode, useRef, useState } from 'react'
import type { RunView } from '../../../contract/seats.ts'
import { matches, shortNames } from '../../../core/names.ts'
import type { Tally } from '../../../core/tally.ts'
import { BOX } from '../../kit/Field.tsx'
import { useKey } from '../../kit/keys.ts'
import { Pip } from '../../kit/Pip.tsx'
import { AddressesOf } from '../AddressesOf.tsx'
import { DROP, TRAY, useDraggedOver } from './drops.ts'
import { PersonChip } from './PersonChip.tsx'
import { PickList } from './PickList.tsx'
import { pickKey } from './picks.ts'
import type { Seating } from './useSeating.ts'

/** The tray: everybody who has no group yet, by section, searchable, to be picked and dragged. */
export function Tray({
  view,
  tally,
  pointed,
  section,
  onSection,
  seating,
}: {
  view: RunView
  tally: Tally
  pointed: string | null
  /** The section that is shown alone; null for all. */
  section: string | null
  onSection: (section: string | null) => void
  seating: Seating
}) {
  const [typed, setTyped] = useState('')
  const search = useRef<HTMLInputElement>(null)
  const isOver = useDraggedOver(TRAY)
  useKey('/', () => search.current?.focus())

  const left = new Set(tally.noGroup)
  const people = view.people.filter(({ code }) => left.has(code))
  const shown = people.filter(
    (person) => (section === null || person.section === section) && matches(typed, person.name),
  )
  const list = shown.map(({ code }) => ({ person: code, from: null }))
  const short = shortNames(view.sections.map(({ name }) => name))
  const sectionNames = new Map(view.sections.map(({ code }, i) => [code, short[i]]))
  const mayPick = view.maySeat !== 'none'
  const picked = new Set(seating.picks.flatMap(({ person, from }) => (from === null ? [person] : [])))
  if (people.length === 0) {
    if (view.people.length === 0) {
      return (
        <p className="border-t border-line px-5 py-4 text-soft">
          Nobody is on the roster yet, so nobody is without a group.
        </p>
      )
    }
    return (
      <p
        {...{ [DROP]: TRAY }}
        className={`flex items-center gap-2 border-t border-line bg-moss-soft px-5 py-4 font-semibold text-moss ${isOver ? 'outline-2 -outline-offset-2 outline-seat' : ''}`}
      >
        <Pip kind="taken" /> Everybody has a seat.
      </p>
    )
  }
  return (
    <section
      {...{ [DROP]: TRAY }}
      aria-labelledby="tray"
      className={`shrink-0 border-t border-line bg-ember-soft px-5 py-2 ${isOver ? 'outline-2 -outline-offset-2 outline-seat' : ''}`}
    >
      <div className="flex flex-wrap items-center gap-2">
        <h2 id="tray" className="mr-1 text-lg">
          No group yet
        </h2>
        <Choice pressed={section === null} onPress={() => onSection(null)}>
          All {people.length}
        </Choice>
        {tally.sections.map(({ code, name, left }) => (
          <Choice
            key={code}
            pressed={section === code}
            onPress={() => onSection(section === code ? null : code)}
          >
            {name} {left}
          </Choice>
        ))}
        <AddressesOf
          sheet={view.code}
          people={shown.map(({ code }) => code)}
          of={
            section === null && typed === ''
              ? 'those without a group'
              : `${shown.length} of those without a group`
          }
        />
        <input
          ref={search}
          type="search"
          aria-label="Search those who have no group"
          placeholder="Search by name  /"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Escape') {
              event.preventDefault()
              setTyped('')
              event.currentTarget.blur()
            }
          }}
          className={`${BOX} ml-auto min-h-8 max-w-60 max-sm:ml-0`}
        />
      </div>
      {mayPick ? (
        <PickList
          label="People without a group"
          list={list}
          seating={seating}
          className="mt-2 flex max-h-[5.75rem] flex-wrap gap-1.5 overflow-auto p-0.5"
        >
          {(reached) =>
            shown.map(({ code, name, section: own }) => (
              <PersonChip
                key={code}
                person={code}
                from={null}
                name={name}
                after={sectionNames.get(own ?? '')}
                pip="needs"
                picked={picked.has(code)}
                reached={reached === pickKey({ person: code, from: null })}
                pointed={code === pointed}
              />
            ))
          }
        </PickList>
      ) : (
        <ul className="mt-2 flex max-h-[5.75rem] flex-wrap gap-1.5 overflow-auto p-0.5">
          {shown.map(({ code, name, section: own }) => (
            <li
              key={code}
              className="flex items-center gap-2 rounded-field border border-line-strong bg-surface px-2.5 py-px"
            >
              <Pip kind="needs" size="tiny" />
              {name}
              {own && <span className="text-soft">{sectionNames.get(own)}</span>}
            </li>
          ))}
        </ul>
      )}
      {shown.length === 0 && (
        <p className="mt-2 text-soft">
          Nobody without a group is called that{section ? ' in this section' : ''}.
        </p>
      )}
    </section>
  )
}

function Choice({
  pressed,
  onPress,
  children,
}: {
  pressed: boolean
  onPress: () => void
  children: ReactNode
}) {
  return (
    <button
      type="button"
      aria-pressed={pressed}
      onClick={onPress}
      className={`figures min-h-7 rounded-field border px-2 text-sm font-semibold ${
        pressed ? 'border-seat-soft bg-seat-soft text-seat' : 'border-line-strong bg-surface'
      }`}
    >
      {children}
    </button>
  )
}

import type { ReactNode } from 'react'
import { NavLink } from 'react-router'
import type { SheetHead } from '../../contract/sheets.ts'
import { useNow } from '../data/clock.ts'
import { stateAt, stateWords } from '../data/state.ts'
import { Frame } from '../kit/Frame.tsx'
import { useStageKeys } from '../kit/keys.ts'
import { StateWord } from '../kit/StateWord.tsx'
import { ZoneNote } from '../kit/ZoneNote.tsx'
import { FindBox } from './FindBox.tsx'
import { KeysHelp } from './KeysHelp.tsx'

/** What stands above every stage of a sheet: title, state in words, the stages, and room for what acts on the whole. */
export function SheetFrame({
  sheet,
  note,
  aside,
  fit = false,
  children,
}: {
  sheet: SheetHead
  /** Said after the state, e.g. that everything is saved. */
  note?: ReactNode
  aside?: ReactNode
  /** Whether the stage fits itself into the window. */
  fit?: boolean
  children: ReactNode
}) {
  const now = useNow()
  useStageKeys(sheet.code)
  const stages = [
    { label: 'Compose', to: `/sheets/${sheet.code}/compose` },
    { label: 'Run', to: `/sheets/${sheet.code}/run` },
    { label: 'Settle', to: `/sheets/${sheet.code}/settle` },
    { label: 'Work', to: `/sheets/${sheet.code}/work` },
    { label: 'Ledger', to: `/sheets/${sheet.code}/ledger` },
  ]
  const course = `${sheet.course.courseCode} ${sheet.course.title}`
  return (
    <Frame
      fit={fit}
      title={sheet.title}
      crumbs={[{ label: course, to: `/courses/${sheet.course.code}` }, { label: sheet.title }]}
      find={<FindBox sheet={sheet} />}
    >
      <div className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2 border-b border-line px-5 pt-3">
        <div className="min-w-0">
          <h1 className="truncate text-[1.625rem]">{sheet.title}</h1>
          <p className="mt-1 flex flex-wrap items-center gap-x-2 text-soft">
            <StateWord state={stateAt(sheet, now)} road={sheet.rules.road} />
            <span className="figures">{stateWords(sheet, sheet.course.zone, now)}</span>
            {note}
          </p>
          <ZoneNote
            zone={sheet.course.zone}
            times={[
              { what: 'It opens', at: sheet.opensAt },
              { what: 'It closes', at: sheet.closesAt },
            ]}
          />
          <nav aria-label="Stages of the sheet" className="mt-2 flex flex-wrap gap-x-6 max-sm:gap-x-4">
            {stages.map(({ label, to }) => (
              <NavLink
                key={to}
                to={to}
                className={({ isActive }) =>
                  `drawn -mb-px border-b-[3px] pb-1.5 font-semibold ${isActive ? 'border-ember text-ink' : 'border-transparent text-soft hover:text-ink'}`
                }
              >
                {label}
              </NavLink>
            ))}
          </nav>
        </div>
        {aside}
      </div>
      {children}
      <KeysHelp />
    </Frame>
  )
}

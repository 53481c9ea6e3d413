import { Link } from 'react-router'
import { type StudentStub, studentHome } from '../../contract/seats.ts'
import { counted } from '../../core/counted.ts'
import { msOf } from '../../core/instant.ts'
import { sayLength } from '../../core/window.ts'
import { sayInstant, saySlot } from '../../core/zone.ts'
import { useAnswer } from '../data/answers.ts'
import { useNow } from '../data/clock.ts'
import { stateAt } from '../data/state.ts'
import { Pip, PipRow } from '../kit/Pip.tsx'
import { part } from '../kit/part.tsx'
import { Loading, Trouble } from '../kit/Waiting.tsx'

// Wanted seldom and never first.
const CalendarCard = part(async () => (await import('./CalendarCard.tsx')).CalendarCard)

/** The sheets of somebody who is a student: what still needs a group first, then seats held, then what is past. */
export function StudentSheets() {
  const now = useNow()
  const { data, error, mutate } = useAnswer(studentHome, {}, { refreshInterval: 30_000 })
  if (!data)
    return error ? <Trouble fault={error} retry={() => void mutate()} /> : <Loading what="your sheets" />
  const sheets = data.sheets.map((sheet) => ({ sheet, state: stateAt(sheet, now) }))
  const waits = (sheet: StudentStub) => sheet.ranked?.counts === true
  const needed = sheets.filter(
    ({ sheet, state }) =>
      sheet.seats.length === 0 && (state === 'scheduled' || (state === 'open' && !waits(sheet))),
  )
  // What is ranked waits for the close, or to be given out after it.
  const ranked = sheets.filter(
    ({ sheet, state }) =>
      waits(sheet) && sheet.seats.length === 0 && (state === 'open' || (state === 'closed' && !lacks(sheet))),
  )
  const seated = sheets.filter(({ sheet, state }) => sheet.seats.length > 0 && state !== 'archived')
  // Closed, but something of it waits: tasks that a group would open.
  const lacking = sheets.filter(
    ({ sheet, state }) => sheet.seats.length === 0 && state === 'closed' && lacks(sheet),
  )
  const past = sheets.filter(
    ({ sheet, state }) =>
      state === 'archived' ||
      (sheet.seats.length === 0 && state === 'closed' && !lacks(sheet) && !waits(sheet)),
  )
  needed.sort((a, b) => deadline(a.sheet, a.state).localeCompare(deadline(b.sheet, b.state)))
  const open = needed.filter(({ state }) => state === 'open').length
  return (
    <>
      {needed.length > 0 && (
        <section aria-labelledby="needed" className="flex flex-col gap-3">
          <h2 id="needed" className={`text-lg ${open > 0 ? 'text-ember' : ''}`}>
            {open === 0
              ? 'Opens soon'
              : open === 1
                ? 'You still need a group'
                : `You still need ${open} groups`}
          </h2>
          {needed.map(({ sheet, state }) => (
            <Needed key={sheet.code} sheet={sheet} open={state === 'open'} now={now} />
          ))}
        </section>
      )}
      {ranked.length > 0 && (
        <section aria-labelledby="ranked" className="flex flex-col gap-3">
          <h2 id="ranked" className="text-lg">
            Your wishes
          </h2>
          {ranked.map(({ sheet, state }) => (
            <Ranked key={sheet.code} sheet={sheet} open={state === 'open'} />
          ))}
        </section>
      )}
      {lacking.length > 0 && (
        <section aria-labelledby="lacking" className="flex flex-col gap-3">
          <h2 id="lacking" className="text-lg text-ember">
            You have no group, and work waits
          </h2>
          {lacking.map(({ sheet }) => (
            <Lacking key={sheet.code} sheet={sheet} />
          ))}
        </section>
      )}
      {needed.length === 0 &&
        lacking.length === 0 &&
        ranked.length === 0 &&
        seated.length > 0 &&
        sheets.every(({ sheet }) => sheet.tasks.open === 0 && sheet.swap === null) && (
          <p className="flex items-center gap-2 text-moss">
            <Pip kind="own" /> Nothing to do: you have a seat on every open sheet.
          </p>
        )}
      {seated.length > 0 && (
        <section aria-labelledby="seats" className="flex flex-col gap-3">
          <h2 id="seats" className="text-lg">
            Your seats
          </h2>
          {seated.map(({ sheet, state }) => (
            <Seated key={sheet.code} sheet={sheet} closed={state === 'closed'} />
          ))}
        </section>
      )}
      {seated.length > 0 && <CalendarCard of="student" />}
      {past.length > 0 && (
        <section aria-labelledby="past" className="flex flex-col gap-2">
          <h2 id="past" className="text-lg">
            Past
          </h2>
          {past.map(({ sheet }) => (
            <Link key={sheet.code} to={`/sheets/${sheet.code}`} className="text-soft hover:underline">
              {sheet.title} · {sheet.courseCode} ·{' '}
              {sheet.seats.length > 0
                ? sheet.seats.map(({ title }) => title).join(', ')
                : sheet.road === 'made'
                  ? 'your instructor makes the groups; you are in none yet'
                  : 'closed, and you have no group'}
            </Link>
          ))}
        </section>
      )}
      {sheets.length === 0 && (
        <p className="rounded-card border tear p-6 text-center text-soft">
          No sheet is out yet. When an instructor publishes one for you, it appears here.
        </p>
      )}
    </>
  )
}

/** Whether somebody without a seat is kept from tasks by that. */
const lacks = (sheet: StudentStub) => sheet.tasks.locked > 0

function deadline(sheet: StudentStub, state: string): string {
  return state === 'open' ? `0${sheet.closesAt ?? '~'}` : `1${sheet.opensAt ?? '~'}`
}

const CARD = 'block rounded-card border bg-surface hover:border-open'

function Course({ sheet }: { sheet: StudentStub }) {
  return (
    <p className="text-sm text-soft">
      {sheet.courseCode} {sheet.courseTitle}
      {sheet.section && ` · ${sheet.section}`}
    </p>
  )
}

/** A sheet on which what the student ranked counts, and whose seats are not given yet. */
function Ranked({ sheet, open }: { sheet: StudentStub; open: boolean }) {
  const topics = sheet.ranked?.topics ?? 0
  return (
    <Link to={`/sheets/${sheet.code}`} className={`${CARD} border-line px-4 py-3`}>
      <Course sheet={sheet} />
      <h3 className="text-lg">{sheet.title}</h3>
      <p>
        {topics === 1 ? '1 topic' : `${topics} topics`} ranked.{' '}
        {open && sheet.closesAt
          ? `You can change your order until ${sayInstant(sheet.closesAt, sheet.zone)}; seats are given after that.`
          : 'It has closed; seats are given by everybody’s wishes.'}
      </p>
    </Link>
  )
}

function Needed({ sheet, open, now }: { sheet: StudentStub; open: boolean; now: string }) {
  const instant = open ? sheet.closesAt : sheet.opensAt
  return (
    <Link to={`/sheets/${sheet.code}`} className={`${CARD} ${open ? 'border-ember' : 'border-line'}`}>
      <div className="px-4 pt-3 pb-3">
        <Course sheet={sheet} />
        <h3 className="text-lg">{sheet.title}</h3>
        {instant && (
          <p>
            {open ? 'closes' : 'opens'} in <strong>{sayLength(msOf(instant) - msOf(now))}</strong>,{' '}
            {sayInstant(instant, sheet.zone)}
          </p>
        )}
      </div>
      {sheet.invitations.map(({ title, from }) => (
        <p key={`${title}${from}`} className="border-t tear bg-seat-soft px-4 py-2">
          {from === null ? (
            'You are invited'
          ) : (
            <>
              <strong>{from}</strong> invites you
            </>
          )}{' '}
          to <strong>{title}</strong>.
        </p>
      ))}
      <div className="flex min-h-11 items-center justify-between gap-3 border-t tear px-4 py-2">
        <span className="flex items-center gap-2 text-soft">
          <Pip kind={open ? 'needs' : 'free'} />
          {!open
            ? `${counted(sheet.groups, 'topic')} to choose from`
            : sheet.ranked
              ? sheet.ranked.topics === 0
                ? `${counted(sheet.groups, 'topic')}, none ranked yet`
                : `${sheet.ranked.topics} ranked, too few to count`
              : `${sheet.groupsWithRoom} of ${counted(sheet.groups, 'topic')} with room`}
        </span>
        <span className="font-semibold text-seat">
          {!open ? 'Look at it' : sheet.ranked ? 'Rank them' : 'Choose now'}
        </span>
      </div>
    </Link>
  )
}

/** A sheet that closed without a seat for the student, whose tasks are locked for that. */
function Lacking({ sheet }: { sheet: StudentStub }) {
  const { locked } = sheet.tasks
  return (
    <div className={`${CARD} border-ember`}>
      <div className="px-4 pt-3 pb-3">
        <Course sheet={sheet} />
        <h3 className="text-lg">{sheet.title}</h3>
        <p>
          {locked === 1 ? '1 task is' : `${locked} tasks are`} locked for you until you have a group.{' '}
          {sheet.road === 'made'
            ? 'Your instructor makes the groups, and has not put you into one yet.'
            : 'The sheet is closed: your instructor can still seat you.'}
        </p>
      </div>
      <div className="flex min-h-11 flex-wrap items-center justify-between gap-x-4 border-t tear px-4">
        {sheet.contact ? (
          <a
            className="flex min-h-11 items-center font-semibold text-seat underline underline-offset-2"
            href={`mailto:${sheet.contact}?subject=${encodeURIComponent(`${sheet.title}: I have no group`)}`}
          >
            Ask for a group
          </a>
        ) : (
          <span />
        )}
        <Link
          to={`/sheets/${sheet.code}/tasks`}
          className="flex min-h-11 items-center font-semibold text-seat underline underline-offset-2"
        >
          See {locked === 1 ? 'the task' : 'the tasks'}
        </Link>
      </div>
    </div>
  )
}

function Seated({ sheet, closed }: { sheet: StudentStub; closed: boolean }) {
  const change = { 'until-close': 'you can move until', 'by-asking': 'open until', never: 'open until' }[
    sheet.changing
  ]
  return (
    <Link to={`/sheets/${sheet.code}`} className={`${CARD} border-line`}>
      <div className="px-4 pt-3 pb-3">
        <Course sheet={sheet} />
        <h3 className="text-lg">{sheet.title}</h3>
        {!closed && sheet.closesAt && (
          <p className="text-soft">
            {change} {sayInstant(sheet.closesAt, sheet.zone)}
          </p>
        )}
      </div>
      {sheet.seats.map((seat) => (
        <div key={`${seat.title}${seat.startsAt}`} className="flex flex-col gap-1 border-t tear px-4 py-3">
          <p className="flex flex-wrap items-center gap-x-3 gap-y-1">
            <PipRow taken={seat.taken} seats={seat.seats} own />
            <span>
              You sit at <strong>{seat.title}</strong>
              {seat.place && `, ${seat.place}`}
            </span>
          </p>
          {seat.startsAt && <p className="figures">{saySlot(seat.startsAt, seat.endsAt, sheet.zone)}</p>}
          <p className="text-sm text-soft">{matesWords(seat)}</p>
        </div>
      ))}
      {sheet.swap !== null && (
        <p className="border-t tear bg-seat-soft px-4 py-2">
          A swap to <strong>{sheet.swap}</strong> waits for your answer.
        </p>
      )}
      {sheet.tasks.open > 0 && (
        <p className="border-t tear px-4 py-2 font-semibold text-ember">
          {sheet.tasks.open === 1 ? '1 task' : `${sheet.tasks.open} tasks`} to hand in
        </p>
      )}
    </Link>
  )
}

function matesWords({ names, taken }: StudentStub['seats'][number]): string {
  if (names && names.length > 0) return `with ${names.join(', ')}`
  return taken > 1 ? `${taken - 1} more sit there.` : 'Nobody else sits there yet.'
}

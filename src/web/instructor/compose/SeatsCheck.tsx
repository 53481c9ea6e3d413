import { toast } from 'sonner'
import type { ComposeView } from '../../../contract/sheets.ts'
import { LIMITS } from '../../../core/limits.ts'
import { commonLimitThatSeatsAll, type SupplyInput, seatsCheck, seatsShort } from '../../../core/supply.ts'
import { Button } from '../../kit/Button.tsx'
import { Card, type ChangeSheet } from './SheetCards.tsx'
import { useKept } from './useKept.ts'

/** Seats against students, per section, with the common limit and floor, and a remedy where seats are short. */
export function SeatsCheck({ view, change }: { view: ComposeView; change: ChangeSheet }) {
  const { sections, groups } = supplyOf(view)
  const supply = seatsCheck({
    sections,
    groups: groups.map(({ section, seats }) => ({ section, seats: seats ?? view.seats })),
  })
  const short = seatsShort(supply)
  const names = new Map(view.sections.map(({ code, name }) => [code, name]))
  const nameOf = (key: string | null) => (key === null ? 'Everybody' : (names.get(key) ?? ''))
  const shortIn = supply.filter(({ spare }) => spare < 0).map(({ key }) => nameOf(key))
  const enough = short > 0 ? commonLimitThatSeatsAll(sections, groups, LIMITS.seats) : null
  const raise = async (seats: number) => {
    const before = view.seats
    const fault = await change({ seats })
    if (fault) return
    const back = () => void change({ seats: before })
    toast(`The common limit is ${seats} now.`, { duration: 10_000, action: { label: 'Undo', onClick: back } })
  }
  return (
    <Card
      title="Seats check"
      tone={short > 0 ? 'border-ember/30 bg-ember-soft' : ''}
      aside={
        <span className={`text-sm font-semibold ${short > 0 ? 'text-ember' : 'text-moss'}`}>
          {view.students === 0
            ? ''
            : short > 0
              ? `${short} short${shortIn.length === 1 && view.sections.length > 0 ? `, ${shortIn[0]}` : ''}`
              : 'a seat for everybody'}
        </span>
      }
    >
      {view.students === 0 ? (
        <p className="text-soft">Nobody is on the roster yet, so there is nothing to count against.</p>
      ) : (
        <ul className="figures grid grid-cols-[1fr_auto_auto] gap-x-4 gap-y-1">
          {supply.map(({ key, students, seats, spare }) => (
            <li key={key ?? ''} className="contents">
              <span>{nameOf(key)}</span>
              <span>
                {seats} {seats === 1 ? 'seat' : 'seats'} for {students}
              </span>
              <span className={`text-right ${spare < 0 ? 'font-bold text-ember' : 'text-moss'}`}>
                {spare < 0 ? `${-spare} short` : `${spare} spare`}
              </span>
            </li>
          ))}
        </ul>
      )}
      {enough !== null && view.mayEdit && enough > view.seats && (
        <Button size="small" className="mt-2.5" onClick={() => void raise(enough)}>
          Raise the common limit to {enough}
        </Button>
      )}
      <Common view={view} change={change} />
    </Card>
  )
}

function supplyOf(view: ComposeView): {
  sections: SupplyInput['sections']
  groups: { section: string | null; seats: number | null }[]
} {
  const sections =
    view.sections.length > 0
      ? view.sections.map(({ code, students }) => ({ key: code, students }))
      : [{ key: null, students: view.students }]
  const groups = view.topics.flatMap(({ seats, groups }) => groups.map(({ section }) => ({ section, seats })))
  return { sections, groups }
}

function Common({ view, change }: { view: ComposeView; change: ChangeSheet }) {
  const seats = useKept(String(view.seats), (typed) => change({ seats: Number(typed) }))
  const floor = useKept(String(view.floor), (typed) => change({ floor: Number(typed) }))
  const box = (kept: ReturnType<typeof useKept>, label: string) => (
    <label className="flex items-center gap-2">
      {label}
      <input
        inputMode="numeric"
        readOnly={!view.mayEdit}
        aria-invalid={kept.fault ? true : undefined}
        value={kept.text}
        onChange={(event) => kept.change(event.target.value)}
        onBlur={kept.flush}
        onKeyDown={(event) => event.key === 'Enter' && kept.flush()}
        className="figures min-h-8 w-12 rounded-field border border-line-strong bg-surface text-center aria-invalid:border-ember"
      />
    </label>
  )
  const fault =
    seats.fault?.field('seats') ?? floor.fault?.field('floor') ?? seats.fault?.message ?? floor.fault?.message
  return (
    <div className="mt-3 border-t tear pt-2.5">
      <div className="flex flex-wrap gap-x-4 gap-y-2">
        {box(seats, 'Seats per group')}
        {box(floor, 'Floor')}
      </div>
      {fault && (
        <p role="alert" className="mt-1 text-sm text-ember">
          {fault}
        </p>
      )}
      <p className="mt-1 text-sm text-faint">They hold for every topic that has no number of its own.</p>
    </div>
  )
}

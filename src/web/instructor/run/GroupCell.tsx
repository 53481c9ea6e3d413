import { memo } from 'react'
import type { RunView } from '../../../contract/seats.ts'
import { counted } from '../../../core/counted.ts'
import { isUnderFloor, NO_LIMIT, pastLimit } from '../../../core/limit.ts'
import { initials } from '../../../core/names.ts'
import { PipRow } from '../../kit/Pip.tsx'
import { DROP, PICK, useDraggedOver } from './drops.ts'
import { pickKey } from './picks.ts'
import { Caps, wantedWords } from './wished/Caps.tsx'
import type { Wanted } from './wished/wanted.ts'

/** How the people of a group are shown in the field. */
export type Shown = 'pips' | 'initials' | 'names'

/** Somebody as a cell shows them. */
export interface Named {
  code: string
  name: string
}

/** One group of the field: its pips, initials or names, and how it stands. People are dropped on it. */
export const GroupCell = memo(function GroupCell({
  label,
  group,
  taken,
  names,
  shown,
  yours,
  picked,
  dimmed,
  pointedPerson,
  mayDrag = false,
  wanted,
  onPick,
}: {
  label: string
  group: RunView['groups'][number]
  taken: number
  names: readonly Named[]
  shown: Shown
  /** Whether the reader looks after it. */
  yours: boolean
  picked: boolean
  /** Whether it is outside what is being looked for. */
  dimmed: boolean
  pointedPerson: string | null
  /** Whether those who sit there can be dragged elsewhere. */
  mayDrag?: boolean
  /** How much it is wanted, where topics are ranked. */
  wanted?: Wanted
  onPick: (group: string | null) => void
}) {
  const { seats, floor, held, line } = group
  const isOver = useDraggedOver(group.code)
  const low = isUnderFloor(taken, floor)
  const past = pastLimit(seats, taken)
  const full = seats !== NO_LIMIT && taken >= seats
  const of = seats === NO_LIMIT ? `${taken}` : `${taken}/${seats}`
  const standing = past > 0 ? `${of} +${past}` : `${of}${full ? ' full' : ''}`
  const said = [
    past > 0 ? `${past} past the limit` : full ? 'full' : '',
    low && !full ? `under the floor of ${floor}` : '',
    held > 0 ? `${held} kept free` : '',
    line.length > 0 ? `${line.length} in line` : '',
    yours ? 'yours to look after' : '',
    wanted ? wantedWords(wanted) : '',
  ]
    .filter(Boolean)
    .join(', ')
  return (
    <button
      {...{ [DROP]: group.code }}
      type="button"
      aria-pressed={picked}
      onClick={() => onPick(picked ? null : group.code)}
      className={`flex min-h-[2.0625rem] w-full items-center justify-between gap-3 px-3 text-left hover:bg-canvas ${
        picked ? 'bg-seat-soft outline-2 -outline-offset-2 outline-seat hover:bg-seat-soft' : ''
      } ${isOver ? 'bg-seat-soft outline-2 -outline-offset-2 outline-seat outline-dashed' : ''} ${dimmed ? 'opacity-35' : ''}`}
    >
      <span className="sr-only">
        {label}:{' '}
        {seats === NO_LIMIT
          ? `${counted(taken, 'seat')} taken, no limit`
          : `${taken} of ${counted(seats, 'seat')} taken`}
        {said && `, ${said}`}
        {shown !== 'pips' && names.length > 0 && `, by ${names.map(({ name }) => name).join(', ')}`}
      </span>
      {shown === 'pips' ? (
        <span className="flex flex-col gap-1 py-1">
          {wanted && <Caps wanted={wanted} seats={seats} />}
          <PipRow taken={taken} seats={seats} held={held} />
        </span>
      ) : (
        <span
          aria-hidden="true"
          className={`flex flex-wrap gap-x-1.5 gap-y-0.5 py-1 ${shown === 'names' ? 'text-sm' : 'text-xs font-semibold'}`}
        >
          {names.map(({ code, name }) => (
            <span
              key={code}
              {...(mayDrag && { [PICK]: pickKey({ person: code, from: group.code }) })}
              className={`${shown === 'initials' ? 'min-w-6 rounded-pip bg-seat px-1 text-center text-on-seat' : ''} ${
                code === pointedPerson ? 'outline-2 outline-seat' : ''
              }`}
            >
              {shown === 'initials' ? initials(name) : name}
            </span>
          ))}
        </span>
      )}
      <span aria-hidden="true" className="figures shrink-0 text-soft">
        {yours && (
          <span className="mr-1.5 rounded bg-seat-soft px-1 text-[0.8125rem] font-semibold text-seat">
            yours
          </span>
        )}
        {standing}
        {line.length > 0 && <span className="ml-1.5">+{line.length} in line</span>}
        {low && <span className="ml-1 text-[0.625rem] text-ember">▼</span>}
      </span>
    </button>
  )
})

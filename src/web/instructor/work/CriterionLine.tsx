import { type ReactNode, useRef } from 'react'
import { type Criterion, fitPoints, STEP } from '../../../core/marks.ts'

/** A group placed on the line before. */
export interface Placed {
  owner: string
  title: string
  points: number
}

/**
 * A criterion as a line: the group is placed on it by click, drag or key, among those placed before. Keys: arrows move
 * by half a point, digits place, Home and End go to the ends.
 */
export function CriterionLine({
  criterion,
  value,
  placed,
  disabled,
  note,
  onPlace,
  onGo,
}: {
  criterion: Criterion
  /** Points; undefined while not placed. */
  value: number | undefined
  placed: readonly Placed[]
  disabled: boolean
  /** Said under its title. */
  note?: ReactNode
  onPlace: (points: number) => void
  onGo: (owner: string) => void
}) {
  const { title, points, levels } = criterion
  const line = useRef<HTMLDivElement>(null)
  const dragging = useRef(false)
  const place = (clientX: number) => {
    const box = line.current?.getBoundingClientRect()
    if (!box || disabled) return
    onPlace(fitPoints(((clientX - box.left) / box.width) * points, points))
  }
  const stacks = new Map<number, Placed[]>()
  for (const one of placed) stacks.set(one.points, [...(stacks.get(one.points) ?? []), one])
  return (
    <div className="grid grid-cols-[11rem_minmax(0,1fr)_4rem] items-center gap-4 border-b tear py-1 last:border-0 max-sm:grid-cols-1 max-sm:gap-1">
      <div>
        <span className="font-semibold">{title}</span>
        {note}
      </div>
      <div className="relative h-12">
        <div className="absolute inset-x-0 bottom-[1.375rem]">
          {[...stacks].map(([at, group]) => (
            <span
              key={at}
              className="absolute bottom-0.5 flex -translate-x-1/2 flex-col-reverse gap-px"
              style={{ left: `${(100 * at) / points}%` }}
            >
              {group.slice(0, 3).map(({ owner, title }) => (
                <button
                  key={owner}
                  type="button"
                  tabIndex={-1}
                  aria-label={`Go to ${title}, placed at ${at}`}
                  title={`${title}: ${at}`}
                  onClick={() => onGo(owner)}
                  className="drawn h-[0.4375rem] w-[0.375rem] rounded-[2px] bg-open/70 hover:bg-seat"
                />
              ))}
            </span>
          ))}
        </div>
        <div
          ref={line}
          role="slider"
          tabIndex={disabled ? -1 : 0}
          aria-label={title}
          aria-valuemin={0}
          aria-valuemax={points}
          aria-valuenow={value ?? 0}
          aria-valuetext={value === undefined ? 'not placed yet' : `${value} of ${points}`}
          aria-disabled={disabled || undefined}
          onPointerDown={(event) => {
            if (disabled) return
            dragging.current = true
            event.currentTarget.setPointerCapture(event.pointerId)
            place(event.clientX)
          }}
          onPointerMove={(event) => dragging.current && place(event.clientX)}
          onPointerUp={() => {
            dragging.current = false
          }}
          onKeyDown={(event) => {
            const now = value ?? 0
            const step = { ArrowRight: STEP, ArrowUp: STEP, ArrowLeft: -STEP, ArrowDown: -STEP }[event.key]
            let next: number | null = null
            if (step !== undefined) next = now + step
            else if (event.key === 'Home') next = 0
            else if (event.key === 'End') next = points
            else if (/^\d$/.test(event.key)) next = Number(event.key)
            if (next === null || disabled) return
            event.preventDefault()
            onPlace(fitPoints(next, points))
          }}
          className="absolute inset-x-0 bottom-[0.875rem] flex h-4 cursor-pointer touch-none items-center rounded pointer-coarse:bottom-0 pointer-coarse:h-11"
        >
          <span className="drawn h-0.5 w-full bg-line-strong" />
          {value !== undefined && (
            <span
              className="drawn absolute h-[1.125rem] w-3.5 -translate-x-1/2 rounded-pip bg-ember"
              style={{ left: `${(100 * value) / points}%` }}
            />
          )}
        </div>
        <span
          aria-hidden="true"
          className="absolute inset-x-0 bottom-0 flex justify-between text-xs text-soft"
        >
          {levels.map((level) => (
            <span key={level}>{level}</span>
          ))}
        </span>
      </div>
      <span className="figures text-right font-bold">
        {value ?? '–'}
        <span className="font-normal text-soft">/{points}</span>
      </span>
    </div>
  )
}

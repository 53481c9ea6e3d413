import { useId, useMemo } from 'react'
import type { SheetHead } from '../../../contract/sheets.ts'
import { counted } from '../../../core/counted.ts'
import { HOUR, type Instant, instantFromMs, msOf } from '../../../core/instant.ts'
import { dayStarts, sayDay, sayInstant } from '../../../core/zone.ts'
import { useNow } from '../../data/clock.ts'
import { RulerHandle } from './RulerHandle.tsx'

const WIDTH = 620
const HEIGHT = 62
const BASE = 42
const BINS = 120

/** The window ruler: a time line with the window as a band, the seats taken over time in it, and a line for now. */
export function WindowRuler({
  sheet,
  seats,
  onChange,
}: {
  sheet: SheetHead
  seats: readonly { at: string }[]
  /** Moves an end of the window; left out, the ends cannot be moved. */
  onChange?: (end: 'opensAt' | 'closesAt', instant: Instant) => void
}) {
  const now = useNow(30_000)
  const { opensAt, closesAt, course } = sheet
  const span = useMemo(() => spanOf(opensAt, closesAt, now), [opensAt, closesAt, now])
  const instantAt = (clientX: number, target: SVGGraphicsElement) => {
    const matrix = target.getScreenCTM()
    const at = matrix ? (clientX - matrix.e) / matrix.a : 0
    return instantFromMs(span.from + (Math.max(0, Math.min(WIDTH, at)) / WIDTH) * (span.to - span.from))
  }
  const x = (instant: string) => (WIDTH * (msOf(instant) - span.from)) / (span.to - span.from)
  const ticks = thin(
    dayStarts(instantFromMs(span.from), instantFromMs(span.to), course.zone).filter(
      (day) => msOf(day) > span.from,
    ),
  )
  const curve = useMemo(() => curveOf(seats, span), [seats, span])
  const clip = useId()
  if (!opensAt && !closesAt) return null
  const left = opensAt ? x(opensAt) : 0
  const right = closesAt ? x(closesAt) : WIDTH
  const said = [
    opensAt && `opens ${sayInstant(opensAt, course.zone)}`,
    closesAt && `closes ${sayInstant(closesAt, course.zone)}`,
    `${counted(seats.length, 'seat')} taken`,
  ]
  return (
    <fieldset aria-label={`Window: ${said.filter(Boolean).join(', ')}`} className="min-w-0 max-lg:hidden">
      <svg viewBox={`-8 0 ${WIDTH + 16} ${HEIGHT}`} className="mb-2 h-[3.875rem] w-[38.75rem] max-w-full">
        <title>Window of the sheet</title>
        <rect x={left} y="6" width={Math.max(0, right - left)} height={BASE - 6} className="fill-moss-soft" />
        <clipPath id={clip}>
          <rect x={left} y="0" width={Math.max(0, right - left)} height={BASE} />
        </clipPath>
        <path d={curve} clipPath={`url(#${clip})`} className="fill-seat" opacity="0.85" />
        <line x1="0" x2={WIDTH} y1={BASE} y2={BASE} className="stroke-line-strong" strokeWidth="1.5" />
        {(['opensAt', 'closesAt'] as const).map((end) => {
          const instant = sheet[end]
          if (!instant) return null
          if (!onChange) {
            return (
              <rect
                key={end}
                x={x(instant) - 3.5}
                y="9"
                width="7"
                height={BASE - 11}
                rx="2"
                className="fill-moss"
              />
            )
          }
          return (
            <RulerHandle
              key={end}
              label={end === 'opensAt' ? 'Opening of the window' : 'Closing of the window'}
              instant={instant}
              zone={course.zone}
              x={x}
              instantAt={instantAt}
              top={9}
              height={BASE - 11}
              onMoved={(moved) => onChange(end, moved)}
            />
          )
        })}
        <line x1={x(now)} x2={x(now)} y1="0" y2={BASE + 4} className="stroke-ember" strokeWidth="1.75" />
        <text
          x={x(now) + (x(now) > WIDTH - 50 ? -6 : 6)}
          textAnchor={x(now) > WIDTH - 50 ? 'end' : 'start'}
          y="13"
          className="fill-ember text-[0.75rem] font-semibold"
        >
          now
        </text>
        {ticks.map((day, i) => (
          <text
            key={day}
            x={x(day)}
            y={HEIGHT - 5}
            textAnchor="middle"
            className="figures fill-soft text-[0.75rem]"
          >
            {i === 0 || i === ticks.length - 1
              ? sayDay(day, course.zone)
              : sayDay(day, course.zone).split(' ')[0]}
          </text>
        ))}
      </svg>
    </fieldset>
  )
}

interface Span {
  from: number
  to: number
}

function spanOf(opensAt: string | null, closesAt: string | null, now: string): Span {
  const known = [opensAt, closesAt, now].filter((instant) => instant !== null).map(msOf)
  const length = Math.max(Math.max(...known) - Math.min(...known), 6 * HOUR)
  return {
    from: Math.min(...known) - Math.max(length * 0.08, HOUR),
    to: Math.max(...known) + Math.max(length * 0.08, HOUR),
  }
}

/** Every day, or every second, third … so that the labels keep apart. */
function thin(days: readonly string[]): string[] {
  const step = Math.ceil(days.length / 11)
  return days.filter((_, i) => i % step === 0)
}

function curveOf(seats: readonly { at: string }[], { from, to }: Span): string {
  if (seats.length === 0) return ''
  const bins = Array.from({ length: BINS }, () => 0)
  for (const { at } of seats) {
    const bin = Math.floor((BINS * (msOf(at) - from)) / (to - from))
    if (bin >= 0 && bin < BINS) bins[bin] = (bins[bin] ?? 0) + 1
  }
  const smooth = bins.map((count, i) => (count * 2 + (bins[i - 1] ?? 0) + (bins[i + 1] ?? 0)) / 4)
  const peak = Math.max(...smooth, 1)
  const points = smooth.map(
    (count, i) => `${((i + 0.5) * WIDTH) / BINS},${BASE - (count / peak) * (BASE - 14)}`,
  )
  return `M0,${BASE} L${points.join(' L')} L${WIDTH},${BASE} Z`
}

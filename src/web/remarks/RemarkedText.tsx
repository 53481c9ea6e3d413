import { type KeyboardEvent, memo, type ReactNode, useEffect, useMemo, useRef } from 'react'
import { blocksOf, type RemarkPlace, sentenceBefore, sentenceFrom, stretches } from '../../core/remarks.ts'
import { Button, Key } from '../kit/Button.tsx'
import { useKey } from '../kit/keys.ts'
import type { Making, Placed } from './placed.ts'
import { markedIn, markPassage, useMarked } from './useMarked.ts'

/** What is marked while something is written about it. */
const NEW = 'new'

/**
 * A text with its passages marked. Blocks far from what is looked at are not laid out, so that a long one stays fluid.
 * Where remarks can be made, a passage is marked by mouse or finger, or sentence by sentence with the arrow keys.
 */
export function RemarkedText({
  text,
  label,
  placed,
  making,
  active,
  onActive,
  onMark,
  after,
  look = 'text-[1.0625rem] leading-relaxed',
}: {
  text: string
  label: string
  placed: readonly Placed[]
  making: Making | null
  /** The remark that is looked at, by code. */
  active: string | null
  onActive: (code: string) => void
  /** Left out where nothing is written. */
  onMark?: ((place: RemarkPlace) => void) | undefined
  /** What stands after a block in which a passage begins. */
  after?: ((from: number, to: number) => ReactNode) | undefined
  look?: string
}) {
  const box = useRef<HTMLDivElement>(null)
  const blocks = useMemo(() => blocksOf(text), [text])
  const marked = useMarked(box, text, onMark !== undefined)
  const mark = () => {
    // Asked anew: what was marked by the key before has not been told yet.
    const now = markedIn(box.current, text)
    if (!now || !onMark) return
    onMark(now.passage)
    document.getSelection()?.removeAllRanges()
  }
  useKey('r', mark)
  const passages = placed.flatMap(({ remark, n, place }) =>
    place.kind === 'passage' ? [{ id: remark.code, n, start: place.start, end: place.end }] : [],
  )
  const own = making?.place.kind === 'passage' ? making.place : null
  const all = own ? [...passages, { id: NEW, n: 0, start: own.start, end: own.end }] : passages
  const latest = useRef(onActive)
  useEffect(() => {
    latest.current = onActive
  })
  useEffect(() => {
    const onPress = ({ target }: MouseEvent) => {
      const over = (target as Element).closest?.<HTMLElement>('[data-remark]')
      const code = over?.dataset.remark
      if (code && code !== NEW && document.getSelection()?.isCollapsed !== false) latest.current(code)
    }
    const own = box.current
    own?.addEventListener('click', onPress)
    return () => own?.removeEventListener('click', onPress)
  }, [])
  const onKeyDown = (event: KeyboardEvent<HTMLElement>) => {
    if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey || event.altKey) return
    const now = markedIn(box.current, text)?.passage ?? null
    if (event.key === 'ArrowRight' || event.key === 'ArrowLeft') {
      event.preventDefault()
      const on = event.key === 'ArrowRight'
      const next = on ? sentenceFrom(text, now?.end ?? 0) : sentenceBefore(text, now?.start ?? text.length)
      if (!next || !box.current) return
      const longer = event.shiftKey && now
      markPassage(
        box.current,
        longer ? { ...next, start: Math.min(now.start, next.start), end: Math.max(now.end, next.end) } : next,
      )
    }
    if (event.key === 'Enter' && now) {
      event.preventDefault()
      event.stopPropagation()
      mark()
    }
  }
  const drawn = (
    <div ref={box} className="relative">
      {blocks.map(({ start, end }) => {
        const here = all.filter((one) => one.start < end && one.end > start)
        const begin = here.filter((one) => one.start >= start && one.start < end)
        return (
          <div key={start}>
            <Block
              text={text.slice(start, end)}
              start={start}
              marks={here}
              shown={here
                .map(({ id, n, ...at }) => `${id} ${n} ${at.start} ${at.end} ${id === active}`)
                .join()}
              active={active}
            />
            {begin.length > 0 && after?.(start, end)}
          </div>
        )
      })}
      {marked && (
        <div className="absolute z-10 mt-1" style={{ left: marked.x, top: marked.y }}>
          {/* Pressing it would take away what is marked. */}
          <Button look="main" onMouseDown={(event) => event.preventDefault()} onClick={mark}>
            Remark on this <Key>R</Key>
          </Button>
        </div>
      )}
    </div>
  )
  if (!onMark) return <div className={look}>{drawn}</div>
  return (
    // biome-ignore lint/a11y/useSemanticElements: a fieldset is for fields, and here sentences are gone through
    <div
      role="group"
      aria-label={`${label}: the arrow keys go from sentence to sentence, Shift takes more, Enter remarks`}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: sentences are gone through by keys
      tabIndex={0}
      className={`${look} rounded-field focus-visible:outline-offset-4`}
      onKeyDown={onKeyDown}
    >
      {drawn}
    </div>
  )
}

interface Mark {
  id: string
  n: number
  start: number
  end: number
}

/** One block of a text. Drawn anew only when something in it changes, as `shown` tells. */
const Block = memo(
  function Block({
    text,
    start,
    marks,
    active,
  }: {
    text: string
    start: number
    marks: readonly Mark[]
    shown: string
    active: string | null
  }) {
    const numbers = new Map(marks.map(({ id, n }) => [id, n]))
    const starts = new Map<number, Mark[]>()
    for (const one of marks) starts.set(one.start, [...(starts.get(one.start) ?? []), one])
    return (
      <p
        data-start={start}
        // An empty line is as high as any other.
        className="min-h-[1lh] whitespace-pre-wrap wrap-anywhere [content-visibility:auto] [contain-intrinsic-size:auto_4lh]"
      >
        {marks.length === 0
          ? text
          : stretches(start, start + text.length, marks).map((one) => {
              const words = text.slice(one.start - start, one.end - start)
              const last = one.ids.at(-1)
              const on = one.ids.includes(active ?? '') || one.ids.includes(NEW)
              return (
                <span key={one.start}>
                  {(starts.get(one.start) ?? []).map(
                    ({ id, n }) => id !== NEW && <Badge key={id} code={id} n={n} on={id === active} />,
                  )}
                  {last === undefined ? (
                    words
                  ) : (
                    <mark
                      data-remark={last}
                      title={last === NEW ? undefined : `Remark ${numbers.get(last)}`}
                      className={`cursor-pointer rounded-[2px] text-ink underline decoration-sun decoration-2 underline-offset-[3px] ${on ? 'bg-sun/45' : 'bg-sun-soft'}`}
                    >
                      {words}
                    </mark>
                  )}
                </span>
              )
            })}
      </p>
    )
  },
  (a, b) => a.text === b.text && a.start === b.start && a.shown === b.shown,
)

/** The number of a remark in a text. It is drawn without being part of what is copied or marked. */
function Badge({ code, n, on }: { code: string; n: number; on: boolean }) {
  return (
    <button
      type="button"
      data-remark={code}
      data-n={n}
      aria-label={`Remark ${n}`}
      className={`figures drawn mx-0.5 inline-flex h-[1.15em] min-w-[1.15em] -translate-y-[0.1em] items-center justify-center rounded-pip px-1 align-middle text-xs font-bold select-none before:content-[attr(data-n)] ${on ? 'bg-ember text-on-ember' : 'bg-seat text-on-seat'}`}
    />
  )
}

import { type ReactNode, useEffect, useRef } from 'react'
import type { HandInView } from '../../contract/tasks.ts'
import { shownAs } from '../../core/files.ts'
import type { RemarkPlace } from '../../core/remarks.ts'
import { FileLine } from '../files/FileLine.tsx'
import type { Parts } from '../files/parts.ts'
import { ShownFile } from '../files/ShownFile.tsx'
import { PlacesOver } from './PlacesOver.tsx'
import { type Making, type Placed, rankOf } from './placed.ts'
import { RemarkedText } from './RemarkedText.tsx'
import { useWide } from './useWide.ts'

/**
 * One version of a work with its remarks: each marked in its place, and what is said beside it where there is room, else
 * after the lines or the page in which it stands.
 */
export function RemarkedWork({
  sheet,
  handIn,
  placed,
  making = null,
  active,
  onActive,
  onMark,
  onMove,
  card = () => null,
  editor,
  nothing,
  alone = false,
}: {
  sheet: string
  handIn: HandInView
  placed: readonly Placed[]
  making?: Making | null
  /** The remark that is looked at, by code. */
  active: string | null
  onActive: (code: string) => void
  /** Left out where nothing is written. */
  onMark?: ((making: Making) => void) | undefined
  /** Moves the place that is being written about. */
  onMove?: ((place: RemarkPlace) => void) | undefined
  /** What is said at one place. */
  card?: (placed: Placed) => ReactNode
  /** Where something new is written; it stands where its place comes. */
  editor?: ReactNode
  /** Said beside a work without remarks. */
  nothing?: ReactNode
  /** Whether the work is read without anything beside it. */
  alone?: boolean
}) {
  const wide = useWide() && !alone
  const work = useRef<HTMLDivElement>(null)
  const list = useRef<HTMLUListElement>(null)
  useFollow(work, list, wide)
  useEffect(() => {
    if (active === null) return
    const said = list.current?.querySelector(`[data-said="${active}"]`)
    said?.scrollIntoView({ block: 'nearest' })
  }, [active])
  const rank = making ? rankOf(making, placed, handIn) : -1
  // In the work itself: all that is said of the places among some, and what is being written there.
  const inWork = (file: string | null, among: (place: RemarkPlace) => boolean) => {
    const here = placed.filter((one) => one.file === file && among(one.place))
    const own = making && making.file === file && among(making.place) ? editor : null
    if (here.length === 0 && !own) return null
    return (
      <ul className="my-2 flex flex-col gap-2 font-sans text-[0.9375rem]">
        {here.map((one) => (
          <li key={one.remark.code} data-said={one.remark.code}>
            {card(one)}
          </li>
        ))}
        {own && <li>{own}</li>}
      </ul>
    )
  }
  const mark = (file: string | null) => onMark && ((place: RemarkPlace) => onMark({ file, place }))
  const textOf = (file: string | null, text: string, label: string, look?: string) => (
    <RemarkedText
      text={text}
      label={label}
      placed={placed.filter((one) => one.file === file)}
      making={making?.file === file ? making : null}
      active={active}
      onActive={onActive}
      onMark={mark(file)}
      after={
        wide
          ? undefined
          : (from, to) =>
              inWork(file, (place) => place.kind === 'passage' && place.start >= from && place.start < to)
      }
      {...(look && { look })}
    />
  )
  const partsOf = ({ code, name, type }: HandInView['files'][number]): Parts => {
    const here = placed.filter((one) => one.file === code)
    const on = (page: number) => (place: RemarkPlace) => place.kind !== 'passage' && place.page === page
    return {
      over: (page) => (
        <PlacesOver
          page={page}
          what={shownAs(type) === 'picture' ? name : `page ${page} of ${name}`}
          placed={here}
          making={making?.file === code ? making : null}
          active={active}
          onActive={onActive}
          onMark={mark(code)}
          onMove={onMove}
        />
      ),
      after: wide ? undefined : (page) => inWork(code, on(page)),
      text: (text) => textOf(code, text, name, 'text-sm leading-relaxed'),
      reach: Math.max(0, ...here.map(({ place }) => (place.kind === 'passage' ? 0 : place.page))),
      idOf: (page) => `page-${code}-${page}`,
    }
  }
  const read = (
    <div ref={work} className="min-w-0">
      {handIn.text && textOf(null, handIn.text, 'What was written')}
      {handIn.links.length > 0 && (
        <ul className="mt-4">
          {handIn.links.map((link) => (
            <li key={link}>
              <a
                href={link}
                target="_blank"
                rel="noreferrer"
                className="text-seat underline underline-offset-2 wrap-anywhere"
              >
                {link}
              </a>
            </li>
          ))}
        </ul>
      )}
      {handIn.files.map((file) => (
        <div key={file.code} className="mt-5 flex flex-col gap-2">
          <FileLine sheet={sheet} file={file} />
          <ShownFile sheet={sheet} file={file} parts={partsOf(file)} />
        </div>
      ))}
    </div>
  )
  if (!wide) return read
  const before = rank < 0 ? placed : placed.slice(0, rank)
  const behind = rank < 0 ? [] : placed.slice(rank)
  const item = (one: Placed) => (
    <li key={one.remark.code} data-said={one.remark.code}>
      {card(one)}
    </li>
  )
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_17rem] items-start gap-6">
      {read}
      <ul
        ref={list}
        aria-label="Remarks"
        className="sticky top-4 flex max-h-[var(--beside,70vh)] flex-col gap-2 overflow-auto pb-2 pl-1"
      >
        {before.map(item)}
        {making && editor && <li>{editor}</li>}
        {behind.map(item)}
        {placed.length === 0 && !making && nothing && <li className="text-sm text-soft">{nothing}</li>}
      </ul>
    </div>
  )
}

/** What scrolls an element: the nearest that does, or the page. */
function scrollerOf(element: HTMLElement): HTMLElement {
  for (let up = element.parentElement; up; up = up.parentElement)
    if (/auto|scroll/.test(getComputedStyle(up).overflowY)) return up
  return document.documentElement
}

/** Lets the list of what is said follow the work as it is read: the first place in sight is at its top. */
function useFollow(
  work: { current: HTMLElement | null },
  list: { current: HTMLElement | null },
  on: boolean,
): void {
  useEffect(() => {
    const read = work.current
    if (!on || !read) return
    const scroller = scrollerOf(read)
    // The list is never higher than what it stands in.
    const measure = () =>
      list.current?.style.setProperty('--beside', `${Math.max(160, scroller.clientHeight - 32)}px`)
    const sizes = new ResizeObserver(measure)
    sizes.observe(scroller)
    measure()
    let frame = 0
    const follow = () => {
      frame = 0
      const said = list.current
      // Whoever is in the list reads there.
      if (!said || said.matches(':hover, :focus-within')) return
      const top = scroller === document.documentElement ? 0 : scroller.getBoundingClientRect().top
      const first = [...read.querySelectorAll<HTMLElement>('[data-remark]')].find(
        (one) => one.getBoundingClientRect().bottom > top,
      )
      const item = first && said.querySelector<HTMLElement>(`[data-said="${first.dataset.remark}"]`)
      if (item) said.scrollTop = item.offsetTop - said.offsetTop
    }
    const onScroll = () => {
      frame ||= requestAnimationFrame(follow)
    }
    const source = scroller === document.documentElement ? window : scroller
    source.addEventListener('scroll', onScroll, { passive: true })
    return () => {
      source.removeEventListener('scroll', onScroll)
      cancelAnimationFrame(frame)
      sizes.disconnect()
    }
  }, [work, list, on])
}

/** Brings the place of a remark into sight. */
export function showPlace(code: string): void {
  const place = document.querySelector(`[data-remark="${code}"]`)
  place?.scrollIntoView({ block: 'center', behavior: 'smooth' })
}

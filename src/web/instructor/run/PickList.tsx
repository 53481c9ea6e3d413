import { type FocusEvent, type KeyboardEvent, type MouseEvent, type ReactNode, useRef, useState } from 'react'
import { PICK } from './drops.ts'
import { type Pick, pickKey, pickOf, samePick, toggled, withRange } from './picks.ts'
import type { Seating } from './useSeating.ts'

/** Where picking with Shift starts. One for all lists of the page. */
let anchor: Pick | null = null

/**
 * A list of people to pick from: one stop for Tab, then the arrow keys; click or space picks, Shift picks a range,
 * Ctrl A everybody.
 * @param children draws the list; told whom Tab comes to
 */
export function PickList({
  label,
  list,
  seating,
  className,
  children,
}: {
  label: string
  list: readonly Pick[]
  seating: Seating
  className: string
  children: (reached: string) => ReactNode
}) {
  const { picks, setPicks } = seating
  const box = useRef<HTMLDivElement>(null)
  const [last, setLast] = useState('')
  const first = list[0]
  const reached = list.some((one) => pickKey(one) === last) ? last : first ? pickKey(first) : ''
  const of = (event: { target: EventTarget }) => {
    const option = (event.target as Element).closest(`[${PICK}]`)
    const pick = pickOf(option?.getAttribute(PICK) ?? '')
    return list.find((one) => pick && samePick(one, pick))
  }
  const choose = (pick: Pick, range: boolean) => {
    setPicks(range && anchor ? withRange(picks, list, anchor, pick) : toggled(picks, pick))
    anchor = pick
  }
  const onClick = (event: MouseEvent) => {
    const pick = of(event)
    if (pick) choose(pick, event.shiftKey)
  }
  const onFocus = (event: FocusEvent) => {
    const pick = of(event)
    if (pick) setLast(pickKey(pick))
  }
  const onKeyDown = (event: KeyboardEvent) => {
    const pick = of(event)
    if (!pick) return
    const at = list.findIndex((one) => samePick(one, pick))
    const to = {
      ArrowRight: at + 1,
      ArrowDown: at + 1,
      ArrowLeft: at - 1,
      ArrowUp: at - 1,
      Home: 0,
      End: list.length - 1,
    }[event.key]
    if (event.key === ' ' || event.key === 'Enter') {
      event.preventDefault()
      choose(pick, event.shiftKey)
    } else if (to !== undefined) {
      event.preventDefault()
      const next = list[to]
      if (!next) return
      box.current?.querySelector<HTMLElement>(`[${PICK}="${CSS.escape(pickKey(next))}"]`)?.focus()
      if (event.shiftKey) setPicks(withRange(picks, list, pick, next))
    } else if (event.key.toLowerCase() === 'a' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault()
      setPicks([...list])
    }
  }
  return (
    <div
      ref={box}
      role="listbox"
      tabIndex={-1}
      aria-multiselectable="true"
      aria-label={label}
      onClick={onClick}
      onFocus={onFocus}
      onKeyDown={onKeyDown}
      className={className}
    >
      {children(reached)}
    </div>
  )
}

import { type RefObject, useEffect, useState } from 'react'
import { fitPassage, type Passage } from '../../core/remarks.ts'

/** What is marked in a text, and where its end is drawn, in pixels from the upper left of the text. */
export interface Marked {
  passage: Passage
  x: number
  y: number
}

/** The offset in a text of a point in the page; blocks of the text say with `data-start` where they begin. */
function offsetOf(box: HTMLElement, node: Node, offset: number): number {
  const own = (node instanceof Element ? node : node.parentElement)?.closest<HTMLElement>('[data-start]')
  if (own && box.contains(own)) {
    const range = document.createRange()
    range.selectNodeContents(own)
    range.setEnd(node, offset)
    return Number(own.dataset.start) + range.toString().length
  }
  const point = document.createRange()
  point.setStart(node, offset)
  const next = [...box.querySelectorAll<HTMLElement>('[data-start]')].find(
    (block) => point.comparePoint(block, 0) >= 0,
  )
  return next ? Number(next.dataset.start) : Number.POSITIVE_INFINITY
}

/** What of a text is marked just now; null where that is nothing, or lies elsewhere. */
export function markedIn(box: HTMLElement | null, text: string): Marked | null {
  const selection = document.getSelection()
  const range = selection && selection.rangeCount > 0 ? selection.getRangeAt(0) : null
  // What begins outside of the text is no passage of it.
  if (!box || !range || range.collapsed || !box.contains(range.startContainer)) return null
  const start = offsetOf(box, range.startContainer, range.startOffset)
  const end = Math.min(text.length, offsetOf(box, range.endContainer, range.endOffset))
  const passage = fitPassage(text, start, end)
  if (!passage) return null
  const rects = range.getClientRects()
  const last = rects[rects.length - 1]
  const around = box.getBoundingClientRect()
  return {
    passage,
    x: Math.max(0, Math.min(around.width - 150, (last?.right ?? around.left) - around.left)),
    y: (last?.bottom ?? around.top) - around.top,
  }
}

/** Says what of a text is marked, by mouse, finger or key; null while that is nothing. */
export function useMarked(box: RefObject<HTMLElement | null>, text: string, on: boolean): Marked | null {
  const [marked, setMarked] = useState<Marked | null>(null)
  useEffect(() => {
    if (!on) return
    const look = () => setMarked(markedIn(box.current, text))
    document.addEventListener('selectionchange', look)
    return () => document.removeEventListener('selectionchange', look)
  }, [box, text, on])
  return on ? marked : null
}

/** Marks a passage of a text in the page, as a mouse would. */
export function markPassage(box: HTMLElement, { start, end }: Passage): void {
  const from = pointAt(box, start)
  const to = pointAt(box, end)
  if (!from || !to) return
  document.getSelection()?.setBaseAndExtent(from.node, from.offset, to.node, to.offset)
  const at = from.node instanceof Element ? from.node : from.node.parentElement
  at?.scrollIntoView({ block: 'nearest' })
}

/** The point in the page at an offset of a text. */
function pointAt(box: HTMLElement, offset: number): { node: Node; offset: number } | null {
  const blocks = [...box.querySelectorAll<HTMLElement>('[data-start]')]
  const block = blocks.findLast((one) => Number(one.dataset.start) <= offset)
  if (!block) return null
  let left = offset - Number(block.dataset.start)
  const walk = document.createTreeWalker(block, NodeFilter.SHOW_TEXT)
  let last: { node: Node; offset: number } = { node: block, offset: 0 }
  for (let node = walk.nextNode(); node; node = walk.nextNode()) {
    const { length } = node as Text
    if (left <= length) return { node, offset: left }
    left -= length
    last = { node, offset: length }
  }
  return last
}

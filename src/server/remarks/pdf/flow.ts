import { degrees, type PDFDocument, type PDFPage, rgb } from 'pdf-lib'
import type { Fonts } from './fonts.ts'
import type { PrintedRemark } from './job.ts'
import type { Face } from './typeset.ts'

/** Points of an A4 page, its margin, and a line’s height as a part of its letters’. */
export const [WIDTH, HEIGHT] = [595, 842]
export const MARGIN = 48
export const LEADING = 1.45

export const INK = rgb(0.12, 0.13, 0.16)
export const SOFT = rgb(0.38, 0.4, 0.45)
export const MARK = rgb(0.99, 0.9, 0.66)
export const LINE = rgb(0.72, 0.45, 0.05)
export const BADGE = rgb(0.13, 0.27, 0.52)
const WHITE = rgb(1, 1, 1)

export type Flow = ReturnType<typeof createFlow>

/** What is written down the pages, a new one where one is full. */
export function createFlow(doc: PDFDocument, fonts: Fonts) {
  let page = doc.addPage([WIDTH, HEIGHT])
  let y = HEIGHT - MARGIN
  let fresh = true
  const newPage = () => {
    page = doc.addPage([WIDTH, HEIGHT])
    y = HEIGHT - MARGIN
    fresh = true
  }
  const room = (height: number) => {
    if (y - height < MARGIN && !fresh) newPage()
  }
  const draw = (text: string, face: Face, x: number, at: number, color = INK) => {
    if (text.trim() !== '') page.drawText(text, { x, y: at, size: face.size, font: face.font, color })
  }
  const flow = {
    page: () => page,
    y: () => y,
    newPage,
    room,
    draw,
    /** Whether nothing stands on the page yet. */
    isFresh: () => fresh,
    gap(height: number) {
      if (!fresh) y -= height
    },
    /** Goes down by a line, on to a new page where it does not fit, and gives where it is drawn. */
    line(face: Face): number {
      room(face.size * LEADING)
      y -= face.size * LEADING
      fresh = false
      return y
    },
    say(text: string, face: Face, color = INK, x = MARGIN, width = WIDTH - 2 * MARGIN) {
      for (const line of face.lines(text, width)) {
        const at = flow.line(face)
        draw(line.text, face, x, at, color)
      }
    },
    /** Remarks in a list, each with its number. */
    list(remarks: readonly PrintedRemark[], where: (remark: PrintedRemark) => string = () => '') {
      for (const remark of remarks) {
        flow.gap(4)
        const at = flow.line(fonts.small)
        badge(page, fonts, remark.n, MARGIN + 5, at + 2.5)
        const head = [where(remark), remark.about].filter(Boolean).join(' · ')
        const body = [remark.words, ...remark.answers.map((answer) => `↳ ${answer}`)].filter(Boolean)
        y += fonts.small.size * LEADING
        if (head) flow.say(head, fonts.bold, INK, MARGIN + 18, WIDTH - 2 * MARGIN - 18)
        for (const words of body) flow.say(words, fonts.small, INK, MARGIN + 18, WIDTH - 2 * MARGIN - 18)
      }
    },
  }
  return flow
}

/** A number in a disc, as it stands beside a place and before what is said there. */
export function badge(page: PDFPage, { bold }: Fonts, n: number, x: number, y: number, turned = 0): void {
  const text = String(n)
  const radius = Math.max(6, bold.widthOf(text) / 2 + 2.5)
  page.drawCircle({ x, y, size: radius, color: BADGE })
  // Upright for whoever reads the page, also where the page itself is turned.
  const [dx, dy] = [-bold.widthOf(text) / 2, -2.9]
  const angle = (turned * Math.PI) / 180
  page.drawText(text, {
    x: x + dx * Math.cos(angle) - dy * Math.sin(angle),
    y: y + dx * Math.sin(angle) + dy * Math.cos(angle),
    size: bold.size,
    font: bold.font,
    color: WHITE,
    rotate: degrees(turned),
  })
}

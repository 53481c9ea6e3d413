import type { PDFPage } from 'pdf-lib'
import { BADGE, badge, type Flow, HEIGHT, INK, LEADING, LINE, MARGIN, MARK, WIDTH } from './flow.ts'
import type { Fonts } from './fonts.ts'
import type { PrintedRemark } from './job.ts'
import type { Face, Line } from './typeset.ts'

// The column of a text, and the one for remarks beside it, in points.
const TEXT = 330
const BESIDE = MARGIN + TEXT + 20
const BESIDE_WIDTH = WIDTH - BESIDE - 32

/** A text down the pages, its passages marked, and what is said of each beside it. */
export function addText(flow: Flow, fonts: Fonts, text: string, remarks: readonly PrintedRemark[]): void {
  const { body } = fonts
  const passages = remarks.flatMap((remark) =>
    remark.place.kind === 'passage' ? [{ ...remark.place, remark }] : [],
  )
  // What is said stands beside where its passage begins, or below what stands there; the rest on the next page.
  let waiting: PrintedRemark[] = []
  let beside = HEIGHT - MARGIN
  let page = flow.page()
  const layBeside = (last: boolean) => {
    while (waiting.length > 0) {
      const [next] = waiting as [PrintedRemark]
      const lines = noteLines(fonts, next)
      const height = (lines.length + 0.6) * fonts.small.size * LEADING
      if (beside - height < MARGIN && beside < HEIGHT - MARGIN) {
        if (!last) return
        flow.newPage()
        page = flow.page()
        beside = HEIGHT - MARGIN
        continue
      }
      drawNote(page, fonts, next, lines, beside)
      beside -= height
      waiting = waiting.slice(1)
    }
  }
  for (const line of body.lines(text, TEXT)) {
    const y = flow.line(body)
    if (flow.page() !== page) {
      page = flow.page()
      beside = HEIGHT - MARGIN
    }
    markPassages(page, fonts, line, y, passages)
    flow.draw(line.text, body, MARGIN, y)
    const begins = passages.filter(
      ({ start }) => start >= line.start && (start < line.end || line.end === text.length),
    )
    for (const { remark } of begins) if (!waiting.includes(remark)) waiting = [...waiting, remark]
    if (waiting.length > 0) {
      beside = Math.min(beside, y + body.size)
      layBeside(false)
    }
  }
  layBeside(true)
}

function noteLines(
  { small, bold }: Fonts,
  { about, words, answers }: PrintedRemark,
): { text: string; face: Face }[] {
  const width = BESIDE_WIDTH - 16
  return [
    ...(about ? bold.lines(about, width).map(({ text }) => ({ text, face: bold })) : []),
    ...[words, ...answers.map((answer) => `↳ ${answer}`)]
      .filter(Boolean)
      .flatMap((one) => small.lines(one, width).map(({ text }) => ({ text, face: small }))),
  ]
}

function drawNote(
  page: PDFPage,
  fonts: Fonts,
  { n }: PrintedRemark,
  lines: readonly { text: string; face: Face }[],
  top: number,
): void {
  let y = top - fonts.small.size
  badge(page, fonts, n, BESIDE + 4, y + 2.5)
  for (const { text, face } of lines) {
    if (text.trim() !== '')
      page.drawText(text, { x: BESIDE + 16, y, size: face.size, font: face.font, color: INK })
    y -= face.size * LEADING
  }
}

function markPassages(
  page: PDFPage,
  fonts: Fonts,
  line: Line,
  y: number,
  passages: readonly { start: number; end: number; remark: PrintedRemark }[],
): void {
  const size = fonts.body.size
  const xAt = (offset: number) =>
    MARGIN + (line.at[Math.max(0, Math.min(line.at.length - 1, offset - line.start))] ?? 0)
  for (const { start, end } of passages) {
    if (end <= line.start || start >= line.end) continue
    const [x, to] = [xAt(start), xAt(end)]
    page.drawRectangle({ x, y: y - 0.28 * size, width: to - x, height: 1.25 * size, color: MARK })
    page.drawLine({
      start: { x, y: y - 0.28 * size },
      end: { x: to, y: y - 0.28 * size },
      thickness: 0.7,
      color: LINE,
    })
  }
  for (const { start, remark } of passages)
    if (start >= line.start && start < line.end)
      page.drawText(String(remark.n), {
        x: xAt(start),
        y: y + 0.82 * size,
        size: 5.5,
        font: fonts.bold.font,
        color: BADGE,
      })
}

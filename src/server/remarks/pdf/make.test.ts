import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { degrees, PDFDocument, StandardFonts } from 'pdf-lib'
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readFonts } from './fonts.ts'
import type { PdfJob, PrintedPart, PrintedRemark } from './job.ts'
import { makePdf } from './make.ts'
import { boxOn, pointOn, turnedPicture } from './place.ts'

const PNG = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
)
let folder: string
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'haplon-pdf-'))
})
afterAll(() => rmSync(folder, { recursive: true }))

const job = (parts: PrintedPart[]): PdfJob => ({
  title: 'Report',
  owner: 'Tempeh',
  under: ['FERM 210'],
  parts,
})
const written = (text: string, remarks: PrintedRemark[]): PrintedPart => ({
  name: null,
  type: 'text/plain',
  path: null,
  text,
  remarks,
})
const file = (name: string, type: string, bytes: Uint8Array, remarks: PrintedRemark[]): PrintedPart => {
  const path = join(folder, name)
  writeFileSync(path, bytes)
  return { name, type, path, text: '', remarks }
}
const remark = (n: number, place: PrintedRemark['place'], words = `Said of ${n}`): PrintedRemark => ({
  n,
  place,
  about: '',
  words,
  answers: [],
})
/** What another reader finds on each page. */
async function pagesOf(bytes: Uint8Array): Promise<string[]> {
  const pdf = await getDocument({ data: bytes.slice(), verbosity: 0 }).promise
  const pages = []
  for (let n = 1; n <= pdf.numPages; n++) {
    const { items } = await (await pdf.getPage(n)).getTextContent()
    pages.push(items.map((item) => ('str' in item ? item.str : '')).join(' '))
  }
  return pages
}

describe('a PDF of a work with its remarks', () => {
  it('holds a text down its pages, and each remark beside where its passage begins', async () => {
    const line = 'The brine was kept at eighteen degrees, and tasted every morning by two of us. '
    const text = `${Array.from({ length: 120 }, (_, i) => `${i + 1}. ${line}`).join('\n')}\nAt the end it was good.`
    const end = text.indexOf('At the end')
    const pages = await pagesOf(
      await makePdf(
        job([
          written(text, [
            {
              ...remark(1, { kind: 'passage', start: 4, end: 13 }),
              about: 'Method −1',
              answers: ['Ada: Because.'],
            },
            remark(2, { kind: 'passage', start: end, end: end + 10 }),
          ]),
        ]),
      ),
    )
    expect(pages.length).toBeGreaterThan(2)
    expect(pages[0]).toMatch(/Report.*FERM 210/)
    expect(pages[0]).toMatch(/Method −1/)
    expect(pages[0]).toMatch(/Said of 1.*Ada: Because\./)
    expect(pages[0]).not.toMatch(/Said of 2/)
    expect(pages.at(-1)).toMatch(/At the end it was good\..*Said of 2|Said of 2.*At the end it was good\./)
    const numbers = pages.join(' ').match(/\b\d+\. The brine/g)
    expect(numbers).toHaveLength(120)
  })

  it('loses no remark where there are more than fit beside the text', async () => {
    const remarks = Array.from({ length: 60 }, (_, i) =>
      remark(i + 1, { kind: 'passage', start: 0, end: 5 }, `Point ${i + 1}. ${'Quite long. '.repeat(8)}`),
    )
    const pages = (await pagesOf(await makePdf(job([written('Short text.', remarks)])))).join(' ')
    for (let n = 1; n <= 60; n++) expect(pages).toContain(`Point ${n}.`)
  })

  it('writes what people write: other alphabets as they are, and a box where there is no letter', async () => {
    const pages = (
      await pagesOf(await makePdf(job([written('Łódź, Ελλάς, Кефир\t漬物 🧂 \u0007a\u0301', [])])))
    ).join(' ')
    expect(pages).toContain('Łódź, Ελλάς, Кефир')
    expect(pages).toMatch(/no letter are drawn as □/)
    expect(pages).toContain('□□ □')
  })

  it('keeps the pages of a PDF, marks places on them, and lists what is said behind them', async () => {
    const source = await PDFDocument.create()
    const font = await source.embedFont(StandardFonts.Helvetica)
    for (const n of [1, 2, 3])
      source.addPage([300, 200]).drawText(`Page ${n} of ours`, { x: 20, y: 100, font, size: 12 })
    source.getPage(1).setRotation(degrees(90))
    const part = file('plot.pdf', 'application/pdf', await source.save(), [
      remark(1, { kind: 'spot', page: 1, x: 0.5, y: 0.5 }),
      remark(2, { kind: 'area', page: 2, x: 0.1, y: 0.1, width: 0.3, height: 0.2 }),
    ])
    const pages = await pagesOf(await makePdf(job([part])))
    expect(pages).toHaveLength(5)
    expect(pages[1]).toMatch(/Page 1 of ours.*1/)
    expect(pages[2]).toMatch(/Page 2 of ours.*2/)
    expect(pages[3]).toBe('Page 3 of ours')
    expect(pages[4]).toMatch(/Remarks on plot\.pdf.*page 1.*Said of 1.*page 2.*Said of 2/)
  })

  it('puts pictures in, and names what cannot be put in, with what is said of it', async () => {
    const spot = { kind: 'spot', page: 1, x: 0.5, y: 0.5 } as const
    const pages = (
      await pagesOf(
        await makePdf(
          job([
            file('jar.png', 'image/png', PNG, [remark(1, spot)]),
            file('broken.pdf', 'application/pdf', Buffer.from('%PDF-1.7 nothing'), [remark(2, spot)]),
            file('broken.png', 'image/png', PNG.subarray(0, 40), [remark(3, spot)]),
            file('data.bin', 'application/octet-stream', Buffer.from([0, 1]), [remark(4, spot)]),
            file('notes.txt', 'text/plain', Buffer.from('\uFEFFRead me'), [
              remark(5, { kind: 'passage', start: 0, end: 4 }),
            ]),
            { name: 'lost.pdf', type: 'application/pdf', path: join(folder, 'lost'), text: '', remarks: [] },
          ]),
        ),
      )
    ).join(' ')
    expect(pages).toContain('broken.pdf: its pages cannot be read')
    expect(pages).toContain('broken.png: it cannot be put in here')
    expect(pages).toContain('data.bin: it is not shown on pages')
    expect(pages).toContain('lost.pdf: it cannot be read')
    for (const n of [1, 2, 3, 4, 5]) expect(pages).toContain(`Said of ${n}`)
    expect(pages).toContain('Read me')
  })
})

it('of files that are too large, one by one or together, each is named with its remarks', async () => {
  const spot = { kind: 'spot', page: 1, x: 0.5, y: 0.5 } as const
  const parts = [1, 2, 3].map((n) => file(`jar ${n}.png`, 'image/png', PNG, [remark(n, spot)]))
  const twoFit = { file: PNG.length, all: 2 * PNG.length }
  const pages = (await pagesOf(await makePdf(job(parts), twoFit))).join(' ')
  expect(pages).toContain('jar 3.png: it is too large to be put in')
  expect(pages).not.toContain('jar 2.png: it is too large')
  expect(pages).toContain('Said of 3')
  const none = (await pagesOf(await makePdf(job(parts), { file: 10, all: 1_000 }))).join(' ')
  expect(none).toContain('jar 1.png: it is too large to be put in')
})

describe('a text broken into lines', () => {
  it('is whole, and no line is wider than there is room, but for a letter that is (property)', async () => {
    const { body: face } = await readFonts(await PDFDocument.create())
    const piece = fc.constantFrom('brine', ' ', '\n', '-', 'jar jar', 'x'.repeat(90), '🧂', 'é', '\t')
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 60 }), fc.integer({ min: 5, max: 200 }), (pieces, width) => {
        const text = pieces.join('')
        let at = 0
        for (const line of face.lines(text, width)) {
          // Between lines there is nothing, or one line break.
          expect(['', '\n']).toContain(text.slice(at, line.start))
          expect(line.at).toHaveLength(line.end - line.start + 1)
          if ([...line.text.trimEnd()].length > 1)
            expect(face.widthOf(line.text.trimEnd())).toBeLessThanOrEqual(width + 1e-6)
          at = line.end
        }
        expect(at).toBe(text.length)
      }),
    )
  })
})

describe('places on a page', () => {
  const page = { x: 10, y: 20, width: 300, height: 200 }

  it('are where they are read, however the page is turned', () => {
    const corner = { x: 0, y: 0 }
    expect(pointOn({ ...page, turned: 0 }, corner)).toEqual({ x: 10, y: 220 })
    expect(pointOn({ ...page, turned: 90 }, corner)).toEqual({ x: 10, y: 20 })
    expect(pointOn({ ...page, turned: 180 }, corner)).toEqual({ x: 310, y: 20 })
    expect(pointOn({ ...page, turned: 270 }, corner)).toEqual({ x: 310, y: 220 })
    expect(
      boxOn({ ...page, turned: 90 }, { kind: 'area', page: 1, x: 0, y: 0, width: 0.5, height: 0.25 }),
    ).toEqual({ x: 10, y: 20, width: 75, height: 100 })
  })

  it('of a turned picture: its matrix takes the square onto itself, its upper left to where it is seen', () => {
    // Where the upper left of the stored picture is seen, from the lower left (EXIF 2.3, tag 0x0112).
    const seen: Record<number, [number, number]> = {
      1: [0, 1],
      2: [1, 1],
      3: [1, 0],
      4: [0, 0],
      5: [0, 1],
      6: [1, 1],
      7: [1, 0],
      8: [0, 0],
    }
    for (const [way, corner] of Object.entries(seen)) {
      const [a, b, c, d, e, f] = turnedPicture(Number(way))
      const to = ([u, v]: [number, number]) => [a * u + c * v + e, b * u + d * v + f]
      expect(to([0, 1]), way).toEqual(corner)
      const corners = (
        [
          [0, 0],
          [0, 1],
          [1, 0],
          [1, 1],
        ] as [number, number][]
      ).map((at) => String(to(at)))
      expect(new Set(corners)).toEqual(new Set(['0,0', '0,1', '1,0', '1,1']))
    }
    expect(turnedPicture(99)).toEqual(turnedPicture(1))
  })
})

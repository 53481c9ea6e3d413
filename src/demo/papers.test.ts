import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { inflateSync } from 'node:zlib'
import { afterAll, expect, it } from 'vitest'
import { createDisk } from '../server/files/disk.ts'
import { makePdf, makePng } from './papers.ts'

const folder = mkdtempSync(join(tmpdir(), 'haplon-papers-'))
const disk = createDisk(folder)
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const typeOf = (bytes: Buffer) => {
  writeFileSync(join(folder, 'parts', 'paper'), bytes)
  return disk.typeOf('paper')
}

it('a PDF is one, and its table points at its objects, over several pages', async () => {
  const lines = Array.from({ length: 100 }, (_, i) => `Line ${i} (of a hundred) \\ with marks`)
  const pdf = makePdf('A title', lines)
  expect(await typeOf(pdf)).toBe('application/pdf')
  const text = pdf.toString('latin1')
  const rows = [...text.matchAll(/^(\d{10}) 00000 n $/gm)].map(([, at]) => Number(at))
  rows.forEach((at, i) => {
    expect(text.slice(at, at + 12)).toMatch(new RegExp(`^${i + 1} 0 obj`))
  })
  expect(text).toContain('/Count 3')
  expect(text.slice(Number(/startxref\n(\d+)/.exec(text)?.[1]))).toMatch(/^xref\n/)
  expect(text).toContain('(Line 7 \\(of a hundred\\) \\\\ with marks) Tj')
})

it('a picture is a PNG of its size with its colours', async () => {
  const png = makePng(3, 2, (x, y) => [x * 10, y * 20, 255])
  expect(await typeOf(png)).toBe('image/png')
  expect([png.readUInt32BE(16), png.readUInt32BE(20)]).toEqual([3, 2])
  const at = png.indexOf('IDAT')
  const rows = inflateSync(png.subarray(at + 4, at + 4 + png.readUInt32BE(at - 4)))
  expect([...rows.subarray(10, 20)]).toEqual([0, 0, 20, 255, 10, 20, 255, 20, 20, 255])
})

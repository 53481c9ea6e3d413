import { describe, expect, it } from 'vitest'
import { readTable } from './readTable.ts'
import { firstSheet } from './sheetKinds.ts'
import type { SheetsSay } from './sheets.worker.ts'

const never = new AbortController().signal
const file = (bytes: Uint8Array | string, name = 'people.csv') =>
  new File([bytes as BlobPart], name, { type: '' })
const zip = new Uint8Array([0x50, 0x4b, 0x03, 0x04, 1, 2])

/** A reader that says what it is told to, and remembers whether it was ended. */
function reader(says: SheetsSay | null) {
  const state = { ended: false }
  const make = () => ({
    onmessage: null as ((event: MessageEvent) => void) | null,
    onerror: null,
    postMessage() {
      if (says) queueMicrotask(() => this.onmessage?.({ data: says } as MessageEvent))
    },
    terminate: () => {
      state.ended = true
    },
  })
  return { state, make: make as unknown as Parameters<typeof readTable>[2] }
}
const sheet = (name: string, lines: number, hidden = false) => ({ name, hidden, lines, text: name })

describe('a table from a file', () => {
  it('of text is read as spreadsheets save it', async () => {
    expect(await readTable(file('name;email'), never)).toEqual({ text: 'name;email' })
    const utf16 = new Uint8Array([0xff, 0xfe, 0x41, 0x00, 0x09, 0x00, 0x42, 0x00])
    expect(await readTable(file(utf16), never)).toEqual({ text: '\uFEFFA\tB'.slice(1) })
  })

  it('is refused in a sentence where it is neither text nor spreadsheet, or empty', async () => {
    const picture = new Uint8Array([0x89, 0x50, 0x4e, 0x47, 0, 0, 0, 13])
    await expect(readTable(file(picture, 'jar.csv'), never)).rejects.toThrow(/“jar.csv” is no table/)
    await expect(readTable(file(''), never)).rejects.toThrow(/is empty \(0 bytes\)/)
  })

  it('of a spreadsheet comes from the worker, which is ended whatever comes of it', async () => {
    const good = reader({ sheets: [sheet('A', 3)] })
    expect(await readTable(file(zip), never, good.make)).toEqual({ sheets: [sheet('A', 3)] })
    expect(good.state.ended).toBe(true)
    const bad = reader({ fault: 'The file is locked.' })
    await expect(readTable(file(zip), never, bad.make)).rejects.toThrow('The file is locked.')
    expect(bad.state.ended).toBe(true)
  })

  it('is stopped on a press', async () => {
    const slow = reader(null)
    const stop = new AbortController()
    const read = readTable(file(zip), stop.signal, slow.make)
    setTimeout(() => stop.abort(), 10)
    await expect(read).rejects.toMatchObject({ name: 'AbortError' })
    expect(slow.state.ended).toBe(true)
  })
})

it('the first sheet in sight that has something in it is taken', () => {
  expect(firstSheet([sheet('empty', 0), sheet('hidden', 9, true), sheet('people', 3)])).toBe(2)
  expect(firstSheet([sheet('empty', 0), sheet('hidden', 9, true)])).toBe(1)
  expect(firstSheet([])).toBe(0)
})

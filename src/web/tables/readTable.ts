import { readText } from '../data/readText.ts'
import { isSpreadsheet, type SheetText } from './sheetKinds.ts'
import type { SheetsSay } from './sheets.worker.ts'

/** A file that was read: its one text, or the sheets to choose from. */
export type TableRead = { text: string } | { sheets: SheetText[] }

/** A file that is no table, with a sentence that says why and what to do. */
export class TableFault extends Error {}

/** Bytes of a file of text. */
const MOST_TEXT = 20 * 1024 * 1024
/** Milliseconds after which a spreadsheet is given up. */
const PATIENCE = 60_000

/** Makes what reads spreadsheets, so that tests can have another. */
const newReader = () => new Worker(new URL('./sheets.worker.ts', import.meta.url), { type: 'module' })

/**
 * Reads a table from a file: a spreadsheet in a worker, anything else as text.
 * @throws TableFault for what is no table; `AbortError` once it is stopped
 */
export async function readTable(
  file: File,
  stopped: AbortSignal,
  reader: () => Pick<Worker, 'postMessage' | 'terminate' | 'onmessage' | 'onerror'> = newReader,
): Promise<TableRead> {
  const head = new Uint8Array(await file.slice(0, 4_096).arrayBuffer())
  if (isSpreadsheet(head)) return { sheets: await sheetsOf(await file.arrayBuffer(), stopped, reader) }
  if (file.size > MOST_TEXT)
    throw new TableFault(
      `“${file.name}” has more than 20 MiB, so it is no table of people. Choose another file.`,
    )
  const utf16 = (head[0] === 0xff && head[1] === 0xfe) || (head[0] === 0xfe && head[1] === 0xff)
  // No text has a NUL in it, but for UTF-16, where every second byte of Latin letters is one.
  if (!utf16 && head.includes(0))
    throw new TableFault(
      `“${file.name}” is no table: it is neither text nor a spreadsheet. Choose a spreadsheet or a CSV file.`,
    )
  if (file.size === 0) throw new TableFault(`“${file.name}” is empty (0 bytes). Choose another file.`)
  return { text: await readText(file) }
}

function sheetsOf(
  bytes: ArrayBuffer,
  stopped: AbortSignal,
  reader: () => Pick<Worker, 'postMessage' | 'terminate' | 'onmessage' | 'onerror'>,
): Promise<SheetText[]> {
  return new Promise((resolve, reject) => {
    const worker = reader()
    const end = () => {
      clearTimeout(patience)
      worker.terminate()
    }
    const fail = (why: string) => {
      end()
      reject(new TableFault(why))
    }
    const patience = setTimeout(
      () => fail('The spreadsheet takes too long to read. Save the one table that is needed as CSV.'),
      PATIENCE,
    )
    stopped.addEventListener('abort', () => {
      end()
      reject(new DOMException('stopped', 'AbortError'))
    })
    worker.onmessage = ({ data }: MessageEvent<SheetsSay>) => {
      if ('fault' in data) return fail(data.fault)
      end()
      resolve(data.sheets)
    }
    worker.onerror = () =>
      fail('The spreadsheet could not be read. Save the one table that is needed as CSV.')
    worker.postMessage(bytes, [bytes])
  })
}

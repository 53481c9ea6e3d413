/** One sheet of a spreadsheet file, as the text of a table. */
export interface SheetText {
  name: string
  /** Whether whoever made the file has hidden it. */
  hidden: boolean
  /** Lines that have something in them. */
  lines: number
  /** CSV (RFC 4180): dates as 2026-05-13, times as 13:30, numbers without grouping. */
  text: string
}

/** Whether a file is a spreadsheet by its content: a zip, or a compound file, as old and locked ones are. */
export function isSpreadsheet(bytes: Uint8Array): boolean {
  const begins = (...signature: number[]) => signature.every((byte, i) => bytes[i] === byte)
  return begins(0x50, 0x4b, 0x03, 0x04) || begins(0xd0, 0xcf, 0x11, 0xe0)
}

/** The sheet to begin with: the first in sight that has something in it. */
export function firstSheet(sheets: readonly SheetText[]): number {
  const filled = sheets.findIndex(({ hidden, lines }) => !hidden && lines > 0)
  return filled >= 0
    ? filled
    : Math.max(
        0,
        sheets.findIndex(({ lines }) => lines > 0),
      )
}

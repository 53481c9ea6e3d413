import type { SheetText } from './sheetKinds.ts'
import { SheetFault, sheetsIn } from './sheetsIn.ts'

// Reads spreadsheets apart from the page.

/** What is answered: the sheets, or why there are none. */
export type SheetsSay = { sheets: SheetText[] } | { fault: string }

const say = (said: SheetsSay) => self.postMessage(said)
self.onmessage = ({ data }: MessageEvent<ArrayBuffer>) => {
  try {
    say({ sheets: sheetsIn(new Uint8Array(data)) })
  } catch (error) {
    say({
      fault:
        error instanceof SheetFault
          ? error.message
          : 'The spreadsheet could not be read. Save the one table that is needed as CSV.',
    })
  }
}

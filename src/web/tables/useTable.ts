import { useEffect, useRef, useState } from 'react'
import { readTable, TableFault } from './readTable.ts'
import { firstSheet, type SheetText } from './sheetKinds.ts'

/** A table that is chosen from a file: how reading it goes, and which sheets there are. */
export interface TableChoice {
  /** The file’s name while it is being read. */
  reading: string | null
  /** Sheets to choose from; empty for text, and where there is only one. */
  sheets: readonly SheetText[]
  sheet: number
  fault: string | null
  choose: (file: File) => Promise<void>
  pick: (sheet: number) => void
  stop: () => void
  clear: () => void
}

/** Reads a table from a file. What is read is handed on, and again where another sheet is picked. */
export function useTable(onText: (text: string) => void): TableChoice {
  const [reading, setReading] = useState<string | null>(null)
  const [sheets, setSheets] = useState<readonly SheetText[]>([])
  const [sheet, setSheet] = useState(0)
  const [fault, setFault] = useState<string | null>(null)
  const going = useRef<AbortController | null>(null)
  useEffect(() => () => going.current?.abort(), [])
  const clear = () => {
    going.current?.abort()
    setSheets([])
    setFault(null)
  }
  return {
    reading,
    sheets: sheets.filter(({ lines }) => lines > 0).length > 1 ? sheets : [],
    sheet,
    fault,
    async choose(file) {
      clear()
      const own = new AbortController()
      going.current = own
      setReading(file.name)
      try {
        const read = await readTable(file, own.signal)
        if (own.signal.aborted) return
        if ('text' in read) return onText(read.text)
        const first = firstSheet(read.sheets)
        const text = read.sheets[first]?.text ?? ''
        if (text === '') throw new TableFault(`“${file.name}” has nothing in it. Choose another file.`)
        setSheets(read.sheets)
        setSheet(first)
        onText(text)
      } catch (error) {
        if (own.signal.aborted) return
        setFault(
          error instanceof TableFault
            ? error.message
            : `“${file.name}” could not be read. Save it anew and try again.`,
        )
      } finally {
        if (going.current === own) setReading(null)
      }
    },
    pick(next) {
      const text = sheets[next]?.text
      if (text === undefined) return
      setSheet(next)
      onText(text)
    },
    stop: () => {
      going.current?.abort()
      setReading(null)
    },
    clear,
  }
}

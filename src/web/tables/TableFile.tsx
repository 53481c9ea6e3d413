import { useRef } from 'react'
import { Button } from '../kit/Button.tsx'
import { Choice } from '../kit/Choice.tsx'
import { type TableChoice, useTable } from './useTable.ts'

/** Files that tables come in. */
export const TABLES =
  '.xlsx,.xlsm,.ods,.xls,.csv,.tsv,.txt,text/csv,text/plain,application/vnd.openxmlformats-officedocument.spreadsheetml.sheet,application/vnd.oasis.opendocument.spreadsheet'

/** Chooses a file with a table in it: a spreadsheet or a text. */
export function TableFile({
  label,
  file,
  size = 'small',
  onText,
}: {
  /** What stands on the button. */
  label: string
  /** What the file is of, for its field. */
  file: string
  size?: 'small' | 'medium'
  onText: (text: string) => void
}) {
  const input = useRef<HTMLInputElement>(null)
  const table = useTable(onText)
  return (
    <div className="flex flex-wrap items-center gap-2">
      <input
        ref={input}
        type="file"
        accept={TABLES}
        className="sr-only"
        tabIndex={-1}
        aria-label={file}
        onChange={({ target }) => {
          const [chosen] = target.files ?? []
          target.value = ''
          if (chosen) void table.choose(chosen)
        }}
      />
      <Button size={size} onClick={() => input.current?.click()}>
        {label}
      </Button>
      <TableState table={table} />
    </div>
  )
}

/** How the reading of a file goes: what is being read, which sheet is taken, or why it cannot be read. */
export function TableState({ table }: { table: TableChoice }) {
  const { reading, sheets, sheet, fault, pick, stop } = table
  return (
    <>
      {reading !== null && (
        <output className="flex flex-wrap items-center gap-2 text-soft">
          Reading “{reading}”…
          <Button size="small" onClick={stop}>
            Stop<span className="sr-only"> reading it</span>
          </Button>
        </output>
      )}
      {sheets.length > 0 && (
        <label className="flex items-center gap-2 text-soft">
          Sheet
          <Choice value={sheet} onValue={(value) => pick(Number(value))}>
            {sheets.map(({ name, hidden, lines }, i) => (
              <option key={name} value={i} disabled={lines === 0}>
                {name} ({lines === 1 ? '1 line' : `${lines} lines`}
                {hidden && ', hidden'})
              </option>
            ))}
          </Choice>
        </label>
      )}
      {fault !== null && (
        <p role="alert" className="text-ember">
          {fault}
        </p>
      )}
    </>
  )
}

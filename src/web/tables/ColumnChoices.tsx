import { Choice } from '../kit/Choice.tsx'

/** A column that can be pointed out. */
export interface WantedColumn<Column extends string> {
  column: Column
  label: string
}

/** What somebody said by hand of the columns of a table: which is which (−1 for none), and where its headings are. */
export interface PointedColumns<Column extends string> {
  columns: { [C in Column]?: number | undefined }
  headings?: 'first' | 'none' | undefined
}

/** A choice for each column of a table, also where it was recognised, and whether the first line has the headings. */
export function ColumnChoices<Column extends string>({
  wanted,
  header,
  found,
  headed,
  aLine,
  pointed,
  onChange,
}: {
  wanted: readonly WantedColumn<Column>[]
  /** What each column is called, or has in its first line. */
  header: readonly string[]
  /** Which column is which as it was read. */
  found: PointedColumns<Column>['columns']
  /** Whether a line of headings was read. */
  headed: boolean
  /** What a line is, where it is none of headings. */
  aLine: string
  pointed: PointedColumns<Column>
  onChange: (pointed: PointedColumns<Column>) => void
}) {
  return (
    <>
      {wanted.map(({ column, label }) => (
        <label key={column} className="flex flex-col text-sm text-soft">
          {label}
          <Choice
            className="w-36"
            value={pointed.columns[column] ?? found[column] ?? -1}
            onValue={(value) =>
              onChange({ ...pointed, columns: { ...pointed.columns, [column]: Number(value) } })
            }
          >
            <option value={-1}>not in it</option>
            {header.map((cell, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a column is its place in the line
              <option key={i} value={i}>
                {headed ? cell || `column ${i + 1}` : `column ${i + 1}: ${cell}`}
              </option>
            ))}
          </Choice>
        </label>
      ))}
      <label className="flex flex-col text-sm text-soft">
        The first line
        <Choice
          value={pointed.headings ?? (headed ? 'first' : 'none')}
          onValue={(value) =>
            onChange({ ...pointed, columns: {}, headings: value === 'none' ? 'none' : 'first' })
          }
        >
          <option value="first">has the headings</option>
          <option value="none">{aLine}</option>
        </Choice>
      </label>
    </>
  )
}

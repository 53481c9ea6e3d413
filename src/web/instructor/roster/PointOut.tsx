import { Choice } from '../../kit/Choice.tsx'

/** Columns that somebody pointed out by hand, counted from 0. */
export type Pointed = { [K in 'name' | 'email' | 'section' | 'role']?: number }

const WANTED: { column: keyof Pointed; label: string }[] = [
  { column: 'name', label: 'Name' },
  { column: 'email', label: 'Email' },
  { column: 'section', label: 'Section' },
  { column: 'role', label: 'Role' },
]

/** Lets somebody say which column is which, where their names were not recognised. */
export function PointOut({
  header,
  columns,
  onChange,
}: {
  header: readonly string[]
  columns: Pointed
  onChange: (columns: Pointed) => void
}) {
  return (
    <fieldset className="flex flex-wrap gap-3">
      <legend className="mb-1 text-soft">Say which column is which, then look again:</legend>
      {WANTED.map(({ column, label }) => (
        <label key={column} className="flex flex-col text-sm text-soft">
          {label}
          <Choice
            value={columns[column] ?? ''}
            onValue={(value) => {
              const { [column]: _, ...others } = columns
              onChange(value === '' ? others : { ...others, [column]: Number(value) })
            }}
          >
            <option value="">by its name, or none</option>
            {header.map((cell, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a column is its place in the line
              <option key={i} value={i}>
                {cell || `column ${i + 1}`}
              </option>
            ))}
          </Choice>
        </label>
      ))}
    </fieldset>
  )
}

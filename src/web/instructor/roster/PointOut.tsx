import type { RosterColumns } from '../../../contract/roster.ts'
import type { Commas } from '../../../core/formats/rosterLines.ts'
import { Choice } from '../../kit/Choice.tsx'
import { ColumnChoices, type WantedColumn } from '../../tables/ColumnChoices.tsx'

/**
 * What somebody said by hand of how a file is read: which column is which (−1 for none), where its headings are, how names
 * with a comma read, and the section of everybody.
 */
export interface Pointed {
  columns: RosterColumns
  headings?: 'first' | 'none' | undefined
  commas?: Commas | undefined
  section?: string | undefined
}

const WANTED: WantedColumn<keyof RosterColumns>[] = [
  { column: 'name', label: 'Name' },
  { column: 'given', label: 'Given name' },
  { column: 'surname', label: 'Surname' },
  { column: 'called', label: 'Called' },
  { column: 'number', label: 'Student number' },
  { column: 'email', label: 'Email' },
  { column: 'section', label: 'Section' },
  { column: 'role', label: 'Role' },
]

/** Lets somebody say which column is which, also where it was recognised, and whether the first line has headings. */
export function PointOut({
  header,
  found,
  headed,
  commas,
  sections,
  pointed,
  onChange,
}: {
  /** What each column is called, or has in its first line. */
  header: readonly string[]
  /** Which column is which as it was read. */
  found: RosterColumns
  /** Whether a line of headings was read. */
  headed: boolean
  /** How names with a comma were read; null where there are none. */
  commas: Commas | null
  /** The course’s sections, to put everybody in one; none where the file has a column of them. */
  sections: readonly string[]
  pointed: Pointed
  onChange: (pointed: Pointed) => void
}) {
  return (
    <fieldset className="flex flex-wrap gap-3">
      <legend className="sr-only">Which column is which</legend>
      <ColumnChoices
        wanted={WANTED}
        header={header}
        found={found}
        headed={headed}
        aLine="is a person"
        pointed={pointed}
        onChange={(next) => onChange({ ...pointed, ...next })}
      />
      {commas && (
        <label className="flex flex-col text-sm text-soft">
          A name with a comma
          <Choice value={commas} onValue={(value) => onChange({ ...pointed, commas: value as Commas })}>
            <option value="surname-first">has the surname first</option>
            <option value="as-is">stays as it stands</option>
          </Choice>
        </label>
      )}
      {sections.length > 0 && (
        <label className="flex flex-col text-sm text-soft">
          Section of everybody
          <Choice
            value={pointed.section ?? ''}
            onValue={(value) => onChange({ ...pointed, section: value || undefined })}
          >
            <option value="">as the file says</option>
            {sections.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </Choice>
        </label>
      )}
    </fieldset>
  )
}

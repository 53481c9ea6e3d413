import { type ReactNode, useState } from 'react'
import type { RosterPreview, Unlisted } from '../../../contract/roster.ts'
import { LIMITS } from '../../../core/limits.ts'
import { Button } from '../../kit/Button.tsx'
import { Check } from '../../kit/Check.tsx'
import { Choice } from '../../kit/Choice.tsx'

const people = (n: number) => (n === 1 ? '1 person' : `${n} people`)
/** Lines of one kind that are listed; the rest is counted. */
const MOST = 200

/** How a file is brought in once it was looked at. */
export interface Bringing {
  skipFaults: boolean
  unlisted: Unlisted
  freeSeats: boolean
}

/** What a roster file would change, line by line, before anything is written. */
export function Preview({
  preview,
  busy,
  keep,
  onKeep,
  onSections,
  onBring,
  onClose,
}: {
  preview: RosterPreview
  busy: boolean
  /** Further columns that are kept. */
  keep: readonly string[]
  onKeep: (columns: string[]) => void
  /** Adds the sections that the file names and the course does not have. */
  onSections: (names: readonly string[]) => void
  onBring: (how: Bringing) => void
  onClose: () => void
}) {
  const { fresh, changed, unchanged, missing, faults, sections, spare, attributes } = preview
  const wrong = new Set(faults.map(({ line }) => line)).size
  const [unlisted, setUnlisted] = useState<Unlisted>('leave')
  const [freeSeats, setFreeSeats] = useState(true)
  const gone = unlisted === 'leave' ? 0 : missing.length
  const good = fresh.length + changed.length + gone + attributes
  return (
    <div className="border-t tear p-4">
      <dl className="mb-4 flex flex-wrap gap-x-8 gap-y-2">
        <Figure n={fresh.length} what="new" tone="text-moss" />
        <Figure n={changed.length} what="changed" />
        <Figure
          n={wrong}
          what={wrong === 1 ? 'line wrong' : 'lines wrong'}
          tone={wrong > 0 ? 'text-ember' : ''}
        />
        <Figure n={missing.length} what="not in this file" />
        <Figure n={unchanged} what="as before" />
      </dl>
      {sections.length > 0 && (
        <p className="mb-3 flex flex-wrap items-center gap-x-3 gap-y-1 rounded-field bg-sun-soft px-3 py-1.5">
          <span>
            The course has no section {sections.map((name) => `“${name}”`).join(', ')}. Topics that have a
            group in each section would get one there too.
          </span>
          <Button size="small" busy={busy} onClick={() => onSections(sections)}>
            {sections.length === 1 ? 'Add this section' : 'Add these sections'}
          </Button>
        </p>
      )}
      {faults.length > 0 && (
        <Lines title="Wrong" open heads={['Line', 'Found', 'What is wrong']}>
          {faults.slice(0, MOST).map(({ line, field, found, message }) => (
            <tr key={`${line}${field}${message}`} className="border-b border-line last:border-0">
              <td className="figures px-3 py-1 font-semibold text-ember">{line}</td>
              <td className="px-3 py-1">{found || <span className="text-faint">nothing</span>}</td>
              <td className="px-3 py-1">{message}</td>
            </tr>
          ))}
        </Lines>
      )}
      {changed.length > 0 && (
        <Lines title="Changed" open heads={['Line', 'Name', 'What changes']}>
          {changed.slice(0, MOST).map(({ line, name, email, changes, keepsSeats }) => (
            <tr key={email} className="border-b border-line last:border-0">
              <td className="figures px-3 py-1">{line}</td>
              <td className="px-3 py-1 font-semibold">{name}</td>
              <td className="px-3 py-1">
                {changes
                  .map(({ field, from, to }) => `${field}: ${from ?? 'none'} → ${to ?? 'none'}`)
                  .join('; ')}
                {keepsSeats.length > 0 && (
                  <span className="text-sun-ink">; keeps the seat at {keepsSeats.join(', ')}</span>
                )}
              </td>
            </tr>
          ))}
        </Lines>
      )}
      {fresh.length > 0 && (
        <Lines title="New" open={fresh.length <= 12} heads={['Line', 'Name', 'Email', 'Section', 'Role']}>
          {fresh.slice(0, MOST).map(({ line, name, email, section, role }) => (
            <tr key={email} className="border-b border-line last:border-0">
              <td className="figures px-3 py-1">{line}</td>
              <td className="px-3 py-1 font-semibold">{name}</td>
              <td className="px-3 py-1 text-soft">{email}</td>
              <td className="px-3 py-1">{section}</td>
              <td className="px-3 py-1 text-soft">{role}</td>
            </tr>
          ))}
        </Lines>
      )}
      {missing.length > 0 && (
        <>
          <Lines title="Not in this file" heads={['Name', 'Email', 'Section', 'Sits at']}>
            {missing.slice(0, MOST).map(({ name, email, section, seats }) => (
              <tr key={email} className="border-b border-line last:border-0">
                <td className="px-3 py-1 font-semibold">{name}</td>
                <td className="px-3 py-1 text-soft">{email}</td>
                <td className="px-3 py-1">{section}</td>
                <td className="px-3 py-1 text-soft">{seats.join(', ')}</td>
              </tr>
            ))}
          </Lines>
          <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
            <label className="flex items-center gap-2">
              Those {missing.length} who are not in this file
              <Choice value={unlisted} onValue={(value) => setUnlisted(value as Unlisted)}>
                <option value="leave">stay as they are</option>
                <option value="pause">are paused</option>
                <option value="left">have left</option>
              </Choice>
            </label>
            {gone > 0 && (
              <Check checked={freeSeats} onValue={setFreeSeats}>
                Free their seats
              </Check>
            )}
          </div>
        </>
      )}
      {spare.length > 0 && (
        <fieldset className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-1">
          <legend className="float-left mr-4">Keep for mixing groups, seen by staff alone:</legend>
          {spare.map((column) => (
            <Check
              key={column}
              checked={keep.includes(column)}
              disabled={!keep.includes(column) && keep.length >= LIMITS.attributes}
              onValue={(on) => onKeep(on ? [...keep, column] : keep.filter((one) => one !== column))}
            >
              {column}
            </Check>
          ))}
        </fieldset>
      )}
      <div className="flex flex-wrap items-center gap-2">
        {good > 0 ? (
          <Button
            look="main"
            busy={busy}
            onClick={() => onBring({ skipFaults: wrong > 0, unlisted, freeSeats: freeSeats && gone > 0 })}
          >
            {`${fresh.length + changed.length > 0 ? `Import ${people(fresh.length + changed.length)}` : gone > 0 ? `Change ${people(gone)}` : `Keep the columns of ${people(attributes)}`}${wrong > 0 ? `, leave out ${wrong} wrong` : ''}`}
          </Button>
        ) : (
          <p className="text-soft">
            {wrong > 0 ? 'No line can be imported as it is.' : 'The roster already says the same.'}
          </p>
        )}
        <Button look="quiet" onClick={onClose}>
          {good > 0 ? 'Leave the roster as it is' : 'Close'}
        </Button>
      </div>
    </div>
  )
}

function Figure({ n, what, tone = '' }: { n: number; what: string; tone?: string }) {
  return (
    <div className="flex flex-col-reverse">
      <dt className="text-soft">{what}</dt>
      <dd className={`figures font-display text-2xl leading-tight font-bold ${n > 0 ? tone : 'text-faint'}`}>
        {n}
      </dd>
    </div>
  )
}

function Lines({
  title,
  heads,
  open = false,
  children,
}: {
  title: string
  heads: string[]
  open?: boolean
  children: ReactNode[]
}) {
  return (
    <details open={open} className="mb-3 rounded-field border border-line">
      <summary className="cursor-pointer px-3 py-1.5 font-semibold">
        {title}{' '}
        {children.length === MOST && <span className="font-normal text-soft">(the first {MOST})</span>}
      </summary>
      <div className="max-h-72 overflow-auto border-t border-line">
        <table className="w-full border-collapse text-left">
          <thead className="text-sm text-soft">
            <tr>
              {heads.map((head) => (
                <th key={head} scope="col" className="px-3 py-1 font-semibold">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>{children}</tbody>
        </table>
      </div>
    </details>
  )
}

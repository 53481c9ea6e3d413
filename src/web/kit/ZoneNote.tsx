import { tzOffset } from '@date-fns/tz'
import { useState } from 'react'
import { msOf } from '../../core/instant.ts'
import { sayInstant } from '../../core/zone.ts'
import { serverNow } from '../data/clock.ts'

const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone

/** A time of the page, with what it is the time of. */
export interface NamedTime {
  what: string
  at: string | null
}

/**
 * Says once on a page in which zone its times are, where the reader's device has another one; on demand with the times
 * that matter as the reader's own clock will show them.
 */
export function ZoneNote({ zone, times }: { zone: string; times: readonly NamedTime[] }) {
  const [shown, setShown] = useState(false)
  const own = times.flatMap(({ what, at }) => (at === null ? [] : [{ what, at }]))
  const instants = [...own.map(({ at }) => at), serverNow()]
  const elsewhere = instants.some(
    (at) => tzOffset(zone, new Date(at)) !== -new Date(msOf(at)).getTimezoneOffset(),
  )
  if (!elsewhere) return null
  return (
    <div className="text-sm text-soft">
      <p className="flex flex-wrap items-center gap-x-2">
        Times here are those of {zone.replaceAll('_', ' ')}.
        {own.length > 0 && (
          <button
            type="button"
            aria-expanded={shown}
            onClick={() => setShown(!shown)}
            className="min-h-8 font-semibold text-seat underline underline-offset-2 pointer-coarse:min-h-11"
          >
            {shown ? 'Hide your time' : 'In your time'}
          </button>
        )}
      </p>
      {shown && (
        <ul className="figures">
          {own.map(({ what, at }) => (
            <li key={`${what}${at}`}>
              {what} {sayInstant(at, HERE)} in {HERE.replaceAll('_', ' ')}
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}

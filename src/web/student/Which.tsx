import { useState } from 'react'
import { Ask } from '../kit/Ask.tsx'
import type { Pending } from './useClaiming.ts'

/** Asks which of several seats is left for the new one. */
export function Which({
  pending,
  titleOf,
  onYes,
  onNo,
}: {
  pending: Extract<Pending, { kind: 'which' }>
  titleOf: (code: string) => string
  onYes: (from: string) => void
  onNo: () => void
}) {
  const [from, setFrom] = useState(pending.from[0] ?? '')
  return (
    <Ask open title={`Move to ${pending.to.title}`} yes="Move here" onNo={onNo} onYes={() => onYes(from)}>
      <fieldset className="flex flex-col gap-1">
        <legend className="mb-1">Which seat do you leave?</legend>
        {pending.from.map((code) => (
          <label key={code} className="flex min-h-11 items-center gap-2 text-ink">
            <input
              type="radio"
              name="from"
              checked={from === code}
              onChange={() => setFrom(code)}
              className="size-4 accent-seat"
            />
            {titleOf(code)}
          </label>
        ))}
      </fieldset>
    </Ask>
  )
}

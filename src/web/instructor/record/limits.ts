import type { SentLimit } from '../../../contract/fields.ts'
import { NO_LIMIT } from '../../../core/limit.ts'

/** A limit as a field shows it. */
export function sayLimit(seats: number | null): string {
  if (seats === null) return ''
  return seats === NO_LIMIT ? 'none' : String(seats)
}

/** A limit as it was typed; empty follows what is common. Text that is neither is sent as it is, and refused. */
export function typedLimit(text: string): SentLimit | null {
  const typed = text.trim().toLowerCase()
  if (typed === '') return null
  return typed === 'none'
    ? 'none'
    : ((/^-?\d+([.,]\d+)?$/.test(typed) ? Number(typed.replace(',', '.')) : typed) as number)
}

/** A limit that was kept, as it is sent to bring it back. */
export function sentLimit(seats: number | null): SentLimit | null {
  return seats === NO_LIMIT ? 'none' : seats
}

/** A number as it was typed; empty follows what is common. */
export function typedNumber(text: string): number | null {
  const typed = text.trim()
  return typed === ''
    ? null
    : ((/^-?\d+([.,]\d+)?$/.test(typed) ? Number(typed.replace(',', '.')) : typed) as number)
}

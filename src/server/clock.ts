import { type Instant, instantFromMs } from '../core/instant.ts'

/** Tells the present instant. Handed around, so that tests and the sample data can set it. */
export type Clock = () => Instant

let last = { ms: Number.NaN, text: '' }

/** The machine's clock. Within a millisecond it is asked many times, and writes the time once. */
export const systemClock: Clock = () => {
  const ms = Date.now()
  if (ms !== last.ms) last = { ms, text: instantFromMs(ms) }
  return last.text
}

import { type Instant, instantFromMs } from '../core/instant.ts'

/** Tells the present instant. Handed around, so that tests and the sample data can set it. */
export type Clock = () => Instant

/** The machine's clock. */
export const systemClock: Clock = () => instantFromMs(Date.now())

import { HOUR, type Instant, MINUTE, msOf } from '../../core/instant.ts'
import { ProblemError } from '../http/problem.ts'
import { createRecent } from '../recent.ts'

/** Things that one student may do within an hour whose doing sends mail to others, each kind for itself. */
const AN_HOUR = { invitations: 30, 'hand-ins': 30 } as const

export type Allowance = ReturnType<typeof createAllowance>

/** Bounds how much mail to others one person can cause, by what causes it. */
export function createAllowance() {
  const done = createRecent(HOUR)
  return {
    /**
     * Counts something that sends mail to others.
     * @throws ProblemError `too-many-tries`, with when it can be done again
     */
    spend(kind: keyof typeof AN_HOUR, enrolmentId: number, now: Instant): void {
      const name = `${kind} ${enrolmentId}`
      if (done.count(name, now) >= AN_HOUR[kind]) {
        const wait = msOf(done.firstEnds(name, now) ?? now) - msOf(now)
        const minutes = Math.ceil(wait / MINUTE)
        throw new ProblemError(
          'too-many-tries',
          `You have made ${AN_HOUR[kind]} ${kind} within an hour, and each sends mail to others. Wait ${minutes} ${minutes === 1 ? 'minute' : 'minutes'}; what you wrote is kept.`,
          { retryAfter: Math.ceil(wait / 1_000) },
        )
      }
      done.note(name, now)
    },
  }
}

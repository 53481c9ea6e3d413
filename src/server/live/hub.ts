import { createChannel, type Session } from 'better-sse'
import { LIVE_EVENTS } from '../../contract/live.ts'
import { type ChangeSources, type Changes, changesSince } from './changes.ts'

/** Changes are gathered this long (milliseconds) and told in one message. */
const GATHER_MS = 150

/** The members of one sheet who listen: students get counts, tutors and instructors also who. */
interface Channels {
  students: ReturnType<typeof createChannel>
  staff: ReturnType<typeof createChannel>
}

interface Audience extends Channels {
  /** Ledger position up to which everybody has been told. */
  told: number
  timer: NodeJS.Timeout | null
}

export type Hub = ReturnType<typeof createHub>

/** Tells open pages what changed on their sheet. The ledger is what is told, so a reader can go on from any position. */
export function createHub(sources: ChangeSources) {
  const audiences = new Map<number, Audience>()
  const ends = new Set<() => void>()

  const audienceOf = (sheetId: number): Audience => {
    const known = audiences.get(sheetId)
    if (known) return known
    const told = sources.ledger.newest(sheetId)
    const audience: Audience = { students: createChannel(), staff: createChannel(), told, timer: null }
    audiences.set(sheetId, audience)
    return audience
  }

  const tell = (sheetId: number, audience: Audience): void => {
    audience.timer = null
    const changes = changesSince(sheetId, audience.told, sources)
    if (!changes) return
    audience.told = changes.position
    const eventId = String(changes.position)
    for (const as of ['students', 'staff'] as const) {
      const [event, data] = messageFor(as, changes)
      audience[as].broadcast(data, event, { eventId })
    }
  }

  return {
    /** Says that something was written to a sheet's ledger. Call after the commit. */
    touched(sheetId: number): void {
      const audience = audiences.get(sheetId)
      if (!audience || audience.timer) return
      audience.timer = setTimeout(() => tell(sheetId, audience), GATHER_MS)
    },
    /** Asks everybody on these sheets to fetch their view anew, for what no ledger tells (the roster). */
    refresh(sheetIds: readonly number[]): void {
      for (const id of sheetIds) {
        const audience = audiences.get(id)
        if (!audience) continue
        for (const channel of [audience.students, audience.staff]) {
          channel.broadcast({}, LIVE_EVENTS.refresh, { eventId: String(audience.told) })
        }
      }
    },
    /**
     * Lets a reader listen from a position on: what happened after it is sent at once.
     * @param end ends the reader's connection, for a shutdown
     */
    listen(sheetId: number, session: Session, as: keyof Channels, since: number, end: () => void): void {
      const audience = audienceOf(sheetId)
      const missed = changesSince(sheetId, since, sources)
      if (missed) {
        const [event, data] = messageFor(as, missed)
        session.push(data, event, String(missed.position))
      }
      audience[as].register(session)
      ends.add(end)
      session.once('disconnected', () => ends.delete(end))
    },
    /** Ends all streams, for a shutdown. */
    close(): void {
      for (const { timer } of audiences.values()) if (timer) clearTimeout(timer)
      for (const end of ends) end()
      audiences.clear()
      ends.clear()
    },
  }
}

function messageFor(as: keyof Channels, changes: Changes): [event: string, data: unknown] {
  if (changes.refresh || (as === 'staff' && changes.lines)) return [LIVE_EVENTS.refresh, {}]
  return as === 'students' ? [LIVE_EVENTS.counts, changes.counts] : [LIVE_EVENTS.seats, changes.seats]
}

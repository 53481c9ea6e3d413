import { createEventBuffer, type Session } from 'better-sse'
import { LIVE_EVENTS, type PlaceEvent } from '../../contract/live.ts'
import { type ChangeSources, type Changes, changesSince } from './changes.ts'

/** Changes are gathered this long (milliseconds) and told in one message: four a second for each reader at most. */
const GATHER_MS = 250
/** Readers are asked to spread their fetches over this long (milliseconds) for each of them, up to a limit. */
const SPREAD_EACH_MS = 3
const SPREAD_MOST_MS = 5_000
/** Bytes that may wait to be read by one reader. Somebody slower is cut off, and goes on from where they were. */
const MOST_UNREAD = 256 * 1024

/** Streams that one person may have open at once, over all sheets and browsers. */
const MOST_STREAMS = 8

/** Somebody who listens to a sheet: students get counts, tutors and instructors also who. */
export interface Listener {
  session: Session
  as: 'student' | 'staff'
  enrolmentId: number
  personId: number
  /** The session in which it was opened, by its hash: the stream ends with it. */
  signedIn: string | null
  /** Bytes sent that the reader has not taken yet. */
  unread: () => number
  /** Ends the connection. */
  end: () => void
}

interface Audience {
  listeners: Set<Listener>
  /** Ledger position up to which everybody has been told. */
  told: number
  timer: NodeJS.Timeout | null
}

type Message = [event: string, data: unknown]

export type Hub = ReturnType<typeof createHub>

/** Tells open pages what changed on their sheet. The ledger is what is told, so a reader can go on from any position. */
export function createHub(sources: ChangeSources) {
  const audiences = new Map<number, Audience>()
  /** Streams that are open, by whose they are, the oldest first. */
  const open = new Map<number, Listener[]>()

  const audienceOf = (sheetId: number): Audience => {
    const known = audiences.get(sheetId)
    if (known) return known
    const audience = { listeners: new Set<Listener>(), told: sources.ledger.newest(sheetId), timer: null }
    audiences.set(sheetId, audience)
    return audience
  }

  const dismissStrangers = (sheetId: number, audience: Audience): void => {
    for (const listener of audience.listeners)
      if (!standsFor(sheetId, listener, sources)) dismiss(audience, listener)
  }

  const tell = (sheetId: number, audience: Audience): void => {
    audience.timer = null
    const changes = changesSince(sheetId, audience.told, sources)
    if (!changes) return
    audience.told = changes.position
    // For whom the sheet is may have changed.
    if (changes.refresh) dismissStrangers(sheetId, audience)
    broadcast(audience, changes, changes.position)
  }

  return {
    /** Says that something was written to a sheet's ledger. Call after the commit. */
    touched(sheetId: number): void {
      const audience = audiences.get(sheetId)
      if (!audience || audience.timer) return
      audience.timer = setTimeout(() => tell(sheetId, audience), GATHER_MS)
    },
    /**
     * Asks everybody on these sheets to fetch their view anew, for what no ledger tells (the roster). Whoever has no
     * place there any more, or another one than the stream was opened for, loses the stream.
     */
    refresh(sheetIds: readonly number[]): void {
      for (const id of sheetIds) {
        const audience = audiences.get(id)
        if (!audience) continue
        dismissStrangers(id, audience)
        const nothing = { counts: { groups: [] }, seats: { changes: [] }, own: new Map<number, number>() }
        const all = { ...nothing, position: audience.told, staffRefresh: true, refresh: true }
        broadcast(audience, all, audience.told)
      }
    },
    /** Tells those who reach a group that something on its page changed. */
    place(sheetId: number, group: string, hears: ReadonlySet<number>): void {
      const audience = audiences.get(sheetId)
      if (!audience) return
      for (const { enrolmentId, session, unread } of audience.listeners)
        if (hears.has(enrolmentId) && unread() <= MOST_UNREAD)
          session.push({ group } satisfies PlaceEvent, LIVE_EVENTS.place, String(audience.told))
    },
    /** Lets a reader listen from a position on: what happened after it is sent at once. */
    listen(sheetId: number, listener: Listener, since: number): void {
      const audience = audienceOf(sheetId)
      const missed = changesSince(sheetId, since, sources)
      if (missed) {
        for (const [event, data] of messagesFor(listener, missed, 0)) {
          listener.session.push(data, event, String(missed.position))
        }
      }
      audience.listeners.add(listener)
      const { personId } = listener
      const own = open.get(personId) ?? []
      own.push(listener)
      open.set(personId, own)
      // Whoever opens one too many looks at that one: the oldest ends, and is told so that it does not come back at once.
      if (own.length > MOST_STREAMS) {
        const oldest = own.shift()
        oldest?.session.push({}, LIVE_EVENTS.elsewhere)
        oldest?.end()
      }
      listener.session.once('disconnected', () => {
        audience.listeners.delete(listener)
        const left = (open.get(personId) ?? []).filter((one) => one !== listener)
        if (left.length > 0) open.set(personId, left)
        else open.delete(personId)
        if (audience.listeners.size > 0) return
        if (audience.timer) clearTimeout(audience.timer)
        audiences.delete(sheetId)
      })
    },
    /** Ends the streams that were opened in a session: it is over. */
    endSession(session: string): void {
      for (const audience of audiences.values())
        for (const listener of audience.listeners)
          if (listener.signedIn === session) dismiss(audience, listener)
    },
    /** Readers of all sheets. */
    listening: () => [...audiences.values()].reduce((sum, { listeners }) => sum + listeners.size, 0),
    /** Ends all streams, for a shutdown. */
    close(): void {
      for (const { timer, listeners } of audiences.values()) {
        if (timer) clearTimeout(timer)
        for (const { end } of listeners) end()
      }
      audiences.clear()
    },
  }
}

/** Whether a reader still has the place in the course that the stream was opened for, and the sheet is for them. */
function standsFor(
  sheetId: number,
  { enrolmentId, as }: Listener,
  { roster, sheets, audience }: ChangeSources,
): boolean {
  const enrolment = roster.enrolment(enrolmentId)
  if (!enrolment || enrolment.status === 'left') return false
  if (as !== (enrolment.role === 'student' ? 'student' : 'staff')) return false
  const sheet = sheets.byId(sheetId)
  return as === 'staff' || (sheet !== undefined && audience.has(sheet, enrolment))
}

/** Ends a stream whose reader has no right to it any more: the page asks for its view, and is told so. */
function dismiss({ listeners }: Audience, listener: Listener): void {
  const { session, end } = listener
  listeners.delete(listener)
  session.push({ within: 0 }, LIVE_EVENTS.refresh)
  end()
}

/** Sends everybody what concerns them. A message is written once and sent to all who get it. */
function broadcast({ listeners }: Audience, changes: Changes, position: number): void {
  const within = Math.min(SPREAD_MOST_MS, listeners.size * SPREAD_EACH_MS)
  const written = new Map<string, ReturnType<typeof createEventBuffer>>()
  for (const listener of listeners) {
    if (listener.unread() > MOST_UNREAD) {
      listener.end()
      continue
    }
    const own = changes.own.get(listener.enrolmentId)
    const key = `${listener.as} ${own ?? ''}`
    let buffer = written.get(key)
    if (!buffer) {
      buffer = createEventBuffer()
      for (const [event, data] of messagesFor(listener, changes, within)) {
        buffer.push(data, event, String(position))
      }
      written.set(key, buffer)
    }
    if (buffer.read() !== '') void listener.session.batch(buffer)
  }
}

function messagesFor({ as, enrolmentId }: Listener, changes: Changes, within: number): Message[] {
  if (as === 'staff') {
    // Staff are few: they need not spread their fetches.
    return changes.staffRefresh
      ? [[LIVE_EVENTS.refresh, { within: 0 }]]
      : [[LIVE_EVENTS.seats, changes.seats]]
  }
  if (changes.refresh) return [[LIVE_EVENTS.refresh, { within }]]
  const position = changes.own.get(enrolmentId)
  return [
    ...(changes.counts.groups.length > 0 ? [[LIVE_EVENTS.counts, changes.counts] satisfies Message] : []),
    ...(position === undefined ? [] : [[LIVE_EVENTS.own, { position }] satisfies Message]),
  ]
}

import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import { createKeeper } from '../db/kept.ts'
import type { Db } from '../db/open.ts'

/** A mail to sign in, by what is kept of it. */
export interface SignInCode {
  id: number
  person_id: number
  /** The browser that asked for it and the network it asked from. */
  asker: string
  network: string
  /** None where only the link was sent. */
  code_hash: string | null
  link_hash: string
  expires_at: Instant
  used_at: Instant | null
}

export interface Session {
  id: number
  person_id: number
  /** What names it to its person. */
  code: string
  /** In which kind of browser it was begun, in words. */
  device: string
  created_at: Instant
  last_seen_at: Instant
}

/** A session as it is begun. */
export interface SessionFields {
  code: string
  device: string
  /** The browser, as its cookie for asking has it; empty where it had none. */
  asker: string
}

export type AccessStore = ReturnType<typeof createAccessStore>

/** One-time codes and sessions. Both are kept as hashes only. */
export function createAccessStore(database: Db) {
  const { db, keep } = createKeeper(database)
  const CODE =
    'SELECT id, person_id, asker, network, code_hash, link_hash, expires_at, used_at FROM sign_in_code'
  const addCode = db.prepare<[number, string, string, string | null, string, Instant, Instant]>(
    `INSERT INTO sign_in_code (person_id, asker, network, code_hash, link_hash, created_at, expires_at)
     VALUES (?, ?, ?, ?, ?, ?, ?)`,
  )
  const askedByBrowser = db.prepare<[number, string], SignInCode>(
    `${CODE} WHERE person_id = ? AND asker = ? ORDER BY id DESC LIMIT 1`,
  )
  const askedFromNetwork = db.prepare<[number, string], SignInCode>(
    `${CODE} WHERE person_id = ? AND network = ? ORDER BY id DESC LIMIT 1`,
  )
  const codeByLink = db.prepare<[string], SignInCode>(`${CODE} WHERE link_hash = ?`)
  const markUsed = db.prepare<[Instant, number]>('UPDATE sign_in_code SET used_at = ? WHERE id = ?')
  const dropCodes = db.prepare<[Instant]>('DELETE FROM sign_in_code WHERE expires_at < ?')
  const SESSION = 'SELECT id, person_id, code, device, created_at, last_seen_at FROM session'
  const addSession = db.prepare<[string, number, string, string, string, Instant, Instant]>(
    `INSERT INTO session (token_hash, person_id, code, device, asker, created_at, last_seen_at)
     VALUES (?, ?, ?, ?, ?, ?, ?)`,
  )
  const sessionByHash = db.prepare<[string], Session>(`${SESSION} WHERE token_hash = ?`)
  const sessionsOf = db.prepare<[number], Session>(
    `${SESSION} WHERE person_id = ? ORDER BY last_seen_at DESC, id DESC`,
  )
  const letIn = db
    .prepare<[number, string], 1>('SELECT 1 FROM session WHERE person_id = ? AND asker = ? LIMIT 1')
    .pluck()
  const hashOf = db
    .prepare<[number, string], string>('SELECT token_hash FROM session WHERE person_id = ? AND code = ?')
    .pluck()
  const hashesOf = db.prepare<[number], string>('SELECT token_hash FROM session WHERE person_id = ?').pluck()
  const seen = db.prepare<[Instant, number]>('UPDATE session SET last_seen_at = ? WHERE id = ?')
  const endSession = db.prepare<[string]>('DELETE FROM session WHERE token_hash = ?')
  const dropIdle = db.prepare<[Instant]>('DELETE FROM session WHERE last_seen_at < ?')
  const dropOld = db.prepare<[Instant]>('DELETE FROM session WHERE created_at < ?')
  return {
    addCode: (sent: Omit<SignInCode, 'id' | 'expires_at' | 'used_at'>, now: Instant, expires: Instant) =>
      addCode.run(sent.person_id, sent.asker, sent.network, sent.code_hash, sent.link_hash, now, expires),
    /**
     * The mail that was sent last to a person at the asking of this browser, or where it has no cookie of this network;
     * used or not: an older one never counts again.
     */
    codeAskedBy: (personId: number, { browser, network }: { browser: string | null; network: string }) =>
      browser === null ? askedFromNetwork.get(personId, network) : askedByBrowser.get(personId, browser),
    /** The mail that was sent last to a person at the asking of a browser, by its id. */
    newestOf: (personId: number, browser: string) => askedByBrowser.get(personId, browser)?.id,
    codeByLink: (hash: string) => codeByLink.get(hash),
    markUsed: (id: number, now: Instant) => markUsed.run(now, id),
    dropCodesExpiredBefore: (instant: Instant) => dropCodes.run(instant),
    addSession: (
      hash: string,
      personId: number,
      now: Instant,
      { code, device, asker }: SessionFields = { code: newCode(), device: '', asker: '' },
    ) => addSession.run(hash, personId, code, device, asker, now, now),
    /** A person's sessions, those used last first. */
    sessionsOf: (personId: number) => sessionsOf.all(personId),
    /** Whether a browser has a session of this person, as its cookie for asking has it. */
    letInBefore: (personId: number, asker: string) => letIn.get(personId, asker) === 1,
    /** Ends one session of a person; gives its hash, or undefined where there is none. */
    endOne(personId: number, code: string): string | undefined {
      const hash = hashOf.get(personId, code)
      if (hash !== undefined) endSession.run(hash)
      return hash
    },
    /** Ends all sessions of a person; gives their hashes. */
    endAll(personId: number): string[] {
      const hashes = hashesOf.all(personId)
      for (const hash of hashes) endSession.run(hash)
      return hashes
    },
    session: keep((hash: string) => sessionByHash.get(hash)),
    seen: (id: number, now: Instant) => seen.run(now, id),
    endSession: (hash: string) => endSession.run(hash),
    /** Forgets sessions that were not used since an instant, or begun before another. */
    dropSessions(idleSince: Instant, begunBefore: Instant): void {
      dropIdle.run(idleSince)
      dropOld.run(begunBefore)
    },
  }
}

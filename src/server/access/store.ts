import type { Instant } from '../../core/instant.ts'
import { createKeeper } from '../db/kept.ts'
import type { Db } from '../db/open.ts'

export interface SignInCode {
  id: number
  code_hash: string
  expires_at: Instant
  tries_left: number
  used_at: Instant | null
}

export interface Session {
  id: number
  person_id: number
  created_at: Instant
  last_seen_at: Instant
}

export type AccessStore = ReturnType<typeof createAccessStore>

/** One-time codes and sessions. Both are kept as hashes only. */
export function createAccessStore(database: Db) {
  const { db, keep } = createKeeper(database)
  const addCode = db.prepare<[number, string, Instant, Instant, number]>(
    'INSERT INTO sign_in_code (person_id, code_hash, created_at, expires_at, tries_left) VALUES (?, ?, ?, ?, ?)',
  )
  const codesSince = db
    .prepare<[number, Instant], number>(
      'SELECT count(*) FROM sign_in_code WHERE person_id = ? AND created_at > ?',
    )
    .pluck()
  const newestCode = db.prepare<[number], SignInCode>(
    `SELECT id, code_hash, expires_at, tries_left, used_at FROM sign_in_code
     WHERE person_id = ? ORDER BY id DESC LIMIT 1`,
  )
  const spendTry = db.prepare<[number]>('UPDATE sign_in_code SET tries_left = tries_left - 1 WHERE id = ?')
  const markUsed = db.prepare<[Instant, number]>('UPDATE sign_in_code SET used_at = ? WHERE id = ?')
  const dropCodes = db.prepare<[Instant]>('DELETE FROM sign_in_code WHERE expires_at < ?')
  const addSession = db.prepare<[string, number, Instant, Instant]>(
    'INSERT INTO session (token_hash, person_id, created_at, last_seen_at) VALUES (?, ?, ?, ?)',
  )
  const sessionByHash = db.prepare<[string], Session>(
    'SELECT id, person_id, created_at, last_seen_at FROM session WHERE token_hash = ?',
  )
  const seen = db.prepare<[Instant, number]>('UPDATE session SET last_seen_at = ? WHERE id = ?')
  const endSession = db.prepare<[string]>('DELETE FROM session WHERE token_hash = ?')
  const dropSessions = db.prepare<[Instant, Instant]>(
    'DELETE FROM session WHERE last_seen_at < ? OR created_at < ?',
  )
  return {
    addCode: (personId: number, hash: string, now: Instant, expires: Instant, tries: number) =>
      addCode.run(personId, hash, now, expires, tries),
    codesSince: (personId: number, since: Instant) => codesSince.get(personId, since) ?? 0,
    /** The code that was sent last, used or not: an older one never counts again. */
    newestCode: (personId: number) => newestCode.get(personId),
    spendTry: (id: number) => spendTry.run(id),
    markUsed: (id: number, now: Instant) => markUsed.run(now, id),
    dropCodesExpiredBefore: (instant: Instant) => dropCodes.run(instant),
    addSession: (hash: string, personId: number, now: Instant) => addSession.run(hash, personId, now, now),
    session: keep((hash: string) => sessionByHash.get(hash)),
    seen: (id: number, now: Instant) => seen.run(now, id),
    endSession: (hash: string) => endSession.run(hash),
    /** Forgets sessions that were not used since an instant, or begun before another. */
    dropSessions: (idleSince: Instant, begunBefore: Instant) => dropSessions.run(idleSince, begunBefore),
  }
}

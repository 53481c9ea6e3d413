import { readFileSync } from 'node:fs'
import type { RequestHandler } from 'express'
import type { Instant } from '../core/instant.ts'
import type { Clock } from './clock.ts'
import type { Db } from './db/open.ts'
import type { Mailer, MailStanding } from './mail/mailer.ts'

// The same place from the source and from the built server.
const { version } = JSON.parse(readFileSync(new URL('../../package.json', import.meta.url), 'utf8')) as {
  version: string
}

/** Milliseconds for which what a look at the disk found is answered again, so that being asked often costs nothing. */
const FRESH = 5_000

/** What `GET /healthz` answers. */
export interface Health {
  ok: boolean
  /** Of the application. */
  version: string
  /** What is wrong, in a sentence; null when nothing is. */
  fault: string | null
  /** With `?deep`: how mail stands. */
  mail?: MailStanding
}

/**
 * Says whether the server can do its work: whether a row can be written and flushed, which a full disk or one that has
 * become read-only prevents while reading goes on. Answers 200, or 503 with what is wrong. `?deep` adds how mail
 * stands; a mail server that is away does not make the answer 503, as nothing is lost by it.
 */
export function health(db: Db, mailer: Mailer, clock: Clock): RequestHandler {
  const beat = db.prepare<[Instant]>('UPDATE pulse SET at = ? WHERE id = 1')
  let looked: { at: number; fault: string | null } | null = null
  const look = (): string | null => {
    if (looked && performance.now() - looked.at < FRESH) return looked.fault
    let fault: string | null = null
    try {
      beat.run(clock())
    } catch (error) {
      fault = `Nothing can be written: ${error instanceof Error ? error.message : String(error)}.`
    }
    looked = { at: performance.now(), fault }
    return fault
  }
  return (req, res) => {
    const fault = look()
    const answer: Health = { ok: fault === null, version, fault }
    if (req.query.deep !== undefined) answer.mail = mailer.standing()
    res.status(fault === null ? 200 : 503).json(answer)
  }
}

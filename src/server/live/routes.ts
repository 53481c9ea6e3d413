import { createSession } from 'better-sse'
import { live } from '../../contract/live.ts'
import type { Sessions } from '../access/sessions.ts'
import type { Serve } from '../http/serve.ts'
import type { Hub } from './hub.ts'

/** Milliseconds between two signs of life on a quiet stream, below the patience of usual proxies. */
const SIGN_OF_LIFE = 25_000

/** The stream of a sheet's changes. */
export function bindLive(serve: Serve, hub: Hub, sessions: Sessions): void {
  serve(live, async ({ req, res, sheet, enrolment, person }) => {
    const session = await createSession(req, res, {
      keepAlive: SIGN_OF_LIFE,
      headers: { 'X-Accel-Buffering': 'no' },
    })
    const since = Number(session.lastId || req.query.since)
    const listener = {
      session,
      as: enrolment.role === 'student' ? ('student' as const) : ('staff' as const),
      enrolmentId: enrolment.id,
      personId: person.id,
      signedIn: sessions.of(req),
      unread: () => res.writableLength,
      end: () => res.end(),
    }
    hub.listen(sheet.id, listener, Number.isSafeInteger(since) && since >= 0 ? since : 0)
    return undefined
  })
}

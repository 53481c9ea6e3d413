import { createSession } from 'better-sse'
import { live } from '../../contract/live.ts'
import type { Serve } from '../http/serve.ts'
import type { Hub } from './hub.ts'

/** The stream of a sheet's changes. */
export function bindLive(serve: Serve, hub: Hub): void {
  serve(live, async ({ req, res, sheet, enrolment }) => {
    const session = await createSession(req, res, { headers: { 'X-Accel-Buffering': 'no' } })
    const since = Number(session.lastId || req.query.since)
    const as = enrolment.role === 'student' ? 'students' : 'staff'
    hub.listen(sheet.id, session, as, Number.isSafeInteger(since) && since >= 0 ? since : 0, () => res.end())
    return undefined
  })
}

import type { Instant } from '../../core/instant.ts'
import type { Db } from '../db/open.ts'
import type { Hub } from '../live/hub.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { type SeatedFromLine, serveLines } from './lines.ts'

export type OneStep = ReturnType<typeof createOneStep>

/**
 * Makes the way in which staff change seats: in one transaction over the sheet as it then stands, lines served for the
 * seats that came free, the open pages and those seated by a line told after the commit.
 */
export function createOneStep(
  db: Db,
  stores: Stores,
  hub: Hub,
  seatedFromLine: (seated: readonly SeatedFromLine[]) => void,
) {
  return <Answer>({ id }: Pick<Sheet, 'id'>, now: Instant, work: (sheet: Sheet) => Answer): Answer => {
    const { answer, seated } = db
      .transaction(() => {
        const sheet = stores.sheets.byId(id)
        if (!sheet) throw new Error('A sheet went away while its seats were changed.')
        return { answer: work(sheet), seated: serveLines(id, now, stores) }
      })
      .immediate()
    seatedFromLine(seated)
    hub.touched(id)
    return answer
  }
}

import type { Instant } from '../../core/instant.ts'
import { listedName } from '../../core/names.ts'
import { basisFrom, type PlanBasis } from '../../core/plan/basis.ts'
import { namesOrder } from '../courses/namesOrder.ts'
import { seatingFacts } from '../seats/byHand.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { wishedOn } from '../wishes/views.ts'

/** What a plan for a sheet is made from, as it stands: people and groups by their codes, topics in their order. */
export function basisOf(sheet: Sheet, now: Instant, stores: Stores): PlanBasis {
  const { sheets, courses } = stores
  const facts = seatingFacts(sheet, now, stores)
  const topicOrder = new Map(sheets.topics(sheet.id).map(({ id }, i) => [id, i]))
  const groups = sheets.groups(sheet.id)
  const order = new Map(
    groups.map(({ id, code, topic_id }) => [code, { topic: topicOrder.get(topic_id) ?? 0, id }]),
  )
  const inOrder = facts.groups.toSorted((a, b) => {
    const [x, y] = [order.get(a.key), order.get(b.key)]
    return (x?.topic ?? 0) - (y?.topic ?? 0) || (x?.id ?? 0) - (y?.id ?? 0)
  })
  const names = new Map(
    stores.audience.students(sheet).map((one) => {
      const listed = listedName(one)
      return [one.code, { name: one.name, ...(listed !== one.name && { listed }) }]
    }),
  )
  const floors = new Map(groups.map(({ code, floor }) => [code, floor]))
  const course = courses.byId(sheet.course_id)
  return {
    ...basisFrom({ ...facts, groups: inOrder }, names, floors),
    ...(course && { names: namesOrder(course) }),
    ...(sheet.road === 'wished' && { wished: wishedOn(sheet, stores) }),
  }
}

import { instantFromMs } from '../../src/core/instant.ts'
import { openDb } from '../../src/server/db/open.ts'
import { createStores } from '../../src/server/stores.ts'
import { FRESH } from '../../src/server/tasks/edits.ts'
import { addOwner, fillCourse } from './bigCourse.ts'

/** Sizes of a sheet at work. */
export interface WorkPlan {
  students: number
  groups: number
  tasks: number
}

/** Fills a new database with a course for each plan, in which every group has handed in and is marked; one instructor. */
export function fillWork(file: string, plans: WorkPlan[]): { cookie: string; sheets: string[] } {
  const db = openDb(file)
  const stores = createStores(db)
  const now = instantFromMs(Date.now())
  const owner = addOwner(stores)
  const sheets = plans.map((plan, n) =>
    db.transaction(() => {
      const { courseId, sheets } = fillCourse(stores, `BENCH ${n + 1}`, {
        students: plan.students,
        sheets: [{ groups: plan.groups, seats: Math.ceil(plan.students / plan.groups), filled: true }],
      })
      owner.instructs(courseId)
      const sheet = sheets[0]!
      for (let i = 0; i < plan.tasks; i++) {
        const task = stores.tasks.add(sheet.id, { ...FRESH, title: `Task ${i + 1}`, out_at: now }, now)
        for (const { id } of stores.sheets.groups(sheet.id)) {
          const members = stores.seats.ofGroup(id).map(({ enrolment_id }) => enrolment_id)
          const work = {
            version: 1,
            by_id: members[0]!,
            text: 'Done.',
            links: '[]',
            late: 0 as const,
            members,
            files: [],
          }
          stores.tasks.handIn(task.id, { group_id: id, student_id: null }, work, now)
          const given = { placements: '{}', points: (id + i) % 10, feedback: '' }
          const by = { now, personId: owner.id, releasedAt: null }
          stores.marks.add(task.id, { group_id: id, student_id: null }, null, given, by)
        }
      }
      return sheet.code
    })(),
  )
  db.close()
  return { cookie: owner.cookie, sheets }
}

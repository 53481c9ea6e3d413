import type { Instant } from '../../core/instant.ts'
import { totalOf } from '../../core/marks.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { criteriaOf, type Work, workOn } from '../tasks/owners.ts'
import type { Task } from '../tasks/store.ts'
import type { Mark } from './store.ts'

/** Points in all of everybody's mark for a task, by owner and member set apart; those that are not whole are left out. */
function totalsOf(task: Task, works: readonly Work[]): Map<string, number> {
  const criteria = criteriaOf(task)
  const inAll = (mark: Mark) =>
    totalOf({ criteria }, { placements: JSON.parse(mark.placements), points: mark.points })
  return new Map(
    works.flatMap(({ code, mark, apart }) =>
      [...(mark ? [mark] : []), ...apart].flatMap((one) => {
        const points = inAll(one)
        return points === null ? [] : [[`${code} ${one.apart_id ?? ''}`, points] as const]
      }),
    ),
  )
}

/**
 * Runs what gives marks, and notes each mark whose points in all are others afterwards: whose, from what to what. What is
 * on its way to a whole mark, and what is said, is not noted.
 */
export function notingMarks(
  given: readonly { task: Task; owners: ReadonlySet<string> | null }[],
  { sheet, actorId, now, stores }: { sheet: Sheet; actorId: number; now: Instant; stores: Stores },
  work: () => void,
): void {
  const read = () =>
    given.map(({ task, owners }) => {
      const works = workOn(task, sheet, stores).filter(({ code }) => owners === null || owners.has(code))
      return { task, works, totals: totalsOf(task, works) }
    })
  const before = read()
  work()
  for (const [i, { task, works, totals }] of read().entries()) {
    const was = before[i]?.totals ?? new Map<string, number>()
    for (const { code, owner, apart } of works)
      for (const member of new Set([null, ...apart.map(({ apart_id }) => apart_id)])) {
        const name = `${code} ${member ?? ''}`
        const [from, to] = [was.get(name) ?? null, totals.get(name) ?? null]
        if (from === to) continue
        const student = owner.student_id ?? member
        stores.ledger.note({
          sheetId: sheet.id,
          at: now,
          actorId,
          kind: 'mark-given',
          detail: {
            task: task.code,
            title: task.title,
            marked: [from, to],
            ...(owner.group_id !== null && { group: owner.group_id }),
            ...(student !== null && { student: stores.roster.enrolment(student)?.code }),
          },
        })
      }
  }
}

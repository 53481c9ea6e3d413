import { DAY, HOUR, type Instant, shift } from '../core/instant.ts'
import type { Lot } from '../core/lot.ts'
import type { Criterion } from '../core/marks.ts'
import type { Sheet } from '../server/sheets/store.ts'
import type { Stores } from '../server/stores.ts'
import { FRESH } from '../server/tasks/edits.ts'
import type { TaskFields } from '../server/tasks/store.ts'

const CRITERIA: Criterion[] = [
  { id: 'seen', title: 'What was seen', points: 5, levels: ['thin', 'fair', 'good', 'strong'] },
  { id: 'measured', title: 'Measured, not guessed', points: 5, levels: ['thin', 'fair', 'good', 'strong'] },
  { id: 'changes', title: 'Changes proposed', points: 5, levels: ['thin', 'fair', 'good', 'strong'] },
  { id: 'writing', title: 'Plain writing', points: 5, levels: ['thin', 'fair', 'good', 'strong'] },
]

const OPENINGS = [
  'We began at the drain channel, because that is where the salt brine leaves the benches and where two of last year’s slips were written up. The floor slopes less than the plan says.',
  'The cold room was quiet when we walked it, which let us hear the fan that the log calls silent. It is not silent; it hums at the height of the third shelf.',
  'We walked the corridor twice, once with full crates and once without. With crates the turn at the autoclave cannot be taken by two people.',
]
const MIDDLES = [
  'Between the racks the clearance is 71 cm, against the 80 cm in the house rules of the lab. Crates stand in the way on Wednesdays, when deliveries come before ten.',
  'We measured the slope at five points with a level and a rule: 4, 6, 3, 9 and 5 mm on a metre. The plan asks for 10.',
  'The eye wash runs lukewarm after forty seconds, not after ten as the sheet on the wall says. Nobody in our group had tried it before.',
]
const ENDS = [
  'Three changes would cost nothing: move the delivery hour, mark the crate line on the floor, and turn the door so that it opens outwards. We tried the second with tape for a week, and nobody stepped over it.',
  'We propose one change only: a mat of 120 cm in front of the brine tank. Everything else works if people know of it.',
  'Our list is short, since most of what we found is known. What is not known is the loose tile by the scale; we put a cone on it.',
]
const WORDS = [
  'Good eye for the door. Say how you measured the slope.',
  'Good eye for the door.',
  'Clear and short. The numbers carry it.',
  'Say how you measured the slope.',
  'The proposals follow from what you saw. Well done.',
]

/**
 * Work for the groups of a past sheet: a report that is marked and out, one that most have handed in and some of which
 * is marked, and one to come.
 */
export function setWork(stores: Stores, sheet: Sheet, markerEmail: string, now: Instant, lot: Lot): void {
  const { tasks, marks, sheets, seats, roster, ledger } = stores
  const marker = roster.personByEmail(markerEmail)
  if (!marker) throw new Error(`Nobody has the address ${markerEmail}.`)
  const add = (fields: Partial<TaskFields>) => {
    const made = tasks.add(
      sheet.id,
      { ...FRESH, out_at: shift(now, -30 * DAY), ...fields },
      shift(now, -30 * DAY),
    )
    ledger.note({
      sheetId: sheet.id,
      at: shift(now, -30 * DAY),
      actorId: marker.id,
      kind: 'task-added',
      detail: { task: made.code, title: made.title },
    })
    return made
  }
  const groups = sheets
    .groups(sheet.id)
    .map((group) => ({ group, members: seats.ofGroup(group.id).map(({ enrolment_id }) => enrolment_id) }))
    .filter(({ members }) => members.length > 0)
  const from = <T>(list: readonly T[]) => list[lot.below(list.length)] as T
  const half = () => 1.5 + lot.below(8) / 2
  const walk = (
    fields: Partial<TaskFields>,
    { due, handing, marking, out }: { due: number; handing: number; marking: number; out: boolean },
  ) => {
    const dueAt = shift(now, due * DAY)
    const task = add({ ...fields, due_at: dueAt, criteria: JSON.stringify(CRITERIA) })
    groups.forEach(({ group, members }, i) => {
      const owner = { group_id: group.id, student_id: null }
      const by = from(members)
      if (lot.next() < handing) {
        const late = task.late === 'always' && lot.next() < 0.12
        const at = shift(dueAt, late ? 5 * HOUR : -Math.round(1 + lot.next() * 60) * HOUR)
        const text = [from(OPENINGS), from(MIDDLES), from(ENDS)].join('\n\n')
        tasks.handIn(
          task.id,
          owner,
          { version: 1, by_id: by, text, links: '[]', late: late ? 1 : 0, members, files: [] },
          at,
        )
        const person = roster.enrolment(by)
        const detail = { task: task.code, title: task.title, group: group.id }
        for (const enrolmentId of members)
          ledger.note({
            sheetId: sheet.id,
            at,
            actorId: person?.person_id ?? null,
            kind: 'work-handed-in',
            enrolmentId,
            detail,
          })
      } else if (out) return
      if (
        i >= groups.length * marking ||
        tasks.handIns(task.id).every(({ group_id }) => group_id !== group.id)
      )
        return
      const placements = () => JSON.stringify(Object.fromEntries(CRITERIA.map(({ id }) => [id, half()])))
      const given = {
        now: shift(dueAt, 2 * DAY),
        personId: marker.id,
        releasedAt: out ? shift(dueAt, 5 * DAY) : null,
      }
      marks.add(
        task.id,
        owner,
        null,
        { placements: placements(), points: null, feedback: from(WORDS) },
        given,
      )
      if (lot.next() < 0.1 && members.length > 1) {
        const words = 'You were away for the second walk, so this is yours alone.'
        marks.add(
          task.id,
          owner,
          from(members),
          { placements: placements(), points: null, feedback: words },
          given,
        )
      }
    })
  }
  walk(
    { title: 'Walk report', instructions: 'One page on what your group saw, **measured** and would change.' },
    { due: -20, handing: 0.95, marking: 1, out: true },
  )
  walk(
    {
      title: 'Second walk',
      instructions: 'Walk the same way again after two weeks. What changed, and did your change hold?',
      late: 'always',
    },
    { due: -2, handing: 0.85, marking: 0.6, out: false },
  )
  add({
    title: 'Safety poster',
    instructions: 'A link to your poster, and two sentences on whom it is for.',
    due_at: shift(now, 9 * DAY),
    points: 5,
    out_at: shift(now, -DAY),
  })
}

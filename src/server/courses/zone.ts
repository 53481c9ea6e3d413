import type { ZoneMove } from '../../contract/coursePage.ts'
import type { Instant } from '../../core/instant.ts'
import { sameClock } from '../../core/zone.ts'
import { fieldProblem } from '../http/problem.ts'
import type { Meeting } from '../meetings/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Group, Topic } from '../sheets/topicStore.ts'
import type { Stores } from '../stores.ts'
import type { DifferingFields } from '../tasks/differenceStore.ts'
import type { Task } from '../tasks/store.ts'
import type { Course } from './store.ts'

/** What is to be written where clock times stay as they are in another zone, and what that moves. */
interface Moved {
  moves: ZoneMove[]
  write: (() => void)[]
}

/**
 * The times of a course that are still to come, moved so that they stand on the clocks of another zone as they stand on
 * those of its own. What has passed stays the moment that it was. Archived sheets have nothing to come.
 * @throws ProblemError beside the zone, where a time that has passed and one to come would change places
 */
export function movedTimes(course: Course, zone: string, now: Instant, stores: Stores): Moved {
  const { sheets, tasks, differences, meetings } = stores
  const moved: Moved = { moves: [], write: [] }
  const move = <Fields extends object, Key extends keyof Fields & string>(
    sheet: Sheet,
    fields: Fields,
    words: Record<Key, string>,
    write: (next: Fields) => void,
  ) => {
    const next = { ...fields }
    let earlier: Instant | null = null
    let changed = false
    for (const key of Object.keys(words) as Key[]) {
      const at = fields[key] as Instant | null | undefined
      if (at == null) continue
      const to = at > now ? sameClock(at, course.zone, zone) : at
      if (earlier !== null && to <= earlier) throw contradiction(sheet, words[key])
      earlier = to
      if (to === at) continue
      changed = true
      next[key] = to as Fields[Key]
      moved.moves.push({ sheet: sheet.title, what: words[key], at, moved: to })
    }
    if (changed) moved.write.push(() => write(next))
  }
  for (const sheet of sheets.ofCourse(course.id).filter(({ archived_at }) => archived_at === null)) {
    move<Sheet, 'opens_at' | 'closes_at'>(
      sheet,
      sheet,
      { opens_at: 'It opens', closes_at: 'It closes' },
      (next) => sheets.change(sheet.id, next),
    )
    for (const topic of sheets.topics(sheet.id))
      move<Topic, 'starts_at' | 'ends_at'>(
        sheet,
        topic,
        { starts_at: `${topic.title} begins`, ends_at: `${topic.title} ends` },
        (next) => sheets.changeTopic(topic.id, next),
      )
    for (const group of sheets.groups(sheet.id))
      move<Group, 'own_starts_at' | 'own_ends_at'>(
        sheet,
        group,
        { own_starts_at: 'A group begins', own_ends_at: 'A group ends' },
        (next) => sheets.changeGroup(group.id, next),
      )
    for (const task of tasks.ofSheet(sheet.id))
      move<Task, 'available_from' | 'due_at' | 'late_until'>(
        sheet,
        task,
        {
          available_from: `${task.title} can be read`,
          due_at: `${task.title} is due`,
          late_until: `${task.title} is taken late until`,
        },
        (next) => tasks.change(task.id, next),
      )
    for (const group of sheets.groups(sheet.id))
      for (const meeting of meetings.ofGroup(group.id))
        move<Meeting, 'starts_at'>(sheet, meeting, { starts_at: `${meeting.title} of a group` }, (next) =>
          meetings.change(meeting.id, next),
        )
    for (const task of tasks.ofSheet(sheet.id))
      for (const difference of differences.ofTask(task.id))
        move<DifferingFields, 'available_from' | 'due_at' | 'late_until'>(
          sheet,
          difference.fields,
          {
            available_from: `${task.title} can be read by some`,
            due_at: `${task.title} is due for some`,
            late_until: `${task.title} is taken late from some until`,
          },
          (fields) => differences.change(difference.id, { ...difference, fields }),
        )
  }
  return moved
}

function contradiction(sheet: Sheet, what: string) {
  return fieldProblem(
    'zone',
    `On “${sheet.title}”, “${what}” would come before what has already been. Keep the moments as they are, or change that time first.`,
  )
}

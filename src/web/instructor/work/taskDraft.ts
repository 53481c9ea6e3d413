import type { TaskView } from '../../../contract/tasks.ts'
import type { Criterion } from '../../../core/marks.ts'
import type { LateHandIn, TaskFor, WithoutGroup } from '../../../core/task.ts'
import { localTimeOf } from '../../../core/zone.ts'
import { sentTime } from '../../kit/TimeField.tsx'

/** A task as its fields hold it while it is written. Times are wall-clock times of the course’s zone, or empty. */
export interface TaskDraft {
  title: string
  instructions: string
  takesText: boolean
  takesLinks: boolean
  takesFiles: boolean
  from: string
  due: string
  late: LateHandIn
  until: string
  forWhom: TaskFor
  groups: ReadonlySet<string>
  without: WithoutGroup
  /** As it was typed. */
  points: string
  criteria: readonly Criterion[]
  out: boolean
}

/** A task as it is before it is changed; a new one where there is none yet. */
export function draftOf(task: TaskView | null, zone: string): TaskDraft {
  const local = (instant: string | null | undefined) => (instant ? localTimeOf(instant, zone) : '')
  return {
    title: task?.title ?? '',
    instructions: task?.instructions ?? '',
    takesText: task?.takesText ?? true,
    takesLinks: task?.takesLinks ?? true,
    takesFiles: task?.takesFiles ?? false,
    from: local(task?.availableFrom),
    due: local(task?.dueAt),
    late: task?.late ?? 'no',
    until: local(task?.lateUntil),
    forWhom: task?.forWhom ?? 'groups',
    groups: new Set(task?.groups ?? []),
    without: task?.withoutGroup ?? 'locked',
    points: String(task?.points ?? 10),
    criteria: task?.criteria ?? [],
    out: task ? task.outAt !== null : true,
  }
}

/**
 * What is sent of it.
 * @param fixed whether something was handed in, so that whose the work is is not sent
 */
export function bodyOf(draft: TaskDraft, fixed: boolean) {
  const { title, instructions, takesText, takesLinks, takesFiles, late, forWhom, without, out } = draft
  return {
    title,
    instructions,
    takesText,
    takesLinks,
    takesFiles,
    availableFrom: sentTime(draft.from),
    dueAt: sentTime(draft.due),
    late,
    lateUntil: late === 'until' ? sentTime(draft.until) : null,
    ...(!fixed && { forWhom, groups: forWhom === 'some-groups' ? [...draft.groups] : [] }),
    // Only where each hands in alone can somebody without a group do so.
    withoutGroup: forWhom !== 'students' && without === 'open' ? ('locked' as const) : without,
    points: Number(draft.points),
    criteria: draft.criteria.map((one) => ({ ...one, levels: [...one.levels] })),
    out,
  }
}

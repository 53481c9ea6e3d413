import type { TaskView } from '../../../contract/tasks.ts'
import type { Criterion } from '../../../core/marks.ts'
import type { SharesRule, TaskFor, WithoutGroup } from '../../../core/task.ts'
import { datesBody, formBody, type TermsDraft, termsOf } from './termsDraft.ts'

/** A task as its fields hold it while it is written. */
export interface TaskDraft extends TermsDraft {
  title: string
  forWhom: TaskFor
  groups: readonly string[]
  /** The list whose students it is for, by its code; empty for all. */
  list: string
  without: WithoutGroup
  /** As it was typed. */
  points: string
  shares: SharesRule
  answers: boolean
  criteria: readonly Criterion[]
  out: boolean
}

/** A task as it is before it is changed; a new one where there is none yet. */
export function draftOf(task: TaskView | null, zone: string): TaskDraft {
  return {
    ...termsOf(task, zone),
    title: task?.title ?? '',
    forWhom: task?.forWhom ?? 'groups',
    groups: task?.groups ?? [],
    list: task?.list ?? '',
    without: task?.withoutGroup ?? 'locked',
    points: String(task?.points ?? 10),
    shares: task?.shares ?? 'no',
    answers: task?.answers ?? false,
    criteria: task?.criteria ?? [],
    out: task ? task.outAt !== null : true,
  }
}

/**
 * What is sent of it.
 * @param fixed whether something was handed in or marked, so that whose the work is is not sent
 */
export function bodyOf(draft: TaskDraft, fixed: boolean) {
  const { title, instructions, forWhom, without, out } = draft
  return {
    title,
    instructions,
    ...formBody(draft),
    ...datesBody(draft),
    ...(!fixed && {
      forWhom,
      groups: forWhom === 'some-groups' ? [...draft.groups] : [],
      list: forWhom === 'students' && draft.list !== '' ? draft.list : null,
    }),
    // Only where each hands in alone can somebody without a group do so.
    withoutGroup: forWhom !== 'students' && without === 'open' ? ('locked' as const) : without,
    points: Number(draft.points),
    shares: forWhom === 'students' ? ('no' as const) : draft.shares,
    answers: draft.answers,
    criteria: draft.criteria.map((one) => ({ ...one, levels: [...one.levels] })),
    out,
  }
}

/** The fields of a task as they are called where somebody else changed one meanwhile. */
export const FIELD_WORDS: Readonly<Record<keyof TaskDraft, string>> = {
  title: 'the title',
  instructions: 'the instructions',
  handsIn: 'whether something is handed in',
  takesText: 'whether text is taken',
  takesLinks: 'whether links are taken',
  takesFiles: 'whether files are taken',
  words: 'the most words',
  from: 'from when it is there',
  due: 'the date',
  datedBy: 'whose date counts',
  late: 'whether late work is taken',
  until: 'until when late work is taken',
  forWhom: 'for whom it is',
  groups: 'for which groups it is',
  list: 'for which list it is',
  without: 'what somebody without a group sees',
  points: 'the points',
  shares: 'how the work was shared',
  answers: 'whether remarks are answered',
  criteria: 'the criteria',
  out: 'whether students see it',
}

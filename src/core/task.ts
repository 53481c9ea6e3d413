import type { Instant } from './instant.ts'

/** For whom a task is: each group hands in once, certain groups do, or each student for themselves. */
export type TaskFor = 'groups' | 'some-groups' | 'students'
export const TASK_FOR = ['groups', 'some-groups', 'students'] as const satisfies readonly TaskFor[]

/** What somebody without a group gets of a task: it is locked, hidden, or (where each hands in singly) open all the same. */
export type WithoutGroup = 'locked' | 'hidden' | 'open'
export const WITHOUT_GROUP = ['locked', 'hidden', 'open'] as const satisfies readonly WithoutGroup[]

/** Whether a late hand-in is taken: never, until a moment, or always. */
export type LateHandIn = 'no' | 'until' | 'always'
export const LATE_HAND_IN = ['no', 'until', 'always'] as const satisfies readonly LateHandIn[]

/** Whether members are asked how the work was shared, and who sees it: nobody, staff alone, or each also their own average. */
export type SharesRule = 'no' | 'staff' | 'own'
export const SHARES_RULE = ['no', 'staff', 'own'] as const satisfies readonly SharesRule[]

/** What says when a task is due: a date of its own, or the date of each group. */
export type DatedBy = 'task' | 'group'
export const DATED_BY = ['task', 'group'] as const satisfies readonly DatedBy[]

/** What decides whether a task is there for somebody. */
export interface TaskTerms<Key> {
  /** False while it is being written. */
  out: boolean
  /** False where nothing is handed in: what is marked takes place, such as a talk. */
  handsIn: boolean
  availableFrom: Instant | null
  dueAt: Instant | null
  late: LateHandIn
  /** Looked at only where `late` is `until`. */
  lateUntil: Instant | null
  forWhom: TaskFor
  /** The groups that it is for, where it is for some. */
  groups: readonly Key[]
  withoutGroup: WithoutGroup
  /** Whether it is for this student at all, where it is for a list of them. */
  meant: boolean
}

/** How a task stands for somebody at a moment. */
export type TaskGate =
  | { state: 'hidden' }
  | { state: 'locked'; reason: 'no-group' }
  | { state: 'open' }
  | { state: 'late' }
  | { state: 'over' }
  | { state: 'no-hand-in' }

/**
 * How a task stands for a student.
 * The moment it is due is late already, and the moment until which late work is taken is over.
 * @param seats the groups of the sheet in which the student sits
 */
export function taskGate<Key>(terms: TaskTerms<Key>, seats: readonly Key[], now: Instant): TaskGate {
  if (!terms.out || !terms.meant) return { state: 'hidden' }
  if (terms.availableFrom !== null && now < terms.availableFrom) return { state: 'hidden' }
  // Whoever it is not for never learns of it, with a group or without.
  if (terms.forWhom === 'some-groups' && !seats.some((seat) => terms.groups.includes(seat)))
    return { state: 'hidden' }
  if (seats.length === 0 && !(terms.forWhom === 'students' && terms.withoutGroup === 'open')) {
    return terms.withoutGroup === 'hidden' ? { state: 'hidden' } : { state: 'locked', reason: 'no-group' }
  }
  if (!terms.handsIn) return { state: 'no-hand-in' }
  if (terms.dueAt === null || now < terms.dueAt) return { state: 'open' }
  if (terms.late === 'always') return { state: 'late' }
  const taken = terms.late === 'until' && terms.lateUntil !== null && now < terms.lateUntil
  return { state: taken ? 'late' : 'over' }
}

/** True when a hand-in is taken now. */
export function takesHandIns({ state }: Pick<TaskGate, 'state'>): boolean {
  return state === 'open' || state === 'late'
}

/** Whose a hand-in is: a group's, or one student's. */
export type WorkOwner<Key> = { kind: 'group'; group: Key } | { kind: 'student'; student: Key }

/** For whom a student would hand in: once for each own group that the task is for, or for themselves. */
export function ownersFor<Key>(
  { forWhom, groups }: Pick<TaskTerms<Key>, 'forWhom' | 'groups'>,
  student: Key,
  seats: readonly Key[],
): WorkOwner<Key>[] {
  if (forWhom === 'students') return [{ kind: 'student', student }]
  return seats
    .filter((seat) => forWhom === 'groups' || groups.includes(seat))
    .map((group) => ({ kind: 'group', group }))
}

/**
 * To whom a mark belongs. Work belongs to those for whom it was handed in; a mark that was given without a hand-in to
 * the members as the group stood when it was first given, or as that was corrected; else it is for whoever sits there.
 * @param handedIn for whom the newest hand-in that stands counts; null where none stands
 * @param there who was there when the mark was first given; null before that
 * @param now who sits in the group at this moment
 */
export function markedFor<Key>({
  handedIn,
  there,
  now,
}: {
  handedIn: readonly Key[] | null
  there: readonly Key[] | null
  now: readonly Key[]
}): readonly Key[] {
  return handedIn ?? there ?? now
}

/** For whom a difference is: a group, everybody on a list, or one student. */
export type DifferenceFor<Key> =
  | { kind: 'group'; group: Key }
  | { kind: 'list'; list: Key }
  | { kind: 'student'; student: Key }

/** Which difference is the nearer one: what names a student comes before a list, and a list before a group. */
const NEARNESS = { student: 0, list: 1, group: 2 } as const

/**
 * The difference that holds for an owner of work, or null. Where several would, the one that names the student does,
 * then the one for a list, then the one for a group; among equals the one made last.
 * @param differences in the order in which they were made
 * @param seats the groups in which a student sits who does it alone
 */
export function differenceFor<Key, D extends { for: readonly DifferenceFor<Key>[] }>(
  differences: readonly D[],
  owner: WorkOwner<Key>,
  seats: readonly Key[],
  isOn: (list: Key, student: Key) => boolean,
): D | null {
  const reaches = (target: DifferenceFor<Key>): boolean => {
    if (target.kind === 'group')
      return owner.kind === 'group' ? owner.group === target.group : seats.includes(target.group)
    if (owner.kind === 'group') return false
    return target.kind === 'student' ? target.student === owner.student : isOn(target.list, owner.student)
  }
  let best: { difference: D; nearness: number } | null = null
  for (const difference of differences) {
    const reached = difference.for.filter(reaches).map(({ kind }) => NEARNESS[kind])
    if (reached.length === 0) continue
    const nearness = Math.min(...reached)
    if (best === null || nearness <= best.nearness) best = { difference, nearness }
  }
  return best?.difference ?? null
}

/** Words in a text, as they are counted against the most that a task takes. */
export function countWords(text: string): number {
  return text.split(/\s+/).filter((word) => /[\p{L}\p{N}]/u.test(word)).length
}

/** What is wrong with a task's times, or null. */
export function timesFault({
  availableFrom,
  dueAt,
  late,
  lateUntil,
}: Pick<TaskTerms<unknown>, 'availableFrom' | 'dueAt' | 'late' | 'lateUntil'>):
  | 'due-before-start'
  | 'late-before-due'
  | 'late-without-due'
  | 'late-without-end'
  | null {
  if (availableFrom !== null && dueAt !== null && dueAt <= availableFrom) return 'due-before-start'
  if (late !== 'no' && dueAt === null) return 'late-without-due'
  if (late !== 'until') return null
  if (lateUntil === null) return 'late-without-end'
  return dueAt !== null && lateUntil <= dueAt ? 'late-before-due' : null
}

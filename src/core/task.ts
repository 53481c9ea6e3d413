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

/** What decides whether a task is there for somebody. */
export interface TaskTerms<Key> {
  /** False while it is being written. */
  out: boolean
  availableFrom: Instant | null
  dueAt: Instant | null
  late: LateHandIn
  /** Looked at only where `late` is `until`. */
  lateUntil: Instant | null
  forWhom: TaskFor
  /** The groups that it is for, where it is for some. */
  groups: readonly Key[]
  withoutGroup: WithoutGroup
}

/** How a task stands for somebody at a moment. */
export type TaskGate =
  | { state: 'hidden' }
  | { state: 'locked'; reason: 'no-group' }
  | { state: 'open' }
  | { state: 'late' }
  | { state: 'over' }

/**
 * How a task stands for a student.
 * The moment it is due is late already, and the moment until which late work is taken is over.
 * @param seats the groups of the sheet in which the student sits
 */
export function taskGate<Key>(terms: TaskTerms<Key>, seats: readonly Key[], now: Instant): TaskGate {
  if (!terms.out) return { state: 'hidden' }
  if (terms.availableFrom !== null && now < terms.availableFrom) return { state: 'hidden' }
  // Whoever it is not for never learns of it, with a group or without.
  if (terms.forWhom === 'some-groups' && !seats.some((seat) => terms.groups.includes(seat)))
    return { state: 'hidden' }
  if (seats.length === 0 && !(terms.forWhom === 'students' && terms.withoutGroup === 'open')) {
    return terms.withoutGroup === 'hidden' ? { state: 'hidden' } : { state: 'locked', reason: 'no-group' }
  }
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

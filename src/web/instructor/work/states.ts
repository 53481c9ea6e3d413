import type { OwnerWork, TaskView, WorkState } from '../../../contract/tasks.ts'

/** A state of work: its word, and the shape and colour that it has besides. */
export const STATES: Record<WorkState, { word: string; sign: string; look: string }> = {
  'handed-in': { word: 'handed in', sign: '●', look: 'text-seat' },
  late: { word: 'late', sign: '◐', look: 'text-sun-ink' },
  missing: { word: 'missing', sign: '○', look: 'text-ember' },
  'not-due': { word: 'not due yet', sign: '·', look: 'text-faint' },
  ahead: { word: 'still ahead', sign: '·', look: 'text-faint' },
  'took-place': { word: 'took place', sign: '■', look: 'text-seat' },
  'no-group': { word: 'no group', sign: '⊘', look: 'text-ember' },
  'not-for': { word: 'not for them', sign: '–', look: 'text-faint' },
}

/** How many owners of a task's work are in each state, and how many are marked. */
export function standingOf(work: readonly OwnerWork[]) {
  const count = (state: WorkState) => work.filter((one) => one.state === state).length
  return {
    all: work.length,
    handedIn: count('handed-in') + count('late'),
    tookPlace: count('took-place'),
    late: count('late'),
    missing: count('missing'),
    noGroup: count('no-group'),
    marked: work.filter(({ marked }) => marked).length,
    released: work.filter(({ released }) => released).length,
  }
}

/** What one person has for a task: the state of their own or their group's work, and the points that count for them. */
export interface PersonWork {
  state: WorkState
  points: number | null
  apart: boolean
  owner: string | null
  /** Who marked it; null without a mark. */
  markedBy: string | null
}

/** The work of one person for a task. `groups` are those in which they sit, by code. */
export function workOf(
  person: string,
  groups: readonly string[],
  task: Pick<TaskView, 'forWhom' | 'list'>,
  work: readonly OwnerWork[],
): PersonWork {
  const counted = work.find(
    ({ members, countsFor }) => countsFor !== 'sits-there' && members.includes(person),
  )
  const own = counted ?? work.find(({ owner }) => owner === person || groups.includes(owner))
  if (!own) {
    const some = task.forWhom === 'some-groups' || task.list !== null
    const state: WorkState = groups.length === 0 && !some ? 'no-group' : 'not-for'
    return { state, points: null, apart: false, owner: null, markedBy: null }
  }
  // Whoever joined a group after it handed in or was marked has no part in that.
  if (own.countsFor !== 'sits-there' && !own.members.includes(person))
    return { state: 'missing', points: null, apart: false, owner: own.owner, markedBy: null }
  const apart = own.apart.find((one) => one.person === person)
  return {
    state: own.state,
    points: apart ? apart.points : own.points,
    apart: apart !== undefined,
    owner: own.owner,
    markedBy: own.markedBy,
  }
}

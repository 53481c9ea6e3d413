import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  LATE_HAND_IN,
  ownersFor,
  TASK_FOR,
  type TaskGate,
  type TaskTerms,
  taskGate,
  timesFault,
  WITHOUT_GROUP,
} from './task.ts'

const at = (hour: number) => `2026-05-06T${String(hour).padStart(2, '0')}:00:00.000Z`
const terms = (more: Partial<TaskTerms<string>> = {}): TaskTerms<string> => ({
  meant: true,
  out: true,
  handsIn: true,
  availableFrom: at(8),
  dueAt: at(12),
  late: 'until',
  lateUntil: at(14),
  forWhom: 'groups',
  groups: [],
  withoutGroup: 'locked',
  ...more,
})

/** The gate written a second time, as a table in words: first what hides, then what locks, then the clock. */
function bySentences(task: TaskTerms<string>, seats: readonly string[], now: string): TaskGate['state'] {
  const sits = seats.length > 0
  const meant = task.forWhom !== 'some-groups' || task.groups.some((group) => seats.includes(group))
  const started = task.availableFrom === null || task.availableFrom <= now
  if (!task.out || !started || !meant) return 'hidden'
  const mayWithout = task.forWhom === 'students' && task.withoutGroup === 'open'
  if (!sits && !mayWithout) return task.withoutGroup === 'hidden' ? 'hidden' : 'locked'
  if (!task.handsIn) return 'no-hand-in'
  const inTime = task.dueAt === null || now < task.dueAt
  if (inTime) return 'open'
  const stillTaken =
    task.late === 'always' || (task.late === 'until' && task.lateUntil !== null && now < task.lateUntil)
  return stillTaken ? 'late' : 'over'
}

describe('the gate of a task', () => {
  it('agrees with its sentences over every combination', () => {
    let combinations = 0
    for (const out of [true, false])
      for (const handsIn of [true, false])
        for (const availableFrom of [null, at(8)])
          for (const dueAt of [null, at(12)])
            for (const late of LATE_HAND_IN)
              for (const forWhom of TASK_FOR)
                for (const withoutGroup of WITHOUT_GROUP)
                  for (const groups of [[], ['a'], ['b']])
                    for (const seats of [[], ['a'], ['a', 'c']])
                      for (const now of [at(7), at(8), at(11), at(12), at(13), at(14), at(15)]) {
                        const task = terms({
                          out,
                          handsIn,
                          availableFrom,
                          dueAt,
                          late,
                          forWhom,
                          withoutGroup,
                          groups,
                        })
                        expect(taskGate(task, seats, now).state).toBe(bySentences(task, seats, now))
                        combinations += 1
                      }
    expect(combinations).toBe(2 * 2 * 2 * 2 * 3 * 3 * 3 * 3 * 3 * 7)
  })

  it.each([
    [at(11), 'open'],
    ['2026-05-06T11:59:59.999Z', 'open'],
    [at(12), 'late'],
    ['2026-05-06T13:59:59.999Z', 'late'],
    [at(14), 'over'],
  ])('at %s says %s', (now, state) => {
    expect(taskGate(terms(), ['a'], now).state).toBe(state)
  })

  it('is nothing at all to somebody whom it is not meant for', () => {
    expect(taskGate(terms({ meant: false }), ['a'], at(9))).toEqual({ state: 'hidden' })
  })

  it('says why it is locked', () => {
    expect(taskGate(terms(), [], at(9))).toEqual({ state: 'locked', reason: 'no-group' })
  })
})

it('says for whom somebody would hand in', () => {
  expect(ownersFor(terms(), 'me', ['a', 'b'])).toEqual([
    { kind: 'group', group: 'a' },
    { kind: 'group', group: 'b' },
  ])
  expect(ownersFor(terms({ forWhom: 'some-groups', groups: ['b'] }), 'me', ['a', 'b'])).toEqual([
    { kind: 'group', group: 'b' },
  ])
  expect(ownersFor(terms({ forWhom: 'students' }), 'me', [])).toEqual([{ kind: 'student', student: 'me' }])
})

it('lets nobody hand in for a group they do not sit in, or that the task is not for, and leaves none out', () => {
  const group = fc.constantFrom<string>('a', 'b', 'c', 'd')
  fc.assert(
    fc.property(
      fc.constantFrom(...TASK_FOR),
      fc.uniqueArray(group),
      fc.uniqueArray(group),
      (forWhom, groups, seats) => {
        const task = terms({ forWhom, groups, dueAt: null, late: 'no', withoutGroup: 'hidden' })
        const owners = ownersFor(task, 'me', seats)
        const of = owners.flatMap((owner) => (owner.kind === 'group' ? owner.group : []))
        expect(of.every((one) => seats.includes(one))).toBe(true)
        if (forWhom === 'some-groups') expect(of.every((one) => groups.includes(one))).toBe(true)
        if (forWhom === 'students') expect(owners).toEqual([{ kind: 'student', student: 'me' }])
        // Whoever finds it open has somebody to hand in for, and nobody else has.
        const open = taskGate(task, seats, at(9)).state === 'open'
        if (forWhom !== 'students') expect(owners.length > 0).toBe(open)
      },
    ),
  )
})

it('names what is wrong with the times', () => {
  expect(timesFault(terms())).toBeNull()
  expect(timesFault(terms({ dueAt: at(8) }))).toBe('due-before-start')
  expect(timesFault(terms({ dueAt: null, availableFrom: null }))).toBe('late-without-due')
  expect(timesFault(terms({ lateUntil: null }))).toBe('late-without-end')
  expect(timesFault(terms({ lateUntil: at(12) }))).toBe('late-before-due')
  expect(timesFault(terms({ late: 'always', lateUntil: null }))).toBeNull()
})

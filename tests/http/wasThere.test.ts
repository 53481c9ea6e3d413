import fc from 'fast-check'
import { expect, it } from 'vitest'
import type { DeskView } from '../../src/contract/marks.ts'
import type { OwnWork } from '../../src/contract/ownWork.ts'
import type { Problem } from '../../src/contract/problems.ts'
import { must } from './harness.ts'
import { historiesOf } from './histories.ts'

/**
 * To whom a mark belongs, over random histories of seats, hand-ins, marks and corrections, against a model that knows
 * nothing of the code: what a student is shown once everything is released, and what stands in the file of marks.
 */
const RUNS = Number(process.env.OWNERSHIP_RUNS ?? 12)
const STUDENTS = [0, 1, 2]
const TOPICS = ['Tempeh', 'Kefir'] as const
type Topic = (typeof TOPICS)[number]

const { school, client, code, freshSheet } = historiesOf(STUDENTS, TOPICS)

type Command =
  | { kind: 'seat'; student: number; to: Topic | null }
  | { kind: 'hand-in'; student: number }
  | { kind: 'take-back'; student: number }
  | { kind: 'mark'; topic: Topic; points: number | null }
  | { kind: 'correct'; topic: Topic; people: number[] }
const student = fc.constantFrom(...STUDENTS)
const topic = fc.constantFrom(...TOPICS)
const command: fc.Arbitrary<Command> = fc.oneof(
  {
    weight: 4,
    arbitrary: fc.record({
      kind: fc.constant('seat' as const),
      student,
      to: fc.option(topic, { nil: null, freq: 4 }),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.oneof(
      fc.record({ kind: fc.constant('hand-in' as const), student }),
      fc.record({ kind: fc.constant('take-back' as const), student }),
    ),
  },
  {
    weight: 3,
    arbitrary: fc.record({
      kind: fc.constant('mark' as const),
      topic,
      points: fc.option(fc.integer({ min: 0, max: 10 }), { nil: null, freq: 4 }),
    }),
  },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constant('correct' as const),
      topic,
      people: fc.subarray(STUDENTS, { minLength: 1 }),
    }),
  },
)

/** What the model knows of a group: in words, who its work is for. */
interface Group {
  handedIn: number[] | null
  /** Who was there when it was first marked without a hand-in. */
  there: number[] | null
  byHand: boolean
  points: number | null
  version: number
  marks: number
}

it(
  'a mark belongs to those for whom it was handed in, else to those who were there when it was first given',
  async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.boolean(),
        fc.array(command, { minLength: 4, maxLength: 16 }),
        async (handsIn, commands) => {
          const { at, task, groups } = await freshSheet('Talks', { title: 'Talk', handsIn })
          const seats = new Map<number, Topic>()
          const model: Record<Topic, Group> = {
            Tempeh: { handedIn: null, there: null, byHand: false, points: null, version: 0, marks: 0 },
            Kefir: { handedIn: null, there: null, byHand: false, points: null, version: 0, marks: 0 },
          }
          const sitting = (where: Topic) => STUDENTS.filter((one) => seats.get(one) === where)
          const forWhom = (where: Topic) => {
            const { handedIn, there } = model[where]
            return handedIn ?? there ?? sitting(where)
          }
          for (const step of commands) {
            if (step.kind === 'seat') {
              const from = seats.get(step.student) ?? null
              if (from === step.to) continue
              const change = {
                person: code(step.student),
                from: from && groups[from],
                to: step.to && groups[step.to],
              }
              await must(school().owner.post(`${at}/seatings`, { changes: [change], confirmed: true }))
              if (step.to === null) seats.delete(step.student)
              else seats.set(step.student, step.to)
            } else if (step.kind === 'hand-in' || step.kind === 'take-back') {
              const where = seats.get(step.student)
              if (!where) continue
              const group = model[where]
              if (step.kind === 'take-back' && group.handedIn === null) continue
              const path = step.kind === 'hand-in' ? 'hand-ins' : 'take-back'
              const body = { group: groups[where], text: 'Ours', after: group.version }
              const answer = await client(step.student).post<Problem>(`${at}/tasks/${task}/${path}`, body)
              if (!handsIn) {
                expect(answer.body.code).toBe('no-hand-in')
                continue
              }
              expect(answer.status, JSON.stringify(answer.body)).toBe(200)
              if (step.kind === 'hand-in') {
                group.version += 1
                group.handedIn = sitting(where)
              } else {
                // What was marked as handed in stays with those for whom that was.
                if (group.marks > 0) group.there = group.handedIn
                group.handedIn = null
              }
            } else if (step.kind === 'mark') {
              const group = model[step.topic]
              const body = {
                owner: groups[step.topic],
                apart: null,
                version: group.marks,
                placements: {},
                points: step.points,
                feedback: '',
              }
              const answer = await school().owner.send<DeskView & Problem>(
                'PUT',
                `${at}/tasks/${task}/marks`,
                body,
              )
              if (forWhom(step.topic).length === 0 && group.version === 0) {
                expect(answer.status).toBe(422)
                continue
              }
              expect(answer.status, JSON.stringify(answer.body)).toBe(200)
              const before = forWhom(step.topic)
              group.marks += 1
              group.points = step.points
              if (group.handedIn !== null) continue
              if (step.points !== null) group.there ??= before.length > 0 ? before : null
              else if (!group.byHand) group.there = null
            } else {
              const group = model[step.topic]
              const body = {
                owner: groups[step.topic],
                people: step.people.map((one) => code(one)),
                reason: 'Was ill',
              }
              const answer = await school().owner.send<Problem>('PUT', `${at}/tasks/${task}/there`, body)
              if (forWhom(step.topic).length === 0 && group.version === 0) expect(answer.status).toBe(422)
              else if (group.handedIn !== null) expect(answer.body.code).toBe('handed-in-meanwhile')
              else {
                expect(answer.status, JSON.stringify(answer.body)).toBe(200)
                group.there = step.people
                group.byHand = true
              }
            }
          }
          await school().owner.post(`${at}/tasks/${task}/release`, { owners: null, released: true })
          const shown: Record<number, Record<string, number>> = {}
          for (const one of STUDENTS) {
            const { tasks } = await must<OwnWork>(client(one).get(`${at}/own-work`))
            shown[one] = Object.fromEntries(
              tasks.flatMap(({ group, work }) =>
                group && work?.mark ? [[group.title, work.mark.points as number]] : [],
              ),
            )
          }
          const expected = Object.fromEntries(
            STUDENTS.map((one) => [
              one,
              Object.fromEntries(
                TOPICS.flatMap((where) =>
                  model[where].points !== null && forWhom(where).includes(one)
                    ? [[where, model[where].points]]
                    : [],
                ),
              ),
            ]),
          )
          expect(shown).toEqual(expected)
        },
      ),
      { numRuns: RUNS },
    )
  },
  60_000 + RUNS * 5_000,
)

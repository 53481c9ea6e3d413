import fc from 'fast-check'
import { expect, it } from 'vitest'
import type { OwnWork } from '../../src/contract/ownWork.ts'
import type { Problem } from '../../src/contract/problems.ts'
import { must } from './harness.ts'
import { historiesOf } from './histories.ts'

/** Random histories of who sits where, who hands in and who takes back, against a model that knows nothing of the code. */
const RUNS = Number(process.env.OWNERSHIP_RUNS ?? 10)
const STUDENTS = [0, 1, 2]
const TOPICS = ['Tempeh', 'Kefir']

type Command =
  | { kind: 'seat'; student: number; to: string | null }
  | { kind: 'hand-in'; student: number }
  | { kind: 'take-back'; student: number }

const { school, client, code, freshSheet } = historiesOf(STUDENTS, TOPICS)

interface Version {
  members: number[]
  back: boolean
}

const student = fc.constantFrom(...STUDENTS)
const command: fc.Arbitrary<Command> = fc.oneof(
  fc.record({
    kind: fc.constant('seat' as const),
    student,
    to: fc.constantFrom<string | null>(...TOPICS, null),
  }),
  fc.record({ kind: fc.constant('hand-in' as const), student }),
  fc.record({ kind: fc.constant('take-back' as const), student }),
)

it(
  'a hand-in belongs to those who sat in the group at that moment, whatever happens afterwards',
  async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(command, { minLength: 4, maxLength: 14 }), async (commands) => {
        const { at, task, groups } = await freshSheet('Benches', { title: 'Report' })
        const seats = new Map<number, string>()
        const versions: Record<string, Version[]> = { Tempeh: [], Kefir: [] }
        for (const step of commands) {
          const where = seats.get(step.student)
          const group = where === undefined ? null : groups[where]!
          if (step.kind === 'seat') {
            if ((where ?? null) === step.to) continue
            const to = step.to === null ? null : groups[step.to]!
            const change = { person: code(step.student), from: group, to }
            await must(school().owner.post(`${at}/seatings`, { changes: [change], confirmed: true }))
            if (step.to === null) seats.delete(step.student)
            else seats.set(step.student, step.to)
          } else {
            const own = where === undefined ? [] : versions[where]!
            const path = step.kind === 'hand-in' ? 'hand-ins' : 'take-back'
            const body = { group, text: 'Ours', after: own.length }
            const answer = await client(step.student).post<Problem>(`${at}/tasks/${task}/${path}`, body)
            if (where === undefined) expect(answer.body.code).toBe('task-locked')
            else if (step.kind === 'hand-in') {
              expect(answer.status).toBe(200)
              const members = STUDENTS.filter((one) => seats.get(one) === where)
              own.push({ members, back: false })
            } else if (own.some(({ back }) => !back)) {
              expect(answer.status).toBe(200)
              for (const version of own) version.back = true
            } else expect(answer.body.code).toBe('nothing-handed-in')
          }
        }
        for (const one of STUDENTS) {
          const { tasks } = await must<OwnWork>(client(one).get(`${at}/own-work`))
          const seen = Object.fromEntries(
            tasks.flatMap(({ group, work }) =>
              group
                ? [
                    [
                      group.title,
                      work?.handIns.map(({ version, members }) => [version, members.length]) ?? [],
                    ],
                  ]
                : [],
            ),
          )
          const expected = Object.fromEntries(
            TOPICS.flatMap((topic) => {
              const here = seats.get(one) === topic
              const shown = versions[topic]!.map(({ members }, i) => ({ version: i + 1, members })).filter(
                ({ members }) => here || members.includes(one),
              )
              const there = here || shown.length > 0
              return there
                ? [[topic, shown.reverse().map(({ version, members }) => [version, members.length])]]
                : []
            }),
          )
          expect(seen).toEqual(expected)
        }
      }),
      { numRuns: RUNS },
    )
  },
  60_000 + RUNS * 5_000,
)

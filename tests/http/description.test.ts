import { Validator } from '@seriousme/openapi-schema-validator'
import Ajv from 'ajv/dist/2020.js'
import addFormats from 'ajv-formats'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { describedApi } from '../../scripts/lib/describeApi.mjs'
import { type Harness, must, type School, setUpSchool, startHarness, studentEmail } from './harness.ts'

// A program that knows the description and nothing else: it looks for operations by what they say, sends what their
// schemas take, and holds each answer against the schema that it is to have.

interface Api {
  paths: Record<string, Record<string, Operation>>
  components: { schemas: Record<string, object> }
}
interface Operation {
  operationId: string
  summary: string
  description?: string
  requestBody?: { content: Record<string, { schema: object }> }
  responses: Record<string, { content: Record<string, { schema: object }> }>
}

let api: Api
let harness: Harness
let school: School
let token: string

beforeAll(async () => {
  api = (await describedApi()) as Api
  harness = await startHarness()
  school = await setUpSchool(harness, {
    sections: ['Tue lab', 'Wed lab'],
    students: { 'Tue lab': 3, 'Wed lab': 3 },
    topics: ['Tempeh'],
  })
  const programs = `/api/courses/${school.course}/programs`
  token = (await must<{ token: string }>(school.owner.post(programs, { name: 'A program', mayWrite: true })))
    .token
}, 120_000)
afterAll(() => harness.end())

/** Does an operation that is found by its name, as the description has it. */
async function operate<T = Record<string, unknown>>(
  id: string,
  params: Record<string, string>,
  body?: unknown,
): Promise<T> {
  const found = Object.entries(api.paths).flatMap(([path, methods]) =>
    Object.entries(methods).flatMap(([method, operation]) =>
      operation.operationId === id ? [{ path, method, operation }] : [],
    ),
  )
  expect(found.map(({ path }) => path)).toHaveLength(1)
  const { path, method, operation } = found[0]!
  const taken = operation.requestBody?.content['application/json']?.schema
  if (taken) fits(taken, body, `what is sent to ${id}`)
  else expect(body).toBeUndefined()
  const filled = path.replace(/\{(\w+)\}/g, (_, name: string) => {
    expect(params).toHaveProperty(name)
    return encodeURIComponent(params[name]!)
  })
  const answer = await fetch(harness.address + filled, {
    method: method.toUpperCase(),
    headers: { Authorization: `Bearer ${token}`, ...(taken && { 'Content-Type': 'application/json' }) },
    ...(taken && { body: JSON.stringify(body) }),
  })
  const text = await answer.text()
  const schema = operation.responses['200']!.content['application/json']?.schema
  if (!answer.ok) {
    const problem = JSON.parse(text) as { detail: string }
    fits(
      operation.responses.default!.content['application/problem+json']!.schema,
      problem,
      `the problem of ${id}`,
    )
    throw new Error(problem.detail)
  }
  if (!schema) return text as T
  const given = JSON.parse(text) as T
  fits(schema, given, `what ${id} answers`)
  return given
}

const ajv = new Ajv({ allErrors: true, strict: false })
addFormats(ajv)
function fits(schema: object, value: unknown, what: string): void {
  const check = ajv.compile({ ...schema, components: api.components })
  check(value)
  expect({ what, errors: check.errors ?? [] }).toEqual({ what, errors: [] })
}

it('is OpenAPI 3.1, by a validator of another hand', async () => {
  const validator = new Validator()
  const result = await validator.validate(api as never)
  expect(result.errors ?? []).toEqual([])
  expect(result.valid).toBe(true)
  expect(validator.version).toBe('3.1')
})

it('names each operation once, says what it is, and leaves out what no program may do', () => {
  const all = Object.values(api.paths).flatMap((methods) => Object.values(methods))
  expect(all.length).toBeGreaterThan(80)
  expect(new Set(all.map(({ operationId }) => operationId)).size).toBe(all.length)
  for (const { summary, operationId } of all) expect([operationId, summary]).not.toContain('')
  for (const path of Object.keys(api.paths)) expect(path).not.toMatch(/programs|rehearsal|\/live|\/access\//)
})

describe('a program that knows the description alone', () => {
  it('brings a sheet from nothing to seats and out again', async () => {
    const course = { course: school.course }
    const { people } = await operate<{ people: { code: string; email: string; section: string }[] }>(
      'roster',
      course,
    )
    const { code: sheet } = await operate<{ code: string }>('addSheet', course, {
      title: 'Cheeses',
      seats: 2,
      topics: ['Brie', 'Gouda'],
    })
    const at = { sheet }
    await operate('changeSheet', at, { closesAt: '2026-06-20T17:00', seats: 3 })
    await operate('publishSheet', at, { tell: false })
    const run = await operate<{
      groups: { code: string; topic: string; section: string }[]
      topics: { code: string; title: string }[]
    }>('run', at)
    expect(run.topics.map(({ title }) => title)).toEqual(['Brie', 'Gouda'])
    const somebody = people.find(({ email }) => email === studentEmail('Tue lab', 0))!
    const { sections } = await operate<{ sections: { code: string; name: string }[] }>('course', course)
    const section = sections.find(({ name }) => name === somebody.section)!.code
    const group = run.groups.find((one) => one.section === section)!
    await operate('seatByHand', at, { changes: [{ person: somebody.code, from: null, to: group.code }] })
    const after = await operate<{ seats: object[] }>('run', at)
    expect(after.seats).toMatchObject([{ person: somebody.code, group: group.code }])
    const file = await operate<string>('exportFile', { ...at, file: 'groups.json' })
    expect(JSON.parse(file).students.filter(({ topic }: { topic: string }) => topic !== '')).toMatchObject([
      { code: somebody.code, groupCode: group.code },
    ])
    const { entries } = await operate<{ entries: { kind: string }[] }>('ledger', at)
    expect(entries.map(({ kind }) => kind)).toContain('seat-taken')
  })

  it('is told in the same words as everybody what cannot be', async () => {
    await expect(
      operate('addSheet', { course: school.course }, { title: 'x', seats: 'none' }),
    ).resolves.toBeDefined()
    await expect(operate('run', { sheet: 'nowhere' })).rejects.toThrow(/nothing/i)
  })
})

import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import * as XLSX from '@e965/xlsx'
import Ajv from 'ajv/dist/2020.js'
import addFormats from 'ajv-formats'
import { afterEach, beforeEach, expect, it } from 'vitest'
import { must } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

let labs: Labs
beforeEach(async () => {
  labs = await startLabs()
})
afterEach(() => labs.harness.end())

const file = async (name: string) => {
  const answer = await fetch(`${labs.harness.address}${labs.at}/export/${name}`, {
    headers: { Cookie: labs.school.owner.cookie },
  })
  return { type: answer.headers.get('content-type'), bytes: Buffer.from(await answer.arrayBuffer()) }
}
const json = async () => JSON.parse((await file('groups.json')).bytes.toString())

const ajv = new Ajv({ allErrors: true, strict: true, allowUnionTypes: true })
addFormats(ajv)
const valid = ajv.compile(
  JSON.parse(readFileSync(join(import.meta.dirname, '../../docs/schemas/haplon-groups-1.json'), 'utf8')),
)

/** Some seats, one of them dated, one person without any, one who left. */
async function fill() {
  const { code } = await labs.topic('Tempeh')
  await must(
    labs.school.owner.patch(`${labs.at}/topics/${code}`, {
      startsAt: '2026-05-19T22:00',
      endsAt: '2026-05-20T01:00',
      place: 'Room 3',
    }),
  )
  for (const n of [0, 1]) await labs.take(labs.tue(n), 'Tempeh/Tue lab')
}

it('what goes out as JSON is as its schema says, empty or not', async () => {
  const check = async () => {
    const content = await json()
    valid(content)
    expect(valid.errors ?? []).toEqual([])
    return content
  }
  await check()
  await fill()
  const content = await check()
  const tempeh = content.groups.find(({ topic }: { topic: string }) => topic === 'Tempeh')
  expect(tempeh).toMatchObject({
    startsAt: '2026-05-19T22:00:00+02:00',
    endsAt: '2026-05-20T01:00:00+02:00',
    starts: '2026-05-19 22:00',
    taken: 2,
  })
  const seated = content.students.find(({ topic }: { topic: string }) => topic === 'Tempeh')
  expect(seated).toMatchObject({ groupCode: tempeh.code, startsAt: tempeh.startsAt })
  expect(tempeh.members.map(({ code }: { code: string }) => code)).toContain(seated.code)
})

it('the schema refuses what is not so', async () => {
  await fill()
  const content = await json()
  for (const wrong of [
    { ...content, schema: 'haplon-groups-2' },
    { ...content, madeAt: '2026-05-13 17:00' },
    { ...content, groups: [{ ...content.groups[0], code: undefined }] },
    { ...content, students: [{ ...content.students[0], status: 'gone' }] },
  ])
    expect(valid(JSON.parse(JSON.stringify(wrong)))).toBe(false)
})

it('codes stay while titles change', async () => {
  await fill()
  const before = await json()
  const { code } = await labs.topic('Tempeh')
  await must(labs.school.owner.patch(`${labs.at}/topics/${code}`, { title: 'Tempeh, warm' }))
  const after = await json()
  const codes = ({ groups, students, sheet }: typeof before) => [
    sheet.code,
    groups.map((group: { code: string; topicCode: string }) => [group.code, group.topicCode]),
    students.map((student: { code: string }) => student.code),
  ]
  expect(codes(after)).toEqual(codes(before))
  expect(after.groups.map(({ topic }: { topic: string }) => topic)).toContain('Tempeh, warm')
})

it('workbooks of both kinds hold dates that are dates', async () => {
  await fill()
  for (const name of ['groups.xlsx', 'groups.ods', 'students.ods']) {
    const book = XLSX.read((await file(name)).bytes, { UTC: true, cellDates: true })
    const rows = XLSX.utils.sheet_to_json<Record<string, unknown>>(book.Sheets[book.SheetNames[0]!]!)
    expect(rows.find(({ topic }) => topic === 'Tempeh')?.starts).toEqual(new Date('2026-05-19T22:00Z'))
  }
})

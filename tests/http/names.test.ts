import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { OwnWork } from '../../src/contract/ownWork.ts'
import type { OwnRemarks } from '../../src/contract/remarks.ts'
import type { RosterView } from '../../src/contract/roster.ts'
import { CHOICES, type NamesShown } from '../../src/core/rules.ts'
import { type Client, claim, type Harness, must, studentEmail } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'
import { bring } from './uploading.ts'

/**
 * Everything that a student can read of a sheet, under every rule for names, while it is open and after it closed: whose
 * names are in it. The table below is written from the words of the rules, not from the code.
 * The reader sits at Tempeh.
 */
const OTHERS = {
  mate: 'sits there too',
  left: 'sat there with the reader, and moved to Kefir',
  before: 'sat there before the reader came, and moved to Kefir',
  elsewhere: 'sits at Kefir',
  nowhere: 'has no group',
} as const
type Other = keyof typeof OTHERS

/** Who is known to the reader. Whoever sat with them was named to them then, where the rule names group mates. */
const KNOWN: Record<NamesShown, { open: Other[]; closed: Other[] }> = {
  mates: { open: ['mate', 'left'], closed: ['mate', 'left'] },
  seated: { open: ['mate', 'left', 'before', 'elsewhere'], closed: ['mate', 'left', 'before', 'elsewhere'] },
  'after-close': { open: [], closed: ['mate', 'left', 'before', 'elsewhere'] },
  everyone: {
    open: ['mate', 'left', 'before', 'elsewhere'],
    closed: ['mate', 'left', 'before', 'elsewhere'],
  },
  nobody: { open: [], closed: [] },
}

let labs: Labs
let harness: Harness
let reader: Client
let task: string
const people: Record<Other, number> = { mate: 1, left: 2, before: 3, elsewhere: 4, nowhere: 5 }
const nameOf = (other: Other) => `Student ${people[other]} Tue lab`
const tempeh = () => labs.school.groups['Tempeh/Tue lab']!

beforeAll(async () => {
  labs = await startLabs()
  harness = labs.harness
  const csv = 'name,email,section\nStudent 5 Tue lab,s5.tuelab@school.example,Tue lab'
  await must(
    labs.school.owner.post(`/api/courses/${labs.school.course}/roster/import`, {
      csv,
      skipFaults: false,
      unlisted: 'leave',
    }),
  )
  await must(labs.school.owner.send('PUT', `${labs.at}/extras`, { talk: true, files: true, name: true }))
  const later = () => harness.clock.advance(60_000)
  /** Leaves a trace of everything on the group's page. */
  const act = async (other: Other) => {
    const client = labs.tue(people[other])
    const at = `${labs.at}/groups/${tempeh()}`
    await must(client.post(`${at}/talk`, { title: `From ${other}`, text: 'Some words.' }))
    await must(client.post(`${at}/messages`, { subject: `By ${other}`, text: 'More words.' })).catch(() => {})
    await bring(harness, client, labs.at, { aim: 'group', group: tempeh() }, `${other}.txt`, 'words')
    later()
  }
  await labs.take(labs.tue(people.before), 'Tempeh/Tue lab')
  await act('before')
  await labs.move(labs.tue(people.before), 'Tempeh/Tue lab', 'Kefir/Tue lab')
  later()
  await labs.take(labs.tue(0), 'Tempeh/Tue lab')
  later()
  for (const other of ['mate', 'left'] as const) {
    await labs.take(labs.tue(people[other]), 'Tempeh/Tue lab')
    await act(other)
  }
  await labs.move(labs.tue(people.left), 'Tempeh/Tue lab', 'Kefir/Tue lab')
  later()
  await labs.take(labs.tue(people.elsewhere), 'Kefir/Tue lab')
  await must(
    labs.school.owner.post(`${labs.at}/tasks`, {
      title: 'Report',
      out: true,
      takesFiles: true,
      answers: true,
    }),
  )
  task = (await must<OwnWork>(labs.tue(1).get(`${labs.at}/own-work`))).tasks[0]!.code
  await bring(harness, labs.tue(1), labs.at, { aim: 'work', task, group: tempeh() }, 'report.txt', 'ours')
  await must(
    labs.tue(1).post(`${labs.at}/tasks/${task}/hand-ins`, { group: tempeh(), text: 'Ours', after: 0 }),
  )
  await sayInTheWork()
  reader = harness.as(studentEmail('Tue lab', 0))
})

/** A remark on the work, its mark out, and an answer by the mate. */
async function sayInTheWork(): Promise<void> {
  const { owner } = labs.school
  const at = `${labs.at}/tasks/${task}`
  const place = { kind: 'passage', start: 0, end: 4 }
  const remark = { key: 'names-remark', version: 1, file: null, place, words: 'Whose?' }
  await must(owner.post(`${at}/remarks/${tempeh()}`, remark))
  const mark = { owner: tempeh(), apart: null, version: 0, placements: {}, points: 5, feedback: '' }
  await must(owner.send('PUT', `${at}/marks`, mark))
  await must(owner.post(`${at}/release`, { owners: null, released: true }))
  const own = `${at}/own-remarks/${tempeh()}`
  const { remarks } = await must<OwnRemarks>(labs.tue(people.mate).get(own))
  await must(labs.tue(people.mate).post(`${own}/${remarks[0]!.code}/answer`, { words: 'Mine.' }))
}

afterAll(() => harness.end())

/** All that the reader can fetch of the sheet, as one text. */
async function everything(): Promise<string> {
  const at = `${labs.at}/groups/${tempeh()}`
  const page = await must<{ talk: { code: string }[] }>(reader.get(at))
  const paths = [
    '/api/home',
    '/api/courses',
    `${labs.at}/student`,
    `${labs.at}/own-work`,
    `${labs.at}/tasks/${task}/own-remarks/${tempeh()}`,
    ...page.talk.map(({ code }) => `${at}/talk/${code}`),
  ]
  const answers = await Promise.all(paths.map((path) => reader.get(path)))
  // A claim that is refused answers with the sheet’s state too.
  const refused = await claim(reader, labs.school.sheet, { kind: 'take', to: tempeh() })
  return JSON.stringify([page, answers.map(({ body }) => body), refused.body])
}

describe.each(CHOICES.names.map((rule) => ({ rule })))('names shown to: $rule', ({ rule }) => {
  it.each(['open', 'closed'] as const)('while the sheet is %s', async (state) => {
    harness.clock.set(state === 'open' ? '2026-05-07T07:00:00.000Z' : '2026-05-14T07:00:00.000Z')
    await labs.rule({ names: rule })
    const all = await everything()
    const named = (Object.keys(OTHERS) as Other[]).filter((other) => all.includes(nameOf(other)))
    expect(named.sort()).toEqual(KNOWN[rule][state].toSorted())
    // An address is a name too.
    const addressed = (Object.keys(OTHERS) as Other[]).filter((other) =>
      all.includes(studentEmail('Tue lab', people[other])),
    )
    for (const other of addressed) expect(named).toContain(other)
    expect(all).toContain('Student 0 Tue lab')
    expect(all).toContain('Whose?')
  })
})

it('shown to somebody whose place in the course is paused: nobody’s', async () => {
  await labs.rule({ names: 'everyone' })
  const roster = `/api/courses/${labs.school.course}/roster`
  const { people: all } = await must<RosterView>(labs.school.owner.get(roster))
  const { code } = all.find(({ email }) => email === studentEmail('Tue lab', 0))!
  const set = (status: string) =>
    must(labs.school.owner.patch(`${roster}/people/${code}`, { status, freeSeats: false }))
  await set('paused')
  const paths = ['/api/home', '/api/courses', `${labs.at}/student`, `${labs.at}/own-work`]
  const answers = await Promise.all(paths.map((path) => reader.get(path)))
  const refused = await claim(reader, labs.school.sheet, { kind: 'take', to: tempeh() })
  const text = JSON.stringify([answers.map(({ body }) => body), refused.body])
  await set('active')
  expect(answers.map(({ status }) => status)).toEqual([200, 200, 200, 200])
  for (const other of Object.keys(OTHERS) as Other[]) {
    expect(text).not.toContain(nameOf(other))
    expect(text).not.toContain(studentEmail('Tue lab', people[other]))
  }
})

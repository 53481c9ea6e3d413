import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { DeskView } from '../../src/contract/marks.ts'
import type { OwnWork } from '../../src/contract/ownWork.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { OwnRemarks, RemarksView } from '../../src/contract/remarks.ts'
import type { WorkView } from '../../src/contract/tasks.ts'
import { type Answer, type Client, must } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'
import { bring, download } from './uploading.ts'

const TEXT =
  'The jar stood warm.\nWe tasted the tempeh each morning, and wrote down what we smelled.\nIt was good.'
const PNG = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
)

let labs: Labs
let task: string
let owner: Client
const criteria = [
  { id: 'method', title: 'Method', points: 6, levels: [] },
  { id: 'words', title: 'Wording', points: 4, levels: [] },
]
beforeEach(async () => {
  labs = await startLabs()
  owner = labs.school.owner
  for (const n of [0, 1]) await labs.take(labs.tue(n), 'Tempeh/Tue lab')
  await labs.take(labs.tue(3), 'Kefir/Tue lab')
  const fields = { title: 'Report', out: true, criteria, answers: true, takesFiles: true }
  task = (await must<WorkView>(owner.post(`${labs.at}/tasks`, fields))).tasks[0]!.code
})
afterEach(() => labs.harness.end())

const tempeh = () => labs.school.groups['Tempeh/Tue lab']!
const at = (group = tempeh()) => `${labs.at}/tasks/${task}/remarks/${group}`
const own = (group = tempeh()) => `${labs.at}/tasks/${task}/own-remarks/${group}`
const handIn = (text = TEXT, after = 0, files: string[] = [], by = labs.tue(0)) =>
  must<OwnWork>(by.post(`${labs.at}/tasks/${task}/hand-ins`, { group: tempeh(), text, after, files }))
const tasted = { kind: 'passage', start: TEXT.indexOf('We tasted'), end: TEXT.indexOf(', and') }
let keys = 0
const remark = (fields: object = {}, by = owner): Promise<Answer<RemarksView & Problem>> => {
  keys += 1
  const key = `remark-${keys}`
  return by.post(at(), { key, version: 1, file: null, place: tasted, words: 'When exactly?', ...fields })
}
const mark = () =>
  must<DeskView>(
    owner.send('PUT', `${labs.at}/tasks/${task}/marks`, {
      owner: tempeh(),
      apart: null,
      version: 0,
      placements: { method: 4, words: 3 },
      points: null,
      feedback: '',
    }),
  )
const release = async (released = true) => {
  if (released) await mark().catch(() => {})
  return must(owner.post(`${labs.at}/tasks/${task}/release`, { owners: null, released }))
}

describe('a remark', () => {
  it('is made, changed, taken away and brought back; the same sent twice is one', async () => {
    await handIn()
    const body = { key: 'remark-one', version: 1, file: null, place: tasted, words: 'When exactly?' }
    await must(owner.post(at(), body))
    const { remarks } = await must<RemarksView>(owner.post(at(), body))
    expect(remarks).toHaveLength(1)
    expect(remarks[0]).toMatchObject({
      made: { version: 1, file: null, place: tasted },
      stands: [{ version: 1, file: null, place: tasted }],
      words: 'When exactly?',
      edition: 1,
    })
    const one = `${at()}/${remarks[0]!.code}`
    const points = { criterion: 'method', points: -0.75, words: 'Say when.' }
    const changed = await must<RemarksView>(owner.send('PUT', one, { edition: 1, ...points }))
    expect(changed.remarks[0]).toMatchObject({
      words: 'Say when.',
      criterion: 'method',
      points: -1,
      edition: 2,
    })
    const stale = await owner.send<Problem>('PUT', one, { edition: 1, words: 'No.' })
    expect(stale.body).toMatchObject({ code: 'remark-changed', status: 409 })
    expect((await must<RemarksView>(owner.send('DELETE', one))).remarks).toEqual([])
    expect((await owner.send<Problem>('PUT', one, { edition: 2, words: 'No.' })).body.code).toBe(
      'remark-changed',
    )
    expect((await must<RemarksView>(owner.post(`${one}/restore`, {}))).remarks).toHaveLength(1)
    // Undone and done anew it is the same one.
    await must(owner.send('DELETE', one))
    expect((await must<RemarksView>(owner.post(at(), body))).remarks.map(({ code }) => code)).toEqual([
      remarks[0]!.code,
    ])
    const desk = await must<DeskView>(owner.get(`${labs.at}/tasks/${task}/desk`))
    expect(desk.piles.find((pile) => pile.owner === tempeh())).toMatchObject({ remarks: 1, answers: 0 })
  })

  it('stands only where the work has such a place, and says what is there to be had', async () => {
    await handIn()
    const wrong: [object, string, string][] = [
      [{ version: 2 }, 'version', 'There is no such version of the work.'],
      [
        { place: { kind: 'passage', start: 0, end: 9_999 } },
        'place',
        'The text has no such passage. Mark it again.',
      ],
      [
        { place: { kind: 'spot', page: 1, x: 0.5, y: 0.5 } },
        'place',
        'The text has no such passage. Mark it again.',
      ],
      [
        { place: { kind: 'passage', start: 19, end: 20 } },
        'place',
        'The text has no such passage. Mark it again.',
      ],
      [
        { place: { kind: 'area', page: 1, x: 0.9, y: 0, width: 0.5, height: 1 } },
        'place',
        'Mark a passage, a spot or an area.',
      ],
      [{ place: null }, 'place', 'Mark a passage, a spot or an area.'],
      [{ file: 'nothing' }, 'file', 'Version 1 has no such file.'],
      [{ words: ' ' }, 'words', 'The remark says nothing. Write something, or give points.'],
      [{ criterion: 'gone' }, 'criterion', 'The task has no such criterion any more.'],
      [{ points: 2 }, 'criterion', 'Say to which criterion the points belong.'],
      [{ points: -7, criterion: 'method' }, 'points', '“Method” brings 6 points at most.'],
      [{ words: 'x'.repeat(2_001) }, 'words', 'A remark holds 2,000 characters at most.'],
    ]
    for (const [fields, path, message] of wrong) {
      const { status, body } = await remark(fields)
      expect({ status, errors: body.errors }, JSON.stringify(fields)).toEqual({
        status: 422,
        errors: [{ path, message }],
      })
    }
    expect((await must<RemarksView>(owner.get(at()))).remarks).toEqual([])
    // What is shown as it is may quote as deep as it likes.
    await must(remark({ words: '>'.repeat(200) }))
    // Points alone say something too.
    await must(remark({ words: '', points: 2, criterion: 'words' }))
  })

  it('on a version that was withdrawn is refused in plain words', async () => {
    await handIn()
    await must(labs.tue(1).post(`${labs.at}/tasks/${task}/take-back`, { group: tempeh() }))
    const { status, body } = await remark()
    expect(status).toBe(409)
    expect(body.code).toBe('version-withdrawn')
    expect(body.detail).toMatch(/still in its field/)
  })

  it('stays with the versions that follow, where its passage still stands', async () => {
    await handIn()
    await must(remark())
    await must(remark({ place: { kind: 'passage', start: 0, end: 19 }, words: 'How warm?' }))
    const second = `A preface.\n${TEXT.replace('The jar stood warm.', 'The jar stood at 31 °C.')}`
    await handIn(second, 1)
    const { remarks } = await must<RemarksView>(owner.get(at()))
    const [first, other] = remarks
    expect(first!.stands.map(({ version }) => version)).toEqual([1, 2])
    const { place } = first!.stands[1]!
    expect(place.kind === 'passage' && second.slice(place.start, place.end)).toBe(
      'We tasted the tempeh each morning',
    )
    expect(other!.stands.map(({ version }) => version)).toEqual([1])
    // Put anew where it belongs now.
    const moved = { version: 2, file: null, place: { kind: 'passage', start: 11, end: 34 } }
    const body = { edition: 1, words: 'How warm?', move: moved }
    const after = await must<RemarksView>(owner.send('PUT', `${at()}/${other!.code}`, body))
    expect(after.remarks[1]).toMatchObject({ made: moved, stands: [moved], edition: 2 })
  })

  it('on a picture stays with the file, also where the same is brought again', async () => {
    const aim = { aim: 'work' as const, group: tempeh(), task }
    const picture = async () => {
      await bring(labs.harness, labs.tue(0), labs.at, aim, 'jar.png', PNG)
      const view = await must<OwnWork>(labs.tue(0).get(`${labs.at}/own-work`))
      return view.tasks[0]!.work!.brought.at(-1)!.code
    }
    const code = await picture()
    await handIn('With a picture', 0, [code])
    const place = { kind: 'area', page: 1, x: 0.25, y: 0.25, width: 0.5, height: 0.5 }
    expect((await remark({ file: code, place: tasted })).body.errors?.[0]?.path).toBe('place')
    expect((await remark({ file: code, place: { ...place, page: 2 } })).body.errors?.[0]?.path).toBe('place')
    await must(remark({ file: code, place }))
    await handIn('With it again', 1, [code])
    const again = await picture()
    expect(again).not.toBe(code)
    await handIn('With it once more', 2, [again])
    await handIn('Without it', 3, [])
    const [one] = (await must<RemarksView>(owner.get(at()))).remarks
    expect(one!.stands.map(({ version, file }) => [version, file])).toEqual([
      [1, code],
      [2, code],
      [3, again],
    ])
    expect(one!.fileName).toBe('jar.png')
  })
})

describe('students', () => {
  it('read remarks in place once their mark is out, and nobody else does', async () => {
    await handIn()
    await must(remark({ points: -1, criterion: 'method' }))
    const [member, mate, stranger] = [labs.tue(0), labs.tue(1), labs.tue(3)]
    expect((await member.get(own())).status).toBe(404)
    expect((await must<OwnWork>(member.get(`${labs.at}/own-work`))).tasks[0]!.work).toMatchObject({
      remarks: 0,
    })
    await release()
    for (const one of [member, mate]) {
      const view = await must<OwnRemarks>(one.get(own()))
      expect(view.remarks).toHaveLength(1)
      expect(view.remarks[0]).toMatchObject({
        words: 'When exactly?',
        points: -1,
        by: '',
        stands: [{ version: 1 }],
      })
      expect(view.handIns[0]?.text).toBe(TEXT)
    }
    expect((await must<OwnWork>(member.get(`${labs.at}/own-work`))).tasks[0]!.work).toMatchObject({
      remarks: 1,
    })
    expect((await stranger.get(own())).status).toBe(404)
    expect((await stranger.get(own(labs.school.groups['Kefir/Tue lab']))).status).toBe(404)
    expect((await member.get(own('self'))).status).toBe(404)
    expect((await stranger.get(`${own()}/pdf/work.pdf`)).status).toBe(404)
    // Whoever comes later has no part in it.
    await labs.take(labs.tue(2), 'Tempeh/Tue lab')
    expect((await labs.tue(2).get(own())).status).toBe(404)
    // Hidden again, it is hidden from all.
    await release(false)
    expect((await mate.get(own())).status).toBe(404)
  })

  it('see nothing of a version that was withdrawn, nor of what stands there alone', async () => {
    await handIn()
    await must(remark())
    await must(labs.tue(0).post(`${labs.at}/tasks/${task}/take-back`, { group: tempeh() }))
    await handIn(`New.\n${TEXT}`, 1)
    await must(remark({ version: 2, place: { kind: 'passage', start: 0, end: 4 }, words: 'New indeed.' }))
    await release()
    const { handIns, remarks } = await must<OwnRemarks>(labs.tue(1).get(own()))
    expect(handIns.map(({ version }) => version)).toEqual([2])
    expect(remarks.map(({ words, made }) => [words, made.version])).toEqual([
      ['When exactly?', 2],
      ['New indeed.', 2],
    ])
  })

  it('answer each remark once, where the task lets them, by names as the house rules show them', async () => {
    await handIn()
    await must(remark())
    await release()
    const [{ code } = { code: '' }] = (await must<OwnRemarks>(labs.tue(0).get(own()))).remarks
    const answer = (n: number, words: string) =>
      labs.tue(n).post<OwnRemarks & Problem>(`${own()}/${code}/answer`, { words })
    expect((await answer(0, ' ')).status).toBe(422)
    expect((await answer(3, 'Not mine')).status).toBe(404)
    const given = await must(answer(0, 'At eight.'))
    expect(given.remarks[0]!.answers).toMatchObject([{ words: 'At eight.', yours: true }])
    expect((await answer(0, 'At nine.')).body.code).toBe('remark-answered')
    await must(answer(1, 'Or so.'))
    const seen = (await must<RemarksView>(owner.get(at()))).remarks[0]!.answers
    expect(seen.map(({ by, words }) => [by, words])).toEqual([
      ['Student 0 Tue lab', 'At eight.'],
      ['Student 1 Tue lab', 'Or so.'],
    ])
    const desk = await must<DeskView>(owner.get(`${labs.at}/tasks/${task}/desk`))
    expect(desk.piles.find((pile) => pile.owner === tempeh())).toMatchObject({ remarks: 1, answers: 2 })
    const view = await must<WorkView>(owner.get(`${labs.at}/work`))
    expect(view.tasks[0]!.remarked).toEqual([{ owner: tempeh(), remarks: 1, answers: 2 }])
    await labs.rule({ names: 'nobody' })
    const hidden = (await must<OwnRemarks>(labs.tue(1).get(own()))).remarks[0]!.answers
    expect(hidden.map(({ by }) => by)).not.toContain('Student 0 Tue lab')
    await must(owner.patch(`${labs.at}/tasks/${task}`, { answers: false }))
    expect((await must<OwnRemarks>(labs.tue(1).get(own()))).mayAnswer).toBe(false)
  })

  it('get files back with the mark, and not before', async () => {
    await handIn()
    const aim = { aim: 'feedback' as const, task, owner: tempeh() }
    const student = await bring(labs.harness, labs.tue(0), labs.at, aim, 'a.txt', 'x')
    expect(student).toMatchObject({ status: 404 })
    expect(await bring(labs.harness, owner, labs.at, aim, 'notes.txt', 'Look here.')).toMatchObject({
      name: 'notes.txt',
    })
    const [file] = (await must<RemarksView>(owner.get(at()))).files
    const path = `${labs.at}/files/${file!.code}`
    expect((await download(labs.harness, labs.tue(0), path)).status).toBe(404)
    await release()
    expect((await download(labs.harness, labs.tue(0), path)).status).toBe(200)
    expect((await download(labs.harness, labs.tue(3), path)).status).toBe(404)
    const work = (await must<OwnWork>(labs.tue(1).get(`${labs.at}/own-work`))).tasks[0]!.work!
    expect(work.feedbackFiles.map(({ name }) => name)).toEqual(['notes.txt'])
    expect((await must<RemarksView>(owner.send('DELETE', `${at()}/files/${file!.code}`))).files).toEqual([])
    expect((await download(labs.harness, owner, path)).status).toBe(404)
  })
})

describe('the work as a PDF', () => {
  it('holds the text and its remarks, for staff at once and for its students once the mark is out', async () => {
    await handIn()
    await must(remark())
    const read = async (client: Client, path: string) => {
      const { status, headers, text } = await download(labs.harness, client, path)
      return { status, type: headers.get('content-type'), head: text.slice(0, 5) }
    }
    const pdf = { status: 200, type: 'application/pdf', head: '%PDF-' }
    expect(await read(owner, `${at()}/pdf/work.pdf`)).toEqual(pdf)
    expect((await read(owner, `${at()}/pdf/version-7.pdf`)).status).toBe(404)
    expect((await read(owner, `${at()}/pdf/other.pdf`)).status).toBe(404)
    expect((await read(labs.tue(0), `${own()}/pdf/work.pdf`)).status).toBe(404)
    await release()
    expect(await read(labs.tue(0), `${own()}/pdf/version-1.pdf`)).toEqual(pdf)
    expect((await read(labs.tue(0), `${at()}/pdf/work.pdf`)).status).toBe(403)
  })
})

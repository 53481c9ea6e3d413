import { strFromU8, unzipSync } from 'fflate'
import { beforeEach, describe, expect, it } from 'vitest'
import type { OwnWork } from '../../src/contract/ownWork.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { KnownCriteria, WorkView } from '../../src/contract/tasks.ts'
import { sweep } from '../../src/server/files/uploads.ts'
import { type Client, must } from './harness.ts'
import { markingEach } from './marking.ts'
import { bring, download } from './uploading.ts'

const { labs, tempeh, both } = markingEach()
beforeEach(both)

const setTask = async (body: object = {}) => {
  const view = await must<WorkView>(
    labs().school.owner.post(`${labs().at}/tasks`, { title: 'Report', out: true, takesFiles: true, ...body }),
  )
  return view.tasks.at(-1)!.code
}
const own = async (client: Client) =>
  (await must<OwnWork>(client.get(`${labs().at}/own-work`))).tasks[0]?.work
const forWork = (task: string) => ({ aim: 'work' as const, task, group: tempeh() })
const handIn = (client: Client, task: string, files: string[], after = 0) =>
  client.post<OwnWork & Problem>(`${labs().at}/tasks/${task}/hand-ins`, {
    group: tempeh(),
    text: '',
    files,
    after,
  })

describe('files of a hand-in', () => {
  it('are brought by any member, handed in for all, taken back, and handed in again', async () => {
    const task = await setTask()
    await bring(labs().harness, labs().tue(0), labs().at, forWork(task), 'report.txt', 'ours')
    await bring(labs().harness, labs().tue(1), labs().at, forWork(task), 'extra.txt', 'more')
    const brought = (await own(labs().tue(1)))!.brought
    expect(brought.map(({ name, by }) => `${name} ${by}`)).toEqual([
      'report.txt Student 0 Tue lab',
      'extra.txt Student 1 Tue lab',
    ])
    expect((await handIn(labs().tue(0), task, [])).body.code).toBe('hand-in-empty')
    expect((await handIn(labs().tue(0), task, ['nothing'])).body.errors?.[0]?.path).toBe('files[0]')
    const [report, extra] = brought.map(({ code }) => code) as [string, string]
    await must(handIn(labs().tue(1), task, [report]))
    expect((await own(labs().tue(0)))?.handIns[0]?.files.map(({ name }) => name)).toEqual(['report.txt'])
    expect((await own(labs().tue(0)))?.brought.map(({ name }) => name)).toEqual(['extra.txt'])
    // A later version may carry what an earlier one did.
    await must(handIn(labs().tue(0), task, [report, extra], 1))
    await must(labs().tue(0).post(`${labs().at}/tasks/${task}/take-back`, { group: tempeh() }))
    expect((await own(labs().tue(0)))?.brought).toHaveLength(2)
    const remove = (code: string) =>
      labs().tue(0).post(`${labs().at}/tasks/${task}/draft/files/${code}/remove`, { group: tempeh() })
    await must(remove(report))
    expect((await remove(report)).status).toBe(404)
    // What was handed in once stays readable with that version.
    expect((await download(labs().harness, labs().tue(1), `${labs().at}/files/${report}`)).text).toBe('ours')
  })

  it('are read by those whose work it is, their tutor and instructors; a member who moves keeps what was handed in', async () => {
    const task = await setTask()
    await bring(labs().harness, labs().tue(0), labs().at, forWork(task), 'report.txt', 'ours')
    await bring(labs().harness, labs().tue(0), labs().at, forWork(task), 'draft.txt', 'not yet')
    const [report, draft] = (await own(labs().tue(0)))!.brought.map(
      ({ code }) => `${labs().at}/files/${code}`,
    ) as [string, string]
    await must(handIn(labs().tue(0), task, [report.split('/').at(-1)!]))
    const tutor = labs().harness.as('tutor@school.example')
    await labs().take(labs().tue(2), 'Kefir/Tue lab')
    for (const client of [tutor, labs().tue(2), labs().tue(3)])
      expect((await download(labs().harness, client, report)).status).toBe(404)
    const { sheets, roster } = labs().harness.stores
    const tutorId = roster.enrolmentIn(
      sheets.byCode(labs().school.sheet)!.course_id,
      roster.personByEmail('tutor@school.example')!.id,
    )!.id
    sheets.setTutors(sheets.group(tempeh())!.id, [tutorId])
    expect((await download(labs().harness, tutor, report)).text).toBe('ours')
    const { code } = labs().harness.stores.roster.enrolment(
      labs().harness.stores.seats.ofGroup(sheets.group(tempeh())!.id)[1]!.enrolment_id,
    )!
    await must(
      labs().school.owner.post(`${labs().at}/seatings`, {
        changes: [{ person: code, from: tempeh(), to: labs().school.groups['Miso/Tue lab'] }],
        confirmed: true,
      }),
    )
    expect((await download(labs().harness, labs().tue(1), report)).text).toBe('ours')
    expect((await download(labs().harness, labs().tue(1), draft)).status).toBe(404)
  })

  it('go out as a zip with a folder for each group, tutors getting that of their groups', async () => {
    const task = await setTask()
    const zipOf = async (client: Client) => {
      const answer = await fetch(`${labs().harness.address}${labs().at}/tasks/${task}/hand-ins.zip`, {
        headers: { Cookie: client.cookie },
      })
      if (answer.status !== 200) return ((await answer.json()) as Problem).code
      const files = unzipSync(new Uint8Array(await answer.arrayBuffer()))
      return Object.fromEntries(Object.entries(files).map(([name, bytes]) => [name, strFromU8(bytes)]))
    }
    expect(await zipOf(labs().school.owner)).toBe('nothing-handed-in')
    await bring(labs().harness, labs().tue(0), labs().at, forWork(task), 'report.txt', 'ours')
    await bring(labs().harness, labs().tue(0), labs().at, forWork(task), 'report.txt', 'ours, again')
    await must(
      handIn(
        labs().tue(0),
        task,
        (await own(labs().tue(0)))!.brought.map(({ code }) => code),
      ),
    )
    const zip = (await zipOf(labs().school.owner)) as Record<string, string>
    expect(zip).toMatchObject({
      'Tempeh, Tue lab/report.txt': 'ours',
      'Tempeh, Tue lab/report (2).txt': 'ours, again',
    })
    expect(zip['Tempeh, Tue lab/handed-in.txt']).toMatch(
      /^Version 1, handed in Wed 6 May 2026, \d\d:\d\d \(Europe\/Copenhagen\) by Student 0 Tue lab <s0\.tuelab@school\.example>\nFor Student 0 Tue lab <s0\.tuelab@school\.example>, Student 1/,
    )
    expect(await zipOf(labs().harness.as('tutor@school.example'))).toBe('nothing-handed-in')
  })

  it('that come with a task are there with it, and locked with it', async () => {
    const task = await setTask()
    expect(
      await bring(labs().harness, labs().tue(0), labs().at, { aim: 'task', task }, 'x.txt', 'x'),
    ).toMatchObject({
      code: 'not-found',
    })
    await bring(
      labs().harness,
      labs().school.owner,
      labs().at,
      { aim: 'task', task },
      'form.txt',
      'fill this in',
    )
    const [form] = (await own(labs().tue(0)))!.files
    const path = `${labs().at}/files/${form?.code}`
    expect((await download(labs().harness, labs().tue(0), path)).text).toBe('fill this in')
    expect((await download(labs().harness, labs().tue(4), path)).status).toBe(404)
    await must(labs().school.owner.send('DELETE', `${labs().at}/tasks/${task}/files/${form?.code}`))
    expect((await download(labs().harness, labs().tue(0), path)).status).toBe(404)
  })

  it('that come with a task come along with its copy, and stay there when they go here', async () => {
    const task = await setTask({
      criteria: [{ id: 'c1', title: 'Care', points: 5, levels: ['thin', 'good'] }],
    })
    await bring(
      labs().harness,
      labs().school.owner,
      labs().at,
      { aim: 'task', task },
      'form.txt',
      'fill this in',
    )
    const copied = await must<{ code: string }>(
      labs().school.owner.post(`${labs().at}/copy`, {
        course: labs().school.course,
        title: 'Again',
        opensAt: null,
        people: false,
        tasks: true,
      }),
    )
    const at = `/api/sheets/${copied.code}`
    const { tasks } = await must<WorkView>(labs().school.owner.get(`${at}/work`))
    const [form] = tasks[0]!.files
    const [before] = (await own(labs().tue(0)))!.files
    await must(labs().school.owner.send('DELETE', `${labs().at}/tasks/${task}/files/${before?.code}`))
    await sweep(labs().harness.disk, labs().harness.stores.files, labs().harness.clock.now())
    expect((await download(labs().harness, labs().school.owner, `${at}/files/${form?.code}`)).text).toBe(
      'fill this in',
    )
    // Its criteria can be used on any sheet of the course.
    const known = await must<KnownCriteria[]>(
      labs().school.owner.get(`/api/courses/${labs().school.course}/criteria`),
    )
    expect(known.map(({ sheetTitle, title, criteria }) => [sheetTitle, title, criteria[0]?.title])).toEqual([
      ['Again', 'Report', 'Care'],
      ['Culture benches', 'Report', 'Care'],
    ])
  })
})

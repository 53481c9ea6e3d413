import { expect, type Page, test } from '@playwright/test'
import { enterAs, INSTRUCTOR, PHONE, post, publishSheet, send, studentsOf, TUTOR } from './people.ts'

/** A sheet with seats taken and one task, handed in by the first group; its codes and two students of it. */
async function workOn(page: Page, title: string) {
  const code = await publishSheet(page, title, [{ title: 'Red cabbage' }, { title: 'White cabbage' }], {
    seats: 30,
    floor: 1,
  })
  const run = await page.evaluate(
    (sheet) => fetch(`/api/sheets/${sheet}/run`).then((answer) => answer.json()),
    code,
  )
  const students = await studentsOf(page.context(), 'FERM 210')
  const named = new Map(students.map(({ name, email }) => [name, email]))
  const section = run.groups[0].section
  const groups = run.groups.filter((group: { section: string }) => group.section === section)
  const people = run.people.filter(
    (one: { section: string; name: string }) => one.section === section && named.has(one.name),
  )
  const changes = people
    .slice(0, 4)
    .map(({ code: person }: { code: string }, i: number) => ({ person, from: null, to: groups[i % 2].code }))
  await post(page, `/api/sheets/${code}/seatings`, { changes, confirmed: true })
  const work = await post<{ tasks: { code: string }[] }>(page, `/api/sheets/${code}/tasks`, {
    title: 'Brine log',
    instructions: '',
    takesText: true,
    takesLinks: true,
    takesFiles: false,
    availableFrom: null,
    dueAt: null,
    late: 'no',
    lateUntil: null,
    forWhom: 'groups',
    groups: [],
    withoutGroup: 'locked',
    points: 10,
    criteria: [
      { id: 'a', title: 'Method', points: 5, levels: [] },
      { id: 'b', title: 'Record', points: 5, levels: [] },
    ],
    out: true,
  })
  const emails = people.slice(0, 4).map(({ name }: { name: string }) => named.get(name) ?? '')
  return { code, task: work.tasks[0]?.code ?? '', emails }
}

const desk = (page: Page, { code, task }: { code: string; task: string }) =>
  page.goto(`/sheets/${code}/tasks/${task}/desk`)

test('what a student writes is kept when the page is left at once, offline, and in a second tab', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const { code, emails } = await workOn(page, 'Cabbage logs')
  const student = await enterAs(browser, emails[0] ?? '', { viewport: PHONE })
  const text = (of: Page) => of.getByLabel('Text', { exact: true })
  await student.goto(`/sheets/${code}/tasks`)

  await test.step('left within a moment', async () => {
    await text(student).fill('Day one: salted')
    await student.getByRole('link', { name: 'Cabbage logs' }).first().click()
    await student.goto(`/sheets/${code}/tasks`)
    await expect(text(student)).toHaveValue('Day one: salted')
  })

  await test.step('written without a connection, and reloaded', async () => {
    await student.route('**/draft', (route) => route.abort())
    await text(student).fill('Day one: salted. Day two: bubbles')
    await expect(student.getByText('Not saved yet, trying again.')).toBeVisible()
    await student.reload()
    await expect(text(student)).toHaveValue('Day one: salted. Day two: bubbles')
    await student.unroute('**/draft')
    await expect(student.getByText('Saved. Your group sees it too.')).toBeVisible()
  })

  await test.step('a second tab does not overwrite the longer text', async () => {
    const other = await student.context().newPage()
    await other.goto(`/sheets/${code}/tasks`)
    await expect(text(other)).toHaveValue('Day one: salted. Day two: bubbles')
    await other.route('**/own-work', (route) => route.abort())
    await text(student).fill('Day one: salted. Day two: bubbles. Day three: sour')
    await expect(student.getByText('Saved. Your group sees it too.')).toBeVisible()
    await text(other).fill('Short')
    await other.unroute('**/own-work')
    await expect(other.getByText(/Yours stands above; theirs:/)).toBeVisible()
    await expect(text(other)).toHaveValue('Short')
    await other.getByRole('button', { name: 'Use theirs' }).click()
    await expect(text(other)).toHaveValue('Day one: salted. Day two: bubbles. Day three: sour')
    await other.close()
  })

  await test.step('a mate sees who writes at once', async () => {
    const mate = await enterAs(browser, emails[2] ?? '', { viewport: PHONE })
    await mate.goto(`/sheets/${code}/tasks`)
    await expect(mate.getByText(/is writing now/)).toBeVisible()
    await student.getByRole('button', { name: 'Let others write' }).click()
    await expect(mate.getByText(/is writing now/)).toHaveCount(0)
  })
})

test('marks are kept whatever follows at once: the next pile, another page, a lost save, another marker', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const own = await workOn(page, 'Cabbage marks')
  for (const email of own.emails.slice(0, 2)) {
    const student = await enterAs(browser, email)
    const work = await student.evaluate(
      (sheet) => fetch(`/api/sheets/${sheet}/own-work`).then((answer) => answer.json()),
      own.code,
    )
    const group = work.tasks[0].group.code
    const body = { group, text: `By ${email}`, links: [], files: [], after: 0 }
    await post(student, `/api/sheets/${own.code}/tasks/${own.task}/hand-ins`, body)
    await student.context().close()
  }
  const line = (of: Page, name: string) => of.getByRole('slider', { name, exact: true })
  await desk(page, own)

  await test.step('digits place on the first open line without a line in hand', async () => {
    await expect(line(page, 'Method')).toHaveAttribute('aria-valuetext', 'not placed yet')
    await page.keyboard.press('4')
    await expect(line(page, 'Method')).toHaveAttribute('aria-valuetext', '4 of 5')
  })

  await test.step('the next pile within a moment: kept, and said that a line is open', async () => {
    await page.getByRole('button', { name: /^Next to mark/ }).click()
    await expect(page.getByText(/is not marked whole: “Record” is open\./)).toBeVisible()
    await page.keyboard.press('k')
    await expect(line(page, 'Method')).toHaveAttribute('aria-valuetext', '4 of 5')
  })

  await test.step('feedback, and away by a crumb', async () => {
    await page.getByLabel('Feedback').fill('Clear and complete')
    await page.getByRole('link', { name: 'Cabbage marks' }).click()
    await expect(page).toHaveURL(/\/work$/)
    await desk(page, own)
    await expect(page.getByLabel('Feedback')).toHaveValue('Clear and complete')
  })

  await test.step('a lost save is tried again although the next pile is in front', async () => {
    await page.route('**/marks', (route) => route.abort())
    await line(page, 'Record').press('3')
    await page.keyboard.press('j')
    await page.unroute('**/marks')
    await page.waitForTimeout(3_000)
    await desk(page, own)
    // The first is marked whole by now, so that the next one lies in front.
    await expect(line(page, 'Record')).toHaveAttribute('aria-valuetext', 'not placed yet')
    await page.keyboard.press('k')
    await expect(line(page, 'Record')).toHaveAttribute('aria-valuetext', '3 of 5')
  })

  await test.step('two markers on one group: what each changed stands', async () => {
    const other = await enterAs(browser, INSTRUCTOR)
    await desk(other, own)
    await expect(line(other, 'Method')).toHaveAttribute('aria-valuetext', 'not placed yet')
    await other.keyboard.press('k')
    await expect(line(other, 'Method')).toHaveAttribute('aria-valuetext', '4 of 5')
    await other.route('**/desk', (route) =>
      route.request().method() === 'GET' ? route.abort() : route.continue(),
    )
    await line(page, 'Method').press('5')
    await expect(page.getByText(/^Saved\. Marked by/)).toBeVisible()
    await line(other, 'Record').press('2')
    await other.unroute('**/desk')
    await expect(line(other, 'Method')).toHaveAttribute('aria-valuetext', '5 of 5')
    await expect(line(other, 'Record')).toHaveAttribute('aria-valuetext', '2 of 5')
    await expect(line(page, 'Record')).toHaveAttribute('aria-valuetext', '2 of 5')
  })

  await test.step('a member set apart begins as the group', async () => {
    await page
      .getByRole('button', { name: /^Set apart / })
      .first()
      .click()
    await expect(line(page, 'Method')).toHaveAttribute('aria-valuetext', '5 of 5')
  })
  await send(page, 'DELETE', `/api/sheets/${own.code}`, undefined)
})

test('whoever writes at the desk stays where they are, although the group is taken from them meanwhile', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const own = await workOn(page, 'Cabbage desk')
  const course = (
    await page.evaluate(
      (sheet) => fetch(`/api/sheets/${sheet}/run`).then((answer) => answer.json()),
      own.code,
    )
  ).course.code
  await send(page, 'PATCH', `/api/courses/${course}`, { tutorsMark: true })
  const run = await page.evaluate(
    (sheet) => fetch(`/api/sheets/${sheet}/run`).then((answer) => answer.json()),
    own.code,
  )
  const { people } = await page.evaluate(
    (of) => fetch(`/api/courses/${of}/roster`).then((answer) => answer.json()),
    course,
  )
  const tutor = people.find(({ email }: { email: string }) => email === TUTOR).code
  const taken = new Set(run.seats.map(({ group }: { group: string }) => group))
  const seated = run.groups.filter(({ code }: { code: string }) => taken.has(code))
  const looksAfter = (groups: { code: string }[]) =>
    send(page, 'PUT', `/api/sheets/${own.code}/tutors`, {
      changes: groups.map(({ code }) => ({ group: code, add: [tutor] })),
    })
  await looksAfter(seated)
  const marker = await enterAs(browser, TUTOR)
  await desk(marker, own)
  const heading = marker.getByRole('heading', { level: 1 })
  await expect(heading).toHaveText(/Red cabbage/)
  await marker.keyboard.press('j')
  await expect(heading).toHaveText(/White cabbage/)
  const feedback = marker.getByLabel('Feedback')
  await feedback.click()
  await feedback.pressSequentially('Salted 2 days')
  await expect(marker.getByText(/^Saved\. Marked by/)).toBeVisible()
  await feedback.pressSequentially(' at 18')
  await send(page, 'PUT', `/api/sheets/${own.code}/tutors`, {
    changes: [{ group: seated[1].code, remove: [tutor] }],
  })
  await feedback.pressSequentially(' degrees')
  await expect(marker.getByText(/is not among yours any more/)).toBeVisible({ timeout: 20_000 })
  await feedback.pressSequentially(', then 5 at 12')
  await expect(feedback).toBeFocused()
  await expect(feedback).toHaveValue('Salted 2 days at 18 degrees, then 5 at 12')
  await expect(heading).toHaveText(/White cabbage/)
  // Nothing of what was typed has marked the other group.
  await marker.keyboard.press('Tab')
  await marker.getByRole('toolbar', { name: 'The pile' }).getByRole('button').first().click()
  await expect(heading).toHaveText(/Red cabbage/)
  for (const name of ['Method', 'Record'])
    await expect(marker.getByRole('slider', { name, exact: true })).toHaveAttribute(
      'aria-valuetext',
      'not placed yet',
    )
  await expect(marker.getByLabel('Feedback')).toHaveValue('')
})

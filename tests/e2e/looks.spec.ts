import { expect, test } from '@playwright/test'
import { faults } from './axe.ts'
import {
  daysFromNow,
  enterAs,
  INSTRUCTOR,
  openSheet,
  PHONE,
  publishSheet,
  remarkedWork,
  studentsOf,
} from './people.ts'

for (const colorScheme of ['light', 'dark'] as const) {
  test(`axe finds nothing on the instructor’s views, ${colorScheme}`, async ({ browser }) => {
    const page = await enterAs(browser, INSTRUCTOR, { colorScheme })
    const look = async (name: string, ready: () => Promise<unknown>) => {
      await ready()
      expect(await faults(page), name).toEqual([])
    }
    await page.goto('/')
    const benches = page.getByRole('link', { name: /Culture benches/ }).first()
    await look('courses', () => benches.waitFor())
    const ferm = page.getByRole('region', { name: /FERM 210/ }).first()
    await ferm.getByRole('link', { name: 'New sheet' }).click()
    await page.getByLabel('How groups come about').selectOption('made')
    await look('a new sheet', () => page.getByText('Students do not choose.', { exact: false }).waitFor())
    await page.getByLabel('Whom it is for').selectOption('new-list')
    await look('a list of people', () => page.getByText('On the list: 0 of 118').waitFor())
    await page.keyboard.press('Escape')
    await page.goto('/')
    await ferm.getByRole('link', { name: 'Roster' }).click()
    await look('roster', () => page.getByRole('region', { name: 'People' }).waitFor())
    await page.getByRole('link', { name: 'FERM 210 Fermentation Science' }).click()
    await look('a course', () => page.getByRole('heading', { name: 'Settings' }).waitFor())
    await page.getByLabel('Time zone').selectOption('Asia/Tokyo')
    await look('another zone', () => page.getByRole('radio', { name: /The clock stays/ }).waitFor())
    await page.keyboard.press('Escape')
    await page.goBack()
    await page.getByRole('link', { name: 'Faisal Adeyo' }).click()
    await page.getByText('What was changed').first().click()
    await look('a person', () => page.getByRole('cell', { name: '17.5 of 20' }).waitFor())
    const { courses } = await page.evaluate(() => fetch('/api/courses').then((answer) => answer.json()))
    await page.goto(`/courses/${courses[0].code}/programs`)
    await look('programs', () => page.getByRole('button', { name: 'Make token' }).waitFor())
    await page.goto('/programs')
    await page.locator('main summary').first().click()
    await look('what programs may do', () => page.getByRole('heading', { level: 1 }).waitFor())
    await page.goto('/')
    await benches.click()
    await look('run', () => page.getByRole('heading', { name: 'No group yet' }).waitFor())
    await page.getByRole('button', { name: /Tempeh, Wed lab/ }).click()
    await page.getByRole('radio', { name: 'Names' }).click()
    await look('run with a group', () => page.getByRole('complementary', { name: 'Group' }).waitFor())
    await page.keyboard.press('Escape')
    const people = page.getByRole('listbox', { name: 'People without a group' })
    await people.getByRole('option').nth(1).click()
    await people.getByRole('option').nth(2).click()
    await look('run with people picked', () => page.getByText('2 picked').waitFor())
    await page.keyboard.press('p')
    await look('seat them', () => page.getByPlaceholder('Type the topic').waitFor())
    await page.keyboard.press('Escape')
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: /^Nudge/ }).click()
    await look('nudge', () => page.getByText('As read by').waitFor())
    await page.getByRole('tab', { name: 'Before the close' }).click()
    await look('automatic nudges', () => page.getByRole('button', { name: 'Schedule nudge' }).waitFor())
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'How it fills' }).click()
    await look('the curve', () => page.getByText('Seats taken, and the pace needed').waitFor())
    await page.keyboard.press('Escape')
    await page.getByRole('link', { name: 'Settle' }).click()
    await look('settle', () => page.getByText('students seated').waitFor())
    await page.getByRole('button', { name: 'Compare with another plan' }).click()
    await page.getByRole('button', { name: 'As the seat field' }).click()
    await page.getByRole('button', { name: 'Add' }).first().click()
    await look('settle with a field', () => page.getByRole('region', { name: 'The other plan' }).waitFor())
    await page.getByRole('link', { name: 'Ledger' }).click()
    await look('ledger', () => page.getByText(/ changes$/).waitFor())
    await page.getByLabel(/Day and time/).fill(daysFromNow(-1))
    await look('a moment', () => page.getByText(/^As it stood/).waitFor())
    await page.getByRole('link', { name: 'Door list to print' }).click()
    await look('doors', () => page.getByRole('heading', { name: /Culture benches, Tue lab/ }).waitFor())
    await page.getByRole('link', { name: 'Back to the ledger' }).click()
    await page.getByRole('link', { name: 'Run' }).click()
    await page.getByRole('heading', { name: 'No group yet' }).waitFor()
    await page.keyboard.press('?')
    await look('keys', () => page.getByRole('dialog', { name: 'Keys' }).waitFor())
    await page.keyboard.press('Escape')
    await page.keyboard.press('Control+k')
    await look('find', () => page.getByRole('dialog').getByRole('combobox').waitFor())
    await page.keyboard.press('Escape')
    await page.getByRole('link', { name: 'Compose' }).click()
    await look('compose', () => page.getByRole('region', { name: 'Seats check' }).waitFor())
    await page.getByRole('button', { name: /More of Tempeh/ }).click()
    await page.getByRole('button', { name: 'Many topics at once' }).click()
    await page.getByLabel('Topics as text').fill('title,seats\nNew one,3\nTempeh,3')
    await look('compose with everything open', () =>
      page.getByText('The sheet has a topic of this title already.').waitFor(),
    )
    await page.getByRole('tab', { name: 'By a pattern' }).click()
    await look('pattern', () => page.getByLabel('What counts').waitFor())
    await page.getByRole('link', { name: 'Notice to print' }).click()
    await look('notice', () => page.getByRole('img', { name: /QR code/ }).waitFor())
    await page.goBack()
    await page.getByRole('link', { name: 'See it as a student' }).click()
    await look('rehearsal', () => page.frameLocator('iframe').getByRole('article').first().waitFor())
    await page.goto('/')
    await page
      .getByRole('link', { name: /Safety walk teams/ })
      .first()
      .click()
    await page.getByRole('link', { name: 'Work' }).click()
    await look('work', () => page.getByRole('heading', { name: 'Everybody' }).waitFor())
    await page.getByRole('button', { name: 'Set a task' }).click()
    await page.getByRole('button', { name: 'Add a criterion' }).click()
    await look('a task', () => page.getByLabel('Criterion 1', { exact: true }).waitFor())
    await page.keyboard.press('Escape')
    await page.getByRole('link', { name: 'To the desk' }).nth(1).click()
    await look('desk', () => page.getByRole('slider').first().waitFor())
    await page.goto('/')
    await page
      .getByRole('link', { name: /Safety walk teams/ })
      .first()
      .click()
    await page.getByRole('link', { name: 'Work' }).click()
    await page.getByRole('link', { name: 'Group pages' }).click()
    await look('groups', () => page.getByRole('heading', { name: 'What groups get' }).waitFor())
    await page.goto('/')
    await page.getByRole('link', { name: 'Roster' }).first().click()
    await look('roster', () => page.getByRole('region', { name: 'People' }).waitFor())
    await page.getByRole('button', { name: 'Import roster' }).click()
    await page
      .getByLabel('Roster as text')
      .fill('name,email,section\nNew One,new@s.example,Tue lab\nWrong,wrong,Fri lab')
    await page.getByRole('button', { name: 'See what would change' }).click()
    await look('roster preview', () =>
      page.getByText('lines wrong', { exact: false }).or(page.getByText('line wrong')).first().waitFor(),
    )
    await page.reload()
    await page
      .getByRole('checkbox', { name: /^Pick / })
      .nth(3)
      .check()
    await page.getByRole('button', { name: 'Add a person' }).click()
    await look('a person by hand', () => page.getByRole('alertdialog').waitFor())
    await page.goto('/sign-ins')
    await look('signed in', () => page.getByRole('heading', { name: 'Passkeys' }).waitFor())
    await page.goto('/courses/new')
    await look('new course', () => page.getByLabel('Course code').waitFor())
  })

  test(`axe finds nothing on the student’s views, ${colorScheme}`, async ({ browser, context }) => {
    const [first] = await studentsOf(context, 'FERM 210')
    const page = await enterAs(browser, first!.email, { colorScheme, viewport: PHONE })
    await page.goto('/')
    const benches = page.getByRole('link', { name: /Culture benches/ })
    await benches.first().waitFor()
    expect(await faults(page), 'home').toEqual([])
    await benches.first().click()
    await page.getByRole('article').first().waitFor()
    expect(await faults(page), 'sheet').toEqual([])
    await page.goto('/')
    await page
      .getByRole('link', { name: /Safety walk teams/ })
      .first()
      .click()
    await page.getByRole('link', { name: /\d tasks/ }).click()
    // The sheet has articles too.
    await page.waitForURL(/\/tasks$/)
    await page.getByRole('heading', { level: 1 }).waitFor()
    await page.getByRole('article').first().waitFor()
    expect(await faults(page), 'tasks').toEqual([])
    const instructor = await enterAs(browser, INSTRUCTOR)
    const day = daysFromNow(8).slice(0, 10)
    const dated = { startsAt: `${day}T10:00`, endsAt: `${day}T12:00`, link: 'https://meet.example/rye' }
    const code = await publishSheet(
      instructor,
      `Looks, ${colorScheme}`,
      [{ title: 'Rye', brief: 'Wild and slow.', ...dated }, { title: 'Spelt' }],
      { invitations: 'convener', fullGroups: 'line' },
    )
    await page.goto(`/sheets/${code}`)
    const rye = page.getByRole('article', { name: 'Rye' })
    await page.route('**/claims', (route) => route.abort())
    await rye.getByRole('button', { name: 'Take a seat' }).click()
    await page.getByRole('complementary', { name: 'Waiting for the server' }).waitFor()
    expect(await faults(page), 'a kept press').toEqual([])
    // The newer answer goes before the older; without any between, a press that is asked again would reach the server.
    await page.route('**/claims', (route) => {
      const full = { type: '', code: 'group-full', title: '', status: 409, detail: 'That seat was taken.' }
      return route.fulfill({ status: 409, json: full })
    })
    await page.getByRole('region', { name: /somebody was quicker/ }).waitFor()
    expect(await faults(page), 'a lost race').toEqual([])
    await page.unroute('**/claims')
    await page.getByRole('button', { name: 'Close this note' }).click()
    await rye.getByRole('button', { name: 'Take a seat' }).click()
    await rye.getByRole('button', { name: 'Invite somebody' }).waitFor()
    expect(await faults(page), 'a seat of one’s own').toEqual([])
    await rye.getByRole('button', { name: 'Invite somebody' }).click()
    await page.getByRole('radio').first().check()
    expect(await faults(page), 'inviting').toEqual([])
    await page
      .getByRole('alertdialog')
      .getByRole('button', { name: /^Invite / })
      .click()
    await rye.getByText('has not answered yet').waitFor()
    expect(await faults(page), 'invited').toEqual([])
    await page.goto('/')
    await page.getByRole('heading', { name: 'Your calendar' }).waitFor()
    expect(await faults(page), 'calendar').toEqual([])
    await page.goto('/door')
    await page.getByLabel(/Find one of/).waitFor()
    expect(await faults(page), 'door').toEqual([])
    await page.context().clearCookies()
    await page.goto('/sign-in')
    await page.getByLabel('Email address').waitFor()
    expect(await faults(page), 'sign in').toEqual([])
  })
}

for (const colorScheme of ['light', 'dark'] as const) {
  test(`axe finds nothing on the pages of groups at work, ${colorScheme}`, async ({ browser, context }) => {
    const [student] = await studentsOf(context, 'FERM 210-T')
    const instructor = await enterAs(browser, 'matteo.lindgren@brinemoor.example', { colorScheme })
    const { courses } = await instructor.evaluate(() => fetch('/api/courses').then((answer) => answer.json()))
    const past = courses.find(({ courseCode }: { courseCode: string }) => courseCode === 'FERM 210-T')
    await instructor.goto(`/sheets/${past.sheets[0].code}/work/groups`)
    await instructor.getByRole('button', { name: /^Open one subject/ }).click()
    expect(await faults(instructor), 'one subject in all').toEqual([])
    await instructor.keyboard.press('Escape')
    await instructor.getByRole('link', { name: /Slow Bubbles/ }).click()
    await instructor.getByRole('button', { name: /Before you hand in/ }).click()
    await instructor.getByLabel('Reply').fill('@')
    await instructor.getByRole('option').first().waitFor()
    expect(await faults(instructor), 'a group’s page').toEqual([])
    await instructor.getByRole('button', { name: 'Name and more' }).click()
    expect(await faults(instructor), 'what is its own').toEqual([])
    await instructor.keyboard.press('Escape')
    await instructor.getByRole('link', { name: 'Bench report' }).click()
    await instructor.getByRole('img', { name: /page 1 of/ }).waitFor()
    expect(await faults(instructor), 'desk with files').toEqual([])
    const page = await enterAs(browser, student!.email, { colorScheme, viewport: PHONE })
    await page.goto(`/sheets/${past.sheets[0].code}`)
    await page.getByRole('link', { name: 'Your group’s page' }).click()
    await page.getByRole('button', { name: /Before you hand in/ }).click()
    await page.getByRole('button', { name: 'Write to all' }).click()
    expect(await faults(page), 'a message').toEqual([])
    await page.keyboard.press('Escape')
    expect(await faults(page), 'a group’s page on a phone').toEqual([])
    await page.goto(`/sheets/${past.sheets[0].code}/tasks`)
    await page.getByRole('article').first().waitFor()
    expect(await faults(page), 'tasks with files').toEqual([])
    const remarked = await remarkedWork(instructor, context)
    await instructor.goto(remarked.desk)
    await instructor.getByRole('button', { name: 'Edit remark 1' }).click()
    await instructor.getByRole('img', { name: /page 1 of/ }).waitFor()
    expect(await faults(instructor), 'desk with remarks').toEqual([])
    const reader = await enterAs(browser, remarked.email, { colorScheme, viewport: PHONE })
    await reader.goto(remarked.page)
    await reader.getByRole('button', { name: 'Answer' }).first().click()
    expect(await faults(reader), 'remarks on a phone').toEqual([])
    await reader.setViewportSize({ width: 320, height: 640 })
    const wide = await reader.evaluate(() => document.documentElement.scrollWidth)
    expect(wide, 'remarks at 320').toBeLessThanOrEqual(320)
    await instructor.setViewportSize({ width: 320, height: 640 })
    await instructor.getByRole('form', { name: 'The remark' }).waitFor()
    const desk = await instructor.evaluate(() => document.documentElement.scrollWidth)
    expect(desk, 'desk with remarks at 320').toBeLessThanOrEqual(320)
  })
}

test('nothing is cut off on a narrow phone', async ({ browser, context }) => {
  const [first] = await studentsOf(context, 'FERM 210')
  const page = await enterAs(browser, first!.email, { viewport: { width: 320, height: 640 } })
  for (const path of ['/', '/sign-in', '/door']) {
    await page.goto(path)
    await page.waitForLoadState('networkidle')
    expect(await page.evaluate(() => document.documentElement.scrollWidth), path).toBeLessThanOrEqual(320)
  }
})

test('an instructor’s pages fit a phone', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR, { viewport: PHONE })
  const fits = async (name: string) => {
    const width = await page.evaluate(() => document.documentElement.scrollWidth)
    expect(width, name).toBeLessThanOrEqual(PHONE.width)
  }
  await page.goto('/')
  await page
    .getByRole('region', { name: /FERM 210/ })
    .first()
    .getByRole('link', { name: 'New sheet' })
    .click()
  await page.getByLabel('Sheet title').waitFor()
  await fits('new sheet')
  await openSheet(page, 'Culture benches')
  await page.getByRole('heading', { name: 'No group yet' }).waitFor()
  await fits('run')
  await page.getByRole('link', { name: 'Compose' }).click()
  const title = page.getByRole('textbox', { name: 'Title of Tempeh' })
  await title.waitFor()
  await fits('compose')
  expect((await title.boundingBox())!.width).toBeGreaterThan(200)
})

test('staff’s pages are whole on a narrow phone, at twice the text size, and keep their headings', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const { courses } = await page.evaluate(() => fetch('/api/courses').then((answer) => answer.json()))
  const ferm = courses.find(({ courseCode }: { courseCode: string }) => courseCode === 'FERM 210')
  const sheet = ferm.sheets.find(({ title }: { title: string }) => title === 'Safety walk teams').code
  const { tasks } = await page.evaluate(
    (code) => fetch(`/api/sheets/${code}/work`).then((a) => a.json()),
    sheet,
  )
  const pages = [
    '/',
    '/courses/new',
    `/courses/${ferm.code}`,
    `/courses/${ferm.code}/roster`,
    `/courses/${ferm.code}/programs`,
    '/programs',
    ...['rehearsal', 'compose', 'run', 'settle', 'work', 'work/groups', 'ledger'].map(
      (stage) => `/sheets/${sheet}/${stage}`,
    ),
    `/sheets/${sheet}/tasks/${tasks[0].code}/desk`,
  ]
  for (const viewport of [
    { width: 320, height: 640 },
    { width: 640, height: 400 },
  ]) {
    await page.setViewportSize(viewport)
    for (const path of pages) {
      await page.goto(path)
      const heading = page.getByRole('heading', { level: 1 })
      await heading.waitFor({ state: 'attached' })
      await page.waitForLoadState('networkidle')
      const said = `${path} at ${viewport.width}`
      expect(await page.evaluate(() => document.documentElement.scrollWidth), said).toBeLessThanOrEqual(
        viewport.width,
      )
      expect((await heading.textContent())?.trim(), said).not.toBe('')
    }
  }
})

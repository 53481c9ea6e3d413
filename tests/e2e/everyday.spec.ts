import { expect, type Page, test } from '@playwright/test'
import { enterAs, INSTRUCTOR, post, send } from './people.ts'

const SMALL_LAPTOP = { width: 1366, height: 650 }

/** A course of its own with two sections of three students; gives its code. */
async function ownCourse(page: Page, courseCode: string): Promise<string> {
  const { code } = await post<{ code: string }>(page, '/api/courses', {
    courseCode,
    title: 'Vinegar Rooms',
    zone: 'Europe/Copenhagen',
    sections: ['Mon room', 'Fri room'],
  })
  const people = ['Mon', 'Fri'].flatMap((day) =>
    [1, 2, 3].map(
      (n) => `${day} ${n},${day}${n}.${courseCode.replace(' ', '')}@brinemoor.example,${day} room`,
    ),
  )
  const csv = ['name,email,section', ...people].join('\n')
  await post(page, `/api/courses/${code}/roster/import`, { csv, skipFaults: false })
  return code
}

test('groups named by section and number begin with their subject and their task', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR, { viewport: SMALL_LAPTOP })
  const course = await ownCourse(page, 'VIN 1')
  await page.goto(`/courses/${course}`)
  await page.getByRole('link', { name: 'New sheet' }).click()
  await page.getByLabel('How groups come about').selectOption('made')
  await page.getByLabel('Groups', { exact: true }).fill('1')
  await page.getByLabel('What counts').selectOption({ label: 'section and number' })
  await page.getByRole('checkbox', { name: 'Talk' }).check()
  await page.getByLabel('First subject').fill('Who are we?')
  await expect(page.getByText('A first subject needs its title and its first post.')).toBeVisible()
  await expect(page.getByRole('button', { name: 'See the groups' })).toBeDisabled()
  await page.getByLabel('Its first post, by you').fill('Say hello.')
  await page.getByLabel('First task').fill('Room log')
  const coming = page.getByRole('complementary', { name: 'What it comes to' })
  await expect(coming).toContainText('“Who are we?”, in every group')
  await expect(coming).toContainText('“Room log”, without a due time')
  await page.getByRole('button', { name: 'See the groups' }).click()
  await page.getByRole('button', { name: 'Publish the groups…' }).click()
  await page.getByRole('alertdialog').getByRole('button', { name: 'Publish', exact: true }).click()
  await expect(page.getByText('The groups are out').first()).toBeVisible()

  const student = await enterAs(browser, 'mon1.vin1@brinemoor.example', {
    viewport: { width: 390, height: 844 },
  })
  await student.goto('/')
  await student.getByRole('link', { name: /New groups/ }).click()
  await student.getByRole('link', { name: 'Your group’s page' }).click()
  await expect(student.getByRole('heading', { level: 1, name: 'Mon room 1' })).toBeVisible()
  await expect(student.getByText('Who are we?').first()).toBeVisible()
  await expect(student.getByRole('link', { name: 'Room log' })).toBeVisible()
})

test('one group is added in one section with its own limit, by keyboard, and taken back', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR, { viewport: SMALL_LAPTOP })
  const course = await ownCourse(page, 'VIN 2')
  const { code } = await post<{ code: string }>(page, `/api/courses/${course}/sheets`, {
    title: 'Casks',
    topics: ['Malt'],
  })
  await page.goto(`/sheets/${code}/run`)
  await page.getByRole('button', { name: 'Add a group' }).press('Enter')
  const form = page.getByRole('dialog', { name: 'Add a group' })
  await form.getByLabel('Title').fill('Cider')
  await form.getByLabel('Where').selectOption({ label: 'one group in Fri room' })
  await form.getByLabel('Seats').fill('many')
  await form.getByLabel('Seats').press('Enter')
  await expect(form.getByText(/whole number/)).toBeVisible()
  await form.getByLabel('Seats').fill('5')
  await form.getByLabel('Seats').press('Enter')
  await expect(page.getByRole('button', { name: /Cider, Fri room/ })).toContainText('0/5')
  await expect(page.getByRole('button', { name: /Cider, Mon room/ })).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('button', { name: /Cider, Fri room/ })).toHaveCount(0)
})

test('what groups are mixed by is edited by hand, on the roster', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const course = await ownCourse(page, 'VIN 3')
  await page.goto(`/courses/${course}/roster`)
  const edit = async (name: string) => {
    await page
      .getByRole('row', { name: new RegExp(name) })
      .getByRole('button', { name: /Edit/ })
      .click()
    return page.getByRole('alertdialog')
  }
  const first = await edit('Mon 1')
  await first.getByLabel('A further attribute').fill('Level')
  await first.getByLabel('Its value').fill('new')
  await first.getByRole('button', { name: 'Save person' }).click()
  await expect(page.getByRole('row', { name: /Mon 1/ })).toContainText('new')
  const second = await edit('Mon 2')
  await second.getByLabel('Level').fill('old')
  await second.getByRole('button', { name: 'Save person' }).click()
  await expect(page.getByRole('row', { name: /Mon 2/ })).toContainText('old')
  await page.getByRole('button', { name: 'Undo this change, seats included' }).click()
  await expect(page.getByRole('row', { name: /Mon 2/ })).not.toContainText('old')
})

test('a task for a list of people is theirs alone', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const course = await ownCourse(page, 'VIN 4')
  const { people } = await page.evaluate(
    (code) => fetch(`/api/courses/${code}/roster`).then((answer) => answer.json()),
    course,
  )
  const one = people.find(({ name }: { name: string }) => name === 'Mon 1').code
  const list = { title: 'Extra reading', note: '', people: [one] }
  await post(page, `/api/courses/${course}/lists`, list)
  const { code } = await post<{ code: string }>(page, `/api/courses/${course}/sheets`, {
    title: 'Casks',
    topics: ['Malt'],
  })
  const closesAt = new Date(Date.now() + 3 * 86_400_000).toISOString().slice(0, 16)
  await send(page, 'PATCH', `/api/sheets/${code}`, { closesAt })
  await post(page, `/api/sheets/${code}/publish`, {})
  await page.goto(`/sheets/${code}/work`)
  await page.getByRole('button', { name: 'Set a task' }).first().click()
  const task = page.getByRole('dialog')
  await task.getByLabel('Title').fill('Reading log')
  await task.getByRole('combobox', { name: /^For/ }).selectOption({
    label: 'each of the list “Extra reading” (1) alone',
  })
  await task.getByRole('combobox', { name: /^Somebody without a group/ }).selectOption('open')
  await task.getByRole('button', { name: 'Set the task' }).click()
  await expect(page.getByText('Reading log').first()).toBeVisible()

  const reader = await enterAs(browser, 'mon1.vin4@brinemoor.example')
  await reader.goto(`/sheets/${code}/tasks`)
  await expect(reader.getByRole('article', { name: 'Reading log' })).toBeVisible()
  const other = await enterAs(browser, 'mon2.vin4@brinemoor.example')
  await other.goto(`/sheets/${code}/tasks`)
  await expect(other.getByText('No task is there for you yet.', { exact: false })).toBeVisible()
})

test('who joins late has a seat as the rule says, chosen in Compose', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const course = await ownCourse(page, 'VIN 5')
  const { code } = await post<{ code: string }>(page, `/api/courses/${course}/sheets`, {
    title: 'Casks',
    topics: ['Malt'],
  })
  await page.goto(`/sheets/${code}/compose`)
  await page.getByLabel('Late enrolments').selectOption({ label: 'are seated by plan' })
  await page.getByLabel('Late is who joins').selectOption({ label: 'after the opening' })
  await page.getByLabel('Where no seat is free').selectOption({ label: 'a further group is begun' })
  await expect(page.getByText('all changes saved')).toBeVisible()
  const closesAt = new Date(Date.now() + 3 * 86_400_000).toISOString().slice(0, 16)
  await send(page, 'PATCH', `/api/sheets/${code}`, { closesAt, seats: 1 })
  await post(page, `/api/sheets/${code}/publish`, {})
  const { sections } = await page.evaluate(
    (one) => fetch(`/api/courses/${one}`).then((answer) => answer.json()),
    course,
  )
  for (const name of ['Late One', 'Late Two'])
    await post(page, `/api/courses/${course}/roster/people`, {
      name,
      email: `${name.replace(' ', '.').toLowerCase()}.vin5@brinemoor.example`,
      section: sections[0].code,
      role: 'student',
    })
  await page.goto(`/sheets/${code}/run`)
  await expect(page.getByRole('button', { name: /Malt, Mon room/ })).toContainText('1/1')
  await expect(page.getByRole('button', { name: /Group 2, Mon room/ })).toContainText('1/1')
})

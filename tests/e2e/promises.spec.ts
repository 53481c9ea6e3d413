import { expect, type Page, test } from '@playwright/test'
import { daysFromNow, enterAs, INSTRUCTOR, post, publishSheet, send, studentsOf } from './people.ts'

/** A new draft of the sample course, open in Compose; its code. */
async function draft(page: Page, title: string, topics: string[]): Promise<string> {
  const { courses } = await page.evaluate(() => fetch('/api/courses').then((answer) => answer.json()))
  const ferm = courses.find(({ courseCode }: { courseCode: string }) => courseCode === 'FERM 210')
  const { code } = await post<{ code: string }>(page, `/api/courses/${ferm.code}/sheets`, { title })
  await post(page, `/api/sheets/${code}/topics/several`, { topics: topics.map((name) => ({ title: name })) })
  await page.goto(`/sheets/${code}/compose`)
  await expect(page.getByRole('heading', { name: title })).toBeVisible()
  return code
}

const composed = (page: Page, code: string) =>
  page.evaluate((sheet) => fetch(`/api/sheets/${sheet}/compose`).then((answer) => answer.json()), code)
const saved = (page: Page) => expect(page.getByText(/all changes saved/)).toBeVisible()
const field = (page: Page, name: string) => page.getByLabel(name, { exact: true })

test('a date that is not whole is never taken for none, and one that is whole is kept without leaving it', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const code = await draft(page, 'Whole dates', ['Rye'])

  await test.step('typed and not left: kept', async () => {
    await field(page, 'Opens').pressSequentially('13 May 2027, 08:00')
    await saved(page)
    expect((await composed(page, code)).opensAt).toBe('2027-05-13T06:00:00.000Z')
  })

  await test.step('a part cleared: not sent, said so, there after a reload', async () => {
    await field(page, 'Opens').fill('13 May 2027,')
    await field(page, 'Closes').focus()
    await expect(page.getByText('Add the time, for example 17:00.')).toBeVisible()
    await expect(page.getByText(/a date is not whole yet/)).toBeVisible()
    await page.waitForTimeout(1_500)
    expect((await composed(page, code)).opensAt).toBe('2027-05-13T06:00:00.000Z')
    await page.reload()
    await expect(field(page, 'Opens')).toHaveValue('13 May 2027,')
  })

  await test.step('shown as everywhere, whatever the browser’s language, and picked from a calendar', async () => {
    await field(page, 'Opens').fill('2027-05-14 9:30')
    await field(page, 'Closes').focus()
    await expect(field(page, 'Opens')).toHaveValue('Fri 14 May 2027, 09:30')
    await page.getByRole('button', { name: 'Pick from a calendar' }).first().click()
    await page.getByRole('button', { name: /May 20th/ }).click()
    await expect(field(page, 'Opens')).toHaveValue('Thu 20 May 2027, 09:30')
    await saved(page)
  })

  await test.step('a window that is refused stands with why, and nothing says that all is saved', async () => {
    await field(page, 'Closes').fill('2027-05-19 10:00')
    await expect(page.getByText(/The closing time has to come after the opening time/)).toBeVisible()
    await expect(page.getByText(/a field is not saved/)).toBeVisible()
    await expect(page.getByText(/all changes saved/)).toHaveCount(0)
    await field(page, 'Closes').fill('2027-05-29 10:00')
    await saved(page)
  })
})

test('two tabs on one field within a moment: the second is asked, neither is lost', async ({ browser }) => {
  const one = await enterAs(browser, INSTRUCTOR)
  await draft(one, 'Two tabs', ['Rye'])
  const two = await one.context().newPage()
  await two.goto(one.url())
  const title = (page: Page) => page.getByRole('textbox', { name: /^Place of Rye/ })
  await expect(title(two)).toBeVisible()
  await Promise.all([title(one).fill('Bench 1'), title(two).fill('Bench 2')])
  const asked = (page: Page) => page.getByText(/Somebody changed it meanwhile/).count()
  await expect.poll(async () => (await asked(one)) + (await asked(two))).toBe(1)
  expect([await title(one).inputValue(), await title(two).inputValue()].sort()).toEqual([
    'Bench 1',
    'Bench 2',
  ])
})

test('an undo undoes its own step and nothing else, and one that fails stays', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const code = await draft(page, 'Own steps', ['Rye', 'Oats'])

  await test.step('a remedy, then a title, then the remedy’s undo', async () => {
    await page.getByRole('button', { name: /^Common limit/ }).click()
    await page.getByRole('button', { name: 'Apply remedy' }).click()
    const undo = page.getByRole('listitem').filter({ hasText: 'Done: a seat for everybody.' })
    await page.getByRole('textbox', { name: 'Title of Rye' }).fill('Rye, dark')
    await saved(page)
    await undo.getByRole('button', { name: 'Undo' }).click()
    await expect(page.getByLabel('Seats per group')).toHaveValue('4')
    expect((await composed(page, code)).topics[0].title).toBe('Rye, dark')
  })

  await test.step('Ctrl Z with the focus anywhere; lost on the way, it stays and works again', async () => {
    await page.getByRole('button', { name: 'More', exact: true }).focus()
    await page.route('**/topics/**', (route) => route.abort())
    await page.keyboard.press('Control+z')
    await expect(page.getByText(/^Not undone\./)).toBeVisible()
    await page.unroute('**/topics/**')
    await page.keyboard.press('Control+z')
    await expect(page.getByRole('textbox', { name: 'Title of Rye', exact: true })).toBeVisible()
    await page.keyboard.press('Control+Shift+z')
    await expect(page.getByRole('textbox', { name: 'Title of Rye, dark' })).toBeVisible()
  })

  await test.step('what somebody else changed since is not undone over', async () => {
    await page.getByRole('textbox', { name: 'Floor of Oats' }).fill('3')
    await saved(page)
    const { topics } = await composed(page, code)
    await send(page, 'PATCH', `/api/sheets/${code}/topics/${topics[1].code}`, { floor: 4 })
    await expect(page.getByRole('textbox', { name: 'Floor of Oats' })).toHaveValue('4')
    await page.getByRole('button', { name: 'More', exact: true }).focus()
    await page.keyboard.press('Control+z')
    await expect(page.getByText(/Not undone\. Somebody changed it meanwhile/)).toBeVisible()
    await expect(page.getByRole('textbox', { name: 'Floor of Oats' })).toHaveValue('4')
  })
})

test('a topic that is removed with its people comes back with them, and says who could not return', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(page, 'Gone and back', [{ title: 'Tempeh' }, { title: 'Natto' }], {
    seats: 5,
    floor: 1,
  })
  const run = await page.evaluate((sheet) => fetch(`/api/sheets/${sheet}/run`).then((a) => a.json()), code)
  const group = run.groups[0]
  const [stays, goes] = run.people.filter(({ section }: { section: string }) => section === group.section)
  const seat = (person: string, from: string | null, to: string | null) =>
    post(page, `/api/sheets/${code}/seatings`, { changes: [{ person, from, to }], confirmed: true })
  for (const { code: person } of [stays, goes]) await seat(person, null, group.code)
  await page.goto(`/sheets/${code}/compose`)
  await page.getByRole('button', { name: /^Remove Tempeh/ }).click()
  const asked = page.getByRole('alertdialog', { name: 'Remove Tempeh?' })
  await expect(asked).toContainText(stays.name)
  await asked.getByRole('button', { name: 'Remove topic' }).click()
  await expect(page.getByText('Tempeh was removed.')).toBeVisible()
  // Meanwhile one of the two is seated elsewhere.
  const other = run.groups.find(
    (one: { topic: string; section: string }) => one.topic !== group.topic && one.section === group.section,
  )
  await seat(goes.code, null, other.code)
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click()
  await expect(page.getByText(/Tempeh is back\. 1 person sits there again\./)).toBeVisible()
  await expect(page.getByText(new RegExp(`${goes.name} could not return`))).toBeVisible()
  await page.goto(`/sheets/${code}/run?group=${group.code}`)
  await expect(page.getByRole('complementary', { name: 'Group' })).toContainText(stays.name)
})

test('the publish question offers nothing that would be refused, and what was just written goes out with it', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const code = await draft(page, 'Going out', ['Rye'])
  await page.getByRole('button', { name: 'Publish…' }).click()
  await expect(page.getByRole('alertdialog')).toContainText('Say when it closes.')
  await expect(page.getByRole('button', { name: 'Publish', exact: true })).toBeDisabled()
  await page.keyboard.press('Escape')
  await field(page, 'Closes').fill(daysFromNow(3))
  await saved(page)
  await page.getByRole('textbox', { name: 'Title of Rye' }).fill('Rye, at the last moment')
  await page.getByRole('button', { name: 'Publish…' }).click()
  await page.getByRole('button', { name: 'Publish', exact: true }).click()
  await expect(page.getByRole('link', { name: /\/s\// })).toBeVisible()
  expect((await composed(page, code)).topics[0].title).toBe('Rye, at the last moment')
})

test('anything is found from everywhere: people, sheets and what to do', async ({ browser, context }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(page, 'Found anywhere', [{ title: 'Natto' }])
  const [someone] = await studentsOf(context, 'FERM 210')
  await page.goto('/')
  const type = async (words: string) => {
    await page.getByRole('heading', { level: 1 }).waitFor({ state: 'attached' })
    await page.keyboard.press('Control+k')
    await page.getByPlaceholder('Type a name, a title or what to do').fill(words)
  }
  await page.getByRole('heading', { name: /FERM 210/ }).waitFor()

  await type(someone!.name)
  await page
    .getByRole('option', { name: new RegExp(someone!.name) })
    .first()
    .click()
  await expect(page.getByRole('heading', { level: 1, name: someone!.name })).toBeVisible()
  await page.getByRole('link', { name: 'Edit on the roster' }).click()
  await expect(page.getByRole('searchbox', { name: 'Search people' })).toHaveValue(someone!.name)
  await expect(page.getByRole('row').filter({ hasText: someone!.email })).toBeVisible()

  await type('nudge found anywhere')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('dialog', { name: 'Write to students' })).toBeVisible()
  await page.keyboard.press('Escape')

  await page.goto('/')
  await type('archive found anywhere')
  await page.keyboard.press('Enter')
  await expect(page.getByText('The sheet is archived.', { exact: false }).first()).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await composed(page, code)).state).toBe('open')
})

test('no answer of one sheet is laid over another, by whatever way one goes from one to the other', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const first = await publishSheet(page, 'Rye first', [{ title: 'Rye' }], { seats: 30 })
  const second = await publishSheet(page, 'Oat second', [{ title: 'Oat' }], { seats: 30 })
  const run = (code: string) =>
    page.evaluate((sheet) => fetch(`/api/sheets/${sheet}/run`).then((answer) => answer.json()), code)
  const { groups, people } = await run(first)
  await page.goto(`/sheets/${first}/run`)
  const tally = page.getByRole('region', { name: 'Tally' })
  await expect(tally).toContainText(new RegExp(`${people.length}\\s*of ${people.length} students`))
  const other = await enterAs(browser, INSTRUCTOR)
  const section = groups[0].section
  const three = people.filter((one: { section: string }) => one.section === section).slice(0, 3)
  const changes = three.map(({ code }: { code: string }) => ({
    person: code,
    from: null,
    to: groups[0].code,
  }))
  await post(other, `/api/sheets/${first}/seatings`, { changes, confirmed: true })
  await expect(tally).toContainText(new RegExp(`${people.length - 3}\\s*of ${people.length} students`))
  await page.keyboard.press('Control+k')
  await page.getByRole('combobox').fill('Oat')
  await page.getByRole('option', { name: /^Oat topic, Oat second/ }).click()
  await expect(page).toHaveURL(new RegExp(`${second}/run`))
  await expect(page.getByRole('heading', { level: 1, name: 'Oat second' })).toBeVisible()
  await expect(tally).toContainText(new RegExp(`${people.length}\\s*of ${people.length} students`))
})

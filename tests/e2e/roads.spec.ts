import { expect, type Page, test } from '@playwright/test'
import type { RunView } from '../../src/contract/seats.ts'
import { enterAs, INSTRUCTOR, PHONE, studentsOf } from './people.ts'

// Every road to a group, walked by what is visible. Actions are counted from the courses page.

/** Counts what somebody does on the way. */
function counting() {
  let actions = 0
  return {
    act: async (what: Promise<unknown>) => {
      actions += 1
      await what
    },
    actions: () => actions,
  }
}

const ferm = (page: Page) => page.getByRole('region', { name: /FERM 210/ }).first()

test('the class is put into ten groups and out to them in six actions; a minute’s undo recalls the mail', async ({
  browser,
  context,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const [student] = await studentsOf(context, 'FERM 210')
  await page.goto('/')
  const { act, actions } = counting()
  await act(ferm(page).getByRole('link', { name: 'New sheet' }).click())
  await act(page.getByLabel('How groups come about').selectOption('made'))
  await act(page.getByLabel('In each section, or mixed').selectOption('mixed'))
  await page.getByLabel('Groups', { exact: true }).fill('10')
  const coming = page.getByRole('complementary', { name: 'What it comes to' })
  await expect(coming).toContainText('10')
  await expect(coming).toContainText('8 groups of 12, 2 of 11')
  await act(page.getByRole('button', { name: 'See the groups' }).click())
  await act(page.getByRole('button', { name: 'Publish the groups…' }).click())
  const ask = page.getByRole('alertdialog')
  await expect(ask).toContainText('8 groups of 12, 2 of 11')
  await expect(ask).toContainText('by nobody')
  await act(ask.getByRole('button', { name: 'Publish', exact: true }).click())
  expect(actions()).toBe(6)
  await expect(page.getByText('The groups are out').first()).toBeVisible()
  const sheet = page.url().match(/sheets\/([\w-]+)/)![1]!

  const phone = await enterAs(browser, student!.email, { viewport: PHONE, hasTouch: true, isMobile: true })
  await phone.goto(`/sheets/${sheet}`)
  await expect(phone.getByRole('complementary', { name: 'Your seat' })).toContainText('You sit at')
  await expect(phone.getByText('Your instructor makes the groups', { exact: false }).first()).toBeVisible()
  await expect(phone.getByRole('button', { name: /Take a seat|Move here|Give up|Wait in line/ })).toHaveCount(
    0,
  )
  await expect(phone.getByRole('article')).toHaveCount(1)

  await page.goto('/outbox')
  await expect(page.getByText(/New groups: you sit at Group/).first()).toBeVisible()
  await expect(page.getByText('held until', { exact: false }).first()).toBeVisible()
  await page.goto(`/sheets/${sheet}/run`)
  await expect(page.getByRole('columnheader', { name: /Everybody · 118/ })).toBeVisible()
})

test('made groups that are published are taken back whole by one undo, and nothing goes out', async ({
  browser,
  context,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const [student] = await studentsOf(context, 'FERM 210')
  await page.goto('/')
  await ferm(page).getByRole('link', { name: 'New sheet' }).click()
  await page.getByLabel('Sheet title').fill('Taken back')
  await page.getByLabel('How groups come about').selectOption('made')
  await page.getByLabel('How many').selectOption('most')
  await page.getByLabel('People in each, at most').fill('4')
  await page.getByRole('button', { name: 'See the groups' }).click()
  await page.getByRole('button', { name: 'Publish the groups…' }).click()
  await page.getByRole('alertdialog').getByRole('button', { name: 'Publish', exact: true }).click()
  const said = page.getByRole('listitem').filter({ hasText: 'The groups are out' })
  await said.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText('Undone. The sheet is a draft again.').first()).toBeVisible()
  const sheet = page.url().match(/sheets\/([\w-]+)/)![1]!
  const phone = await enterAs(browser, student!.email, { viewport: PHONE })
  await phone.goto(`/sheets/${sheet}`)
  await expect(phone.getByText(/nothing at this address/i).first()).toBeVisible()
  await page.goto('/outbox')
  await expect(page.getByRole('heading', { name: 'Outbox' })).toBeVisible()
  await expect(page.getByText(/Taken back: you sit at/)).toHaveCount(0)
  await page.goto(`/sheets/${sheet}/compose`)
  await expect(page.getByRole('heading', { name: /^0 topics/ })).toBeVisible()
})

test('five topics without regard to section take eight actions, and everybody is offered them', async ({
  browser,
  context,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const [student] = await studentsOf(context, 'FERM 210')
  await page.goto('/')
  const { act, actions } = counting()
  await act(ferm(page).getByRole('link', { name: 'New sheet' }).click())
  await act(page.getByRole('button', { name: 'Write topics instead' }).click())
  await act(page.getByLabel('Topics, one in each line').fill('Rye\nSpelt\nEinkorn\nEmmer\nBarley'))
  await act(page.getByLabel('In each section, or mixed').selectOption('mixed'))
  await act(page.getByRole('button', { name: 'Write the sheet' }).click())
  await expect(page.getByRole('heading', { name: /5 topics\s*= 5 groups/ })).toBeVisible()
  await expect(page.getByRole('region', { name: 'Seats check' })).toContainText('120 seats for 118')
  await act(page.getByLabel('Closes', { exact: true }).fill(closing()))
  await page.keyboard.press('Enter')
  await expect(page.getByText(/all changes saved/)).toBeVisible()
  await act(page.getByRole('button', { name: 'Publish…' }).click())
  await act(page.getByRole('alertdialog').getByRole('button', { name: 'Publish', exact: true }).click())
  expect(actions()).toBeLessThanOrEqual(8)
  await expect(page.getByText('The sheet is out').first()).toBeVisible()
  const sheet = page.url().match(/sheets\/([\w-]+)/)![1]!
  const phone = await enterAs(browser, student!.email, { viewport: PHONE })
  await phone.goto(`/sheets/${sheet}`)
  await expect(phone.getByRole('article')).toHaveCount(5)
  await phone.getByRole('button', { name: 'Take a seat Spelt', exact: true }).click()
  await expect(phone.getByRole('complementary', { name: 'Your seat' })).toContainText('Spelt')
})

test('a sheet for a list of people is theirs alone; the list is made from what is pasted, with each wrong line named', async ({
  browser,
  context,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const [one, two, three] = await studentsOf(context, 'FERM 210')
  await page.goto('/')
  await ferm(page).getByRole('link', { name: 'New sheet' }).click()
  await page.getByLabel('Sheet title').fill('Monday talks')
  await page.getByLabel('Whom it is for').selectOption('new-list')
  const box = page.getByRole('dialog')
  await box.getByLabel('Name of the list').fill('Mondays')
  await box.getByLabel('Paste addresses or names').fill(`${one!.email}\nNobody Known\n${two!.name}`)
  await expect(box.getByRole('alert')).toContainText('Line 2, “Nobody Known”')
  await box.getByRole('button', { name: 'Add these 2' }).click()
  await expect(box.getByText('On the list: 2 of 118')).toBeVisible()
  // Closing it by mistake loses nothing.
  await page.keyboard.press('Escape')
  await page.getByLabel('Whom it is for').selectOption('new-list')
  await box.getByRole('button', { name: 'Make the list of 2' }).click()
  await expect(page.getByLabel('Whom it is for').locator('option:checked')).toHaveText('The list “Mondays”')
  await page.getByLabel('In each section, or mixed').selectOption('mixed')
  await page.getByLabel('Groups', { exact: true }).fill('3')
  await expect(page.getByRole('alert').first()).toContainText('3 groups are more than there are people: 2.')
  await expect(page.getByRole('button', { name: 'Write the sheet' })).toBeDisabled()
  await page.getByLabel('Groups', { exact: true }).fill('1')
  await page.getByRole('button', { name: 'Write the sheet' }).click()
  await page.getByLabel('Closes', { exact: true }).fill(closing())
  await page.keyboard.press('Enter')
  await expect(page.getByText(/all changes saved/)).toBeVisible()
  await page.getByRole('button', { name: 'Publish…' }).click()
  await expect(page.getByRole('alertdialog')).toContainText('nobody else learns of it')
  await page.getByRole('alertdialog').getByRole('button', { name: 'Publish', exact: true }).click()
  await expect(page.getByText('The sheet is out').first()).toBeVisible()
  const sheet = page.url().match(/sheets\/([\w-]+)/)![1]!
  // On the roster's page it is changed, and not removed while a sheet is for it.
  await page.goto('/')
  await ferm(page).getByRole('link', { name: 'Roster' }).click()
  const lists = page.getByRole('region', { name: 'Lists' })
  await expect(lists).toContainText('For it: Monday talks')
  await lists.getByRole('button', { name: 'Remove Mondays' }).click()
  await expect(page.getByText('“Monday talks” is for this list', { exact: false }).first()).toBeVisible()
  await lists.getByRole('button', { name: 'Edit Mondays' }).click()
  await page.getByRole('dialog').getByLabel('Note for staff').fill('No late hours')
  await page.getByRole('dialog').getByRole('button', { name: 'Save the list' }).click()
  await expect(lists).toContainText('No late hours')
  const meant = await enterAs(browser, two!.email, { viewport: PHONE })
  await meant.goto('/')
  await expect(meant.getByRole('link', { name: /Monday talks/ })).toBeVisible()
  const other = await enterAs(browser, three!.email, { viewport: PHONE })
  await other.goto('/')
  await expect(other.getByRole('heading', { level: 1 })).toBeVisible()
  await expect(other.getByText(/Monday talks|Mondays/)).toHaveCount(0)
  await other.goto(`/sheets/${sheet}`)
  await expect(other.getByText(/nothing at this address/i).first()).toBeVisible()
})

test('the same groups go on with the next project in four actions, and one undo takes it back', async ({
  browser,
  context,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await page.goto('/')
  const { act, actions } = counting()
  await act(ferm(page).getByRole('link', { name: 'New sheet' }).click())
  await act(
    page
      .getByLabel('How groups come about')
      .selectOption({ label: 'stay in the groups of “Culture benches”' }),
  )
  await expect(page.getByRole('complementary', { name: 'What it comes to' })).toContainText(
    'groups go on from',
  )
  await act(page.getByRole('button', { name: 'Publish the groups…' }).click())
  await act(page.getByRole('alertdialog').getByRole('button', { name: 'Publish', exact: true }).click())
  expect(actions()).toBe(4)
  await expect(page.getByText('is out, with the same groups', { exact: false }).first()).toBeVisible()
  await expect(page).toHaveURL(/\/run$/)
  const sheet = page.url().match(/sheets\/([\w-]+)/)![1]!
  const run: RunView = await page.evaluate(
    (at) => fetch(at).then((answer) => answer.json()),
    `/api/sheets/${sheet}/run`,
  )
  const holding = new Set(run.seats.map(({ person }) => person))
  const seated = new Set(run.people.flatMap(({ code, name }) => (holding.has(code) ? [name] : [])))
  const student = (await studentsOf(context, 'FERM 210')).find(({ name }) => seated.has(name))
  const phone = await enterAs(browser, student!.email, { viewport: PHONE })
  await phone.goto(`/sheets/${sheet}`)
  await expect(phone.getByRole('complementary', { name: 'Your seat' })).toContainText('You sit at')
  await page
    .getByRole('listitem')
    .filter({ hasText: 'with the same groups' })
    .getByRole('button', { name: 'Undo' })
    .click()
  await expect(page.getByRole('heading', { level: 1, name: 'Courses' })).toBeAttached()
  await phone.reload()
  await expect(phone.getByText(/nothing at this address/i).first()).toBeVisible()
})

test('fresh partners: nobody sits again with somebody from the sheet before, and the plan says so', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await page.goto('/')
  await ferm(page).getByRole('link', { name: 'New sheet' }).click()
  await page.getByLabel('Sheet title').fill('Other partners')
  await page
    .getByLabel('How groups come about')
    .selectOption({ label: 'get other partners than on “Culture benches”' })
  await page.getByLabel('How many').selectOption('most')
  await page.getByLabel('People in each, at most').fill('3')
  await page.getByRole('button', { name: 'See the groups' }).click()
  await expect(page.getByText('No pair meets again', { exact: false })).toBeVisible()
  await expect(page.getByText('Better is not possible', { exact: false })).toBeVisible()
  await expect(page.getByRole('checkbox', { name: 'Culture benches' })).toBeChecked()
  await page.reload()
  await expect(page.getByText('No pair meets again', { exact: false })).toBeVisible()
})

test('groups are balanced by columns of the roster, with the spread before and after', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await page.goto('/')
  await ferm(page).getByRole('link', { name: 'New sheet' }).click()
  await page.getByLabel('Sheet title').fill('Balanced')
  await page.getByLabel('How groups come about').selectOption('made')
  await page.getByLabel('In each section, or mixed').selectOption('mixed')
  await page.getByLabel('Groups', { exact: true }).fill('20')
  await page.getByRole('button', { name: 'See the groups' }).click()
  await page.getByRole('button', { name: 'Balance by a column of the roster' }).click()
  await expect(page.getByText('level: spread as well as it can be', { exact: false })).toBeVisible()
  await expect(page.getByText('before people were exchanged', { exact: false })).toBeVisible()
  await page.getByRole('button', { name: 'Add another, less weighty' }).click()
  await expect(page.getByText(/^programme: /)).toBeVisible()
  await page.getByLabel('How programme is spread').selectOption('alike')
  await expect(page.getByText('exchanged for a better mix').first()).toBeVisible()
})

/** A closing time as somebody types it, some days from now. */
function closing(): string {
  const day = new Date(Date.now() + 5 * 86_400_000).toLocaleDateString('en-GB', {
    day: 'numeric',
    month: 'short',
    timeZone: 'Europe/Copenhagen',
  })
  return `${day} 17:00`
}

import { expect, type Page, test } from '@playwright/test'
import { enterAs, INSTRUCTOR, PHONE, post, publishSheet, send, studentsOf } from './people.ts'

test('two mates mark when they could, by key and by finger, one press makes the meeting, and one week is called off and back', async ({
  browser,
  context,
}) => {
  const [first, second] = await studentsOf(context, 'FERM 210')
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'Jar weeks', [{ title: 'North shelf' }])
  await send(instructor, 'PUT', `/api/sheets/${code}/extras`, { calendar: true })
  const ada = await enterAs(browser, first?.email ?? '')
  const bao = await enterAs(browser, second?.email ?? '', { viewport: PHONE, hasTouch: true })
  const groups = await ada.evaluate(
    async (sheet) => (await (await fetch(`/api/sheets/${sheet}/student`)).json()).groups,
    code,
  )
  const to = groups.find(({ title }: { title: string }) => title === 'North shelf').code
  await post(ada, `/api/sheets/${code}/claims`, { key: 'meet-ada-1', kind: 'take', to })
  await post(bao, `/api/sheets/${code}/claims`, { key: 'meet-bao-1', kind: 'take', to })
  const openWeek = async (page: Page) => {
    await page.goto(`/sheets/${code}/groups/${to}`)
    await page.getByText('When could we meet?').click()
  }

  await openWeek(ada)
  await expect(ada.getByText('Once two of you have marked when they can', { exact: false })).toBeVisible()
  await ada.getByRole('button', { name: 'Tue 10:00,' }).focus()
  await ada.keyboard.press('Space')
  await ada.keyboard.press('ArrowDown')
  await ada.keyboard.press('Space')
  await expect(ada.getByRole('button', { name: 'Tue 11:00,' })).toHaveAttribute('aria-pressed', 'true')
  await expect(ada.getByText('Saved.')).toBeVisible()

  await openWeek(bao)
  await bao.getByRole('button', { name: 'Tue 10:00,' }).tap()
  await bao.getByRole('button', { name: 'Tue 11:00,' }).tap()
  await expect(bao.getByText('2 of 2 have said when they can')).toBeVisible()
  await bao.getByLabel('2 hours').check()
  await expect(bao.getByText('Tue 10:00–12:00').first()).toBeVisible()
  await expect(bao.getByText('all of you can')).toBeVisible()
  await bao.getByRole('button', { name: 'Meet ten weeks' }).click()
  await expect(bao.getByText(/^Tue .*10:00 to 12:00, then every week until/)).toBeVisible()

  // The other’s page changes by itself, and can call one week off.
  await expect(ada.getByText(/^Tue .*10:00 to 12:00, then every week until/)).toBeVisible()
  const next = await ada.getByText(/^Tue .*10:00 to 12:00/).textContent()
  await ada.getByRole('button', { name: 'Not this time' }).click()
  await expect(ada.getByText('“Meeting” does not take place on', { exact: false })).toBeVisible()
  await expect(ada.getByText(next ?? '', { exact: true })).toHaveCount(0)
  await ada.getByRole('button', { name: 'Restore' }).click()
  await expect(ada.getByText(next ?? '', { exact: true })).toBeVisible()

  // Set by hand, wrong at first.
  await ada.getByRole('button', { name: 'Set a meeting' }).click()
  const dialog = ada.getByRole('dialog', { name: 'Set a meeting' })
  await dialog.getByLabel('What it is').fill('Tasting')
  await dialog.getByLabel('When', { exact: true }).fill('28 Mar 2027, 02:30')
  await dialog.getByRole('button', { name: 'Set the meeting' }).click()
  await expect(dialog.getByText('does not occur', { exact: false })).toBeVisible()
  await dialog.getByLabel('When', { exact: true }).fill('28 Mar 2027, 14:30')
  await dialog.getByRole('button', { name: 'Set the meeting' }).click()
  await expect(dialog).toHaveCount(0)
  await expect(bao.getByText('Tasting', { exact: true })).toBeVisible()
  await ada.getByRole('button', { name: 'Call off “Tasting”' }).click()
  await expect(bao.getByText('Tasting', { exact: true })).toHaveCount(0)

  // What one group gets can differ.
  await instructor.goto(`/sheets/${code}/groups/${to}`)
  await instructor.getByRole('button', { name: 'What it gets' }).click()
  await instructor.getByRole('dialog').getByLabel('Calendar').uncheck()
  await instructor.getByRole('button', { name: 'Save for this group' }).click()
  await expect(ada.getByRole('heading', { name: 'When we meet' })).toHaveCount(0)
  await instructor.getByRole('button', { name: 'What it gets (differs)' }).click()
  await instructor.getByRole('button', { name: 'Use what all groups get' }).click()
  await expect(ada.getByRole('heading', { name: 'When we meet' })).toBeVisible()
})

test('a convener seats somebody without a group, takes them out in the first days, and staff read it in the ledger', async ({
  browser,
  context,
}) => {
  const students = await studentsOf(context, 'FERM 210')
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'Led jars', [{ title: 'North shelf' }], {
    convener: 'first',
  })
  await test.step('the rule is chosen and said', async () => {
    await instructor.goto(`/sheets/${code}/compose`)
    await instructor.getByLabel('Conveners besides').selectOption('both')
    await expect(instructor.getByLabel('Conveners besides')).toHaveValue('both')
  })
  const first = await enterAs(browser, students[0]?.email ?? '', { viewport: PHONE })
  await first.goto(`/sheets/${code}`)
  await first.getByRole('button', { name: 'Take a seat' }).first().click()
  await expect(first.getByText(/You sit at/).first()).toBeVisible()
  const groups = await first.evaluate(
    async (sheet) => (await (await fetch(`/api/sheets/${sheet}/student`)).json()).groups,
    code,
  )
  const group = groups[0].code
  await first.goto(`/sheets/${code}/groups/${group}`)
  await first.getByRole('button', { name: 'Seat somebody' }).click()
  const dialog = first.getByRole('dialog', { name: 'Who has no group yet' })
  const guest = (await dialog.getByRole('listitem').first().locator('span').first().textContent()) ?? ''
  await dialog.getByRole('button', { name: `Seat here ${guest}` }).click()
  await expect(dialog).toHaveCount(0)
  await expect(first.getByText('2 sit here')).toBeVisible()
  const email = students.find(({ name }) => name === guest)?.email ?? ''
  const seated = await enterAs(browser, email, { viewport: PHONE })
  await seated.goto(`/sheets/${code}/groups/${group}`)
  await expect(seated.getByText('2 sit here')).toBeVisible()
  await first.getByRole('button', { name: `Take out ${guest}` }).click()
  await first.getByRole('alertdialog').getByRole('button', { name: 'Take out' }).click()
  await expect(first.getByText('One sits here')).toBeVisible()
  await expect(seated.getByRole('heading', { name: 'There is no group of yours here' })).toBeVisible()
  // Staff read in the ledger how it came about.
  await instructor.goto(`/sheets/${code}/ledger`)
  await expect(instructor.getByText('by the convener').first()).toBeVisible()
})

import { expect, test } from '@playwright/test'
import { enterAs, INSTRUCTOR, post, publishSheet } from './people.ts'

test('a rehearsal is all that a student meets, keeps nothing, and never leads to a page of the staff', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(page, 'Played through', [{ title: 'Natto' }, { title: 'Koji' }])
  await post(page, `/api/sheets/${code}/tasks`, { title: 'Mould diary', out: true })
  await page.goto(`/sheets/${code}/compose`)
  await page.getByRole('link', { name: 'See it as a student' }).click()
  await expect(page.getByText('Nothing you do here is kept')).toBeVisible()
  const seen = page.frameLocator('iframe')

  // The first page, a locked task, then the seat that opens it.
  await seen.getByRole('link', { name: 'Haplon' }).click()
  await expect(seen.getByRole('heading', { name: 'Hello, Somebody New' })).toBeVisible()
  await seen.getByRole('link', { name: /Played through/ }).click()
  await seen.getByRole('article', { name: 'Natto' }).getByRole('button', { name: 'Take a seat' }).click()
  await expect(seen.getByRole('complementary', { name: 'Your seat' })).toContainText('Natto')
  await seen.getByRole('link', { name: /task/ }).first().click()
  await seen.getByRole('textbox').first().fill('White threads after a day.')
  await seen.getByRole('button', { name: 'Hand in for your group' }).click()
  await seen.getByRole('alertdialog').getByRole('button', { name: 'Hand in' }).click()
  await expect(seen.getByText('Handed in: version 1')).toBeVisible()
  await seen.getByRole('link', { name: 'Natto' }).first().click()
  await expect(seen.getByRole('heading', { level: 1, name: 'Natto' })).toBeVisible()

  // As it is after the close, on a phone.
  await page.getByLabel('At which hour').selectOption({ label: 'after the close' })
  await page.getByRole('checkbox', { name: 'as on a phone' }).check()
  await expect(seen.getByText('The window is closed', { exact: false }).first()).toBeVisible()
  await expect(seen.getByRole('button', { name: 'Take a seat' })).toHaveCount(0)
  expect((await page.locator('iframe').boundingBox())?.width).toBeLessThan(400)

  // As somebody of the roster.
  await page.getByLabel('At which hour').selectOption({ label: 'now' })
  await page.getByLabel('As whom').selectOption({ label: 'Faisal Adeyo' })
  await expect(page.getByRole('heading', { level: 1, name: /as Faisal Adeyo/ })).toBeVisible()
  await seen.getByRole('link', { name: 'Haplon' }).click()
  await expect(seen.getByRole('heading', { name: 'Hello, Faisal Adeyo' })).toBeVisible()

  await page.getByRole('link', { name: 'Back to Compose' }).click()
  await page.getByRole('link', { name: 'Run' }).click()
  await expect(page.getByRole('button', { name: /Natto, Tue lab/ })).toContainText('0')
  await page.goto(`/sheets/${code}/work`)
  await expect(page.getByText('Mould diary').first()).toBeVisible()
})

test('a rehearsal that is over says so, and one whose answer is lost is begun again', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(page, 'Played twice', [{ title: 'Miso' }])
  await page.route('**/api/sheets/*/rehearsal', (route) => route.abort(), { times: 1 })
  await page.goto(`/sheets/${code}/rehearsal`)
  await expect(page.getByRole('alert')).toContainText('The server cannot be reached')
  await page.getByRole('button', { name: 'Begin again' }).click()
  const seen = page.frameLocator('iframe')
  await expect(seen.getByRole('article', { name: 'Miso' })).toBeVisible()

  // Begun elsewhere, this one is over.
  const other = await page.context().newPage()
  await other.goto(`/sheets/${code}/rehearsal`)
  await expect(other.frameLocator('iframe').getByRole('article', { name: 'Miso' })).toBeVisible()
  await seen.getByRole('article', { name: 'Miso' }).getByRole('button', { name: 'Take a seat' }).click()
  await expect(seen.getByText('Begin it again to go on.').first()).toBeVisible()
})

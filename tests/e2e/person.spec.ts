import { expect, test } from '@playwright/test'
import { enterAs, INSTRUCTOR, studentsOf, TUTOR } from './people.ts'

test('a name on the roster leads to all there is of that person, and back to editing it', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await page.goto('/')
  await page
    .getByRole('region', { name: /FERM 210/ })
    .first()
    .getByRole('link', { name: /Roster/ })
    .click()
  await page.getByRole('link', { name: 'Faisal Adeyo' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Faisal Adeyo' })).toBeFocused()
  await expect(page).toHaveTitle(/Faisal Adeyo/)
  const walks = page.getByRole('region', { name: 'Safety walk teams' })
  await expect(walks.getByRole('row', { name: /Walk report/ })).toContainText('17.5 of 20')
  await walks.getByText('What was changed').click()
  await expect(walks.getByRole('listitem').filter({ hasText: 'Faisal Adeyo' }).first()).toBeVisible()
  // A sheet that is not out yet reproaches nobody with not having opened it.
  const mornings = page.getByRole('region', { name: 'Field mornings' })
  await expect(mornings).toContainText('No group yet')
  await expect(mornings).not.toContainText('never opened')

  await walks.getByRole('link', { name: /Glass and sharps/ }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Glass and sharps')
  await page.goBack()
  await page.getByRole('link', { name: 'Edit on the roster' }).click()
  await expect(page.getByRole('row', { name: /Faisal Adeyo/ })).toBeVisible()
  await expect(page.getByRole('row')).toHaveCount(2)
})

test('marks of all sheets are saved in one file, for instructors alone', async ({ browser, context }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await page.goto('/')
  await page
    .getByRole('region', { name: /FERM 210/ })
    .first()
    .getByRole('link', { name: /Roster/ })
    .click()
  const saved = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Marks of all sheets as CSV' }).click()
  const file = await saved
  expect(file.suggestedFilename()).toBe('FERM-210-marks.csv')
  let text = ''
  for await (const piece of await file.createReadStream()) text += piece
  expect(text.split('\r\n')[0]).toMatch(
    /^\uFEFFname,email,student number,section,.*Safety walk teams: Walk report \(of 20\)/,
  )
  expect(text).toMatch(/Faisal Adeyo,[^,]+,26-\d+,Tue lab,.*17\.5/)

  const course = page.url().match(/courses\/([\w-]+)/)![1]!
  const [student] = await studentsOf(context, 'FERM 210')
  for (const who of [student!.email, TUTOR]) {
    const other = await enterAs(browser, who)
    const answer = await other.request.get(`/api/courses/${course}/marks/marks.csv`)
    expect(answer.status()).toBe(403)
    await other.context().close()
  }
})

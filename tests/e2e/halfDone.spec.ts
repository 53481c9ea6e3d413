import { expect, test } from '@playwright/test'
import { enterAs, INSTRUCTOR, PHONE, post, publishSheet, send, studentsOf } from './people.ts'

// What is half done is there again, whatever came between.

const json = (page: import('@playwright/test').Page, path: string) =>
  page.evaluate((at) => fetch(at).then((answer) => answer.json()), path)

test('the choices of a plan are there after a look at Run; a task and a letter after Esc and a click outside', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(page, 'Half done', [{ title: 'Rye' }, { title: 'Oats' }])

  await test.step('Settle', async () => {
    await page.goto(`/sheets/${code}/settle`)
    await page.getByRole('radio', { name: /By lot/ }).check()
    await page.getByRole('link', { name: 'Run', exact: true }).click()
    await page.getByRole('heading', { name: 'No group yet' }).waitFor()
    await page.getByRole('link', { name: 'Settle', exact: true }).click()
    await expect(page.getByRole('radio', { name: /By lot/ })).toBeChecked()
  })

  await test.step('a task, whose first field has the focus', async () => {
    await page.goto(`/sheets/${code}/work`)
    await page.getByRole('button', { name: 'Set a task' }).click()
    const title = page.getByRole('dialog').getByLabel('Title')
    await expect(title).toBeFocused()
    await title.fill('Brine report')
    await page.keyboard.press('Escape')
    await expect(page.getByRole('dialog')).toHaveCount(0)
    await page.getByRole('button', { name: 'Set a task' }).click()
    await expect(title).toHaveValue('Brine report')
  })

  await test.step('a letter, to the section that the tray shows', async () => {
    await page.goto(`/sheets/${code}/run`)
    const section = page.getByRole('button', { name: /^Wed lab \d+$/ })
    const many = /\d+$/.exec(((await section.textContent()) ?? '').trim())![0]
    await section.click()
    await page.getByRole('button', { name: `Nudge ${many} by mail` }).click()
    const letter = page.getByRole('dialog', { name: 'Write to students' })
    await letter.getByLabel('Subject').fill('Your bench waits')
    await page.mouse.click(4, 400)
    await expect(letter).toHaveCount(0)
    await page.getByRole('button', { name: `Nudge ${many} by mail` }).click()
    await expect(letter.getByLabel('Subject')).toHaveValue('Your bench waits')
  })
})

test('a post and an upload that were half way are there after a reload', async ({ browser, context }) => {
  const [one] = await studentsOf(context, 'FERM 210')
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'Half said', [{ title: 'North tank' }])
  await send(instructor, 'PUT', `/api/sheets/${code}/extras`, { talk: true, files: true })
  const student = await enterAs(browser, one!.email, { viewport: PHONE })
  const { groups } = await json(student, `/api/sheets/${code}/student`)
  await post(student, `/api/sheets/${code}/claims`, { key: `half-${code}`, kind: 'take', to: groups[0].code })
  await student.goto(`/sheets/${code}/groups/${groups[0].code}`)

  await test.step('a post', async () => {
    await student.getByRole('button', { name: 'Open a subject' }).click()
    await student.getByLabel('Subject').fill('Who brings salt')
    await student.getByLabel('What you want to say').fill('I have half a')
    await student.reload()
    await student.getByRole('button', { name: 'Open a subject' }).click()
    await expect(student.getByLabel('Subject')).toHaveValue('Who brings salt')
    await expect(student.getByLabel('What you want to say')).toHaveValue('I have half a')
  })

  await test.step('a file, of which a part has not arrived', async () => {
    await student.route('**/uploads/*', (route) => route.abort())
    const log = { name: 'log.txt', mimeType: 'text/plain', buffer: Buffer.from('Day 1: cloudy.') }
    const pick = () => student.getByLabel('Add files').and(student.locator('input'))
    await pick().setInputFiles(log)
    await expect(student.getByText('no connection; it goes on by itself')).toBeVisible()
    await student.reload()
    await student.unroute('**/uploads/*')
    await expect(student.getByText('log.txt').first()).toBeVisible()
    await expect(student.getByText(/choose .* again/i).first()).toBeVisible()
    await pick().setInputFiles(log)
    await expect(
      student.getByRole('region', { name: 'Files' }).getByRole('link', { name: 'log.txt' }),
    ).toBeVisible()
  })
})

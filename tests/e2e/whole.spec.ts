import { expect, test } from '@playwright/test'
import { daysFromNow, enterAs, INSTRUCTOR, openSheet, PHONE, studentsOf } from './people.ts'

test('an instructor composes and publishes, a student takes and moves, the instructor’s screen changes by itself', async ({
  browser,
  context,
}) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  await instructor.goto('/')
  const course = instructor.getByRole('region', { name: /FERM 210/ })
  await course.getByRole('link', { name: 'New sheet' }).click()
  await instructor.getByLabel('Sheet title').fill('Starter swaps')
  await instructor.getByRole('button', { name: 'Write topics instead' }).click()
  await instructor.getByRole('button', { name: 'Write the sheet' }).click()

  // By keyboard alone: T, then a title and Enter for each topic.
  await expect(instructor.getByRole('heading', { name: 'Starter swaps' })).toBeVisible()
  await instructor.locator('body').press('t')
  for (const title of ['Rye', 'Spelt', 'Einkorn']) {
    await instructor.keyboard.type(title)
    await instructor.keyboard.press('Enter')
    await expect(instructor.getByRole('textbox', { name: `Title of ${title}` })).toBeVisible()
  }
  await expect(instructor.getByRole('heading', { name: /3 topics × 3 sections = 9 groups/ })).toBeVisible()

  // The seats check follows: three topics of four seats are twelve for forty.
  const check = instructor.getByRole('region', { name: 'Seats check' })
  await expect(check).toContainText('12 seats for 40')
  await check.getByRole('button', { name: 'Common limit 14' }).click()
  await expect(check).toContainText('gets 14 seats instead of 4')
  await check.getByRole('button', { name: 'Apply remedy' }).click()
  await expect(check).toContainText('a seat for everybody')
  await instructor.getByRole('textbox', { name: 'Seats of Rye' }).fill('1')
  await expect(check).toContainText('29 seats for 40')

  await instructor.getByLabel('Closes', { exact: true }).fill(daysFromNow(2))
  await instructor.getByLabel('Closes', { exact: true }).blur()
  await expect(instructor.getByText('all changes saved')).toBeVisible()
  await instructor.getByRole('button', { name: 'Publish…' }).click()
  await expect(instructor.getByRole('alertdialog')).toContainText('9 groups on 3 topics')
  await instructor.getByRole('button', { name: 'Publish', exact: true }).click()
  const link = instructor.getByRole('link', { name: /\/s\// })
  await expect(link).toBeVisible()
  const address = (await link.getAttribute('href'))!
  await instructor.getByRole('link', { name: 'Run' }).click()
  await expect(instructor.getByText('of 118 students have no group yet')).toBeVisible()

  const [one, two] = await studentsOf(context, 'FERM 210')
  const student = await enterAs(browser, one!.email, { viewport: PHONE })
  await student.goto(address)
  await expect(student.getByRole('heading', { name: 'Starter swaps' })).toBeVisible()
  await student.getByRole('article', { name: 'Rye' }).getByRole('button', { name: 'Take a seat' }).click()
  await expect(student.getByRole('complementary', { name: 'Your seat' })).toContainText('Rye')
  // No reload: the instructor sees it.
  await expect(
    instructor.getByRole('button', { name: 'Rye, Tue lab: 1 of 1 seat taken, full' }),
  ).toBeVisible()
  await expect(instructor.getByText('of 118 students have no group yet').locator('..')).toContainText('117')

  // Another student sees by itself that the group is full, and cannot press.
  const other = await enterAs(browser, two!.email, { viewport: PHONE })
  await other.goto(address)
  await expect(other.getByRole('article', { name: 'Rye' })).toContainText('Full')
  await expect(other.getByRole('article', { name: 'Rye' }).getByRole('button')).toHaveCount(0)
  await expect(other.locator('body')).not.toContainText(one!.name)

  await student.getByRole('article', { name: 'Spelt' }).getByRole('button', { name: 'Move here' }).click()
  await expect(student.getByText('You moved from Rye to Spelt.').first()).toBeVisible()
  await expect(
    other.getByRole('article', { name: 'Rye' }).getByRole('button', { name: 'Take a seat' }),
  ).toBeVisible()
  await expect(instructor.getByRole('button', { name: /Spelt, Tue lab: 1 of 14/ })).toBeVisible()

  // Mates are shown once both sit there, to both, without a reload.
  await other.getByRole('article', { name: 'Spelt' }).getByRole('button', { name: 'Take a seat' }).click()
  await expect(other.getByRole('article', { name: 'Spelt' })).toContainText(one!.name)
  await expect(student.getByRole('article', { name: 'Spelt' })).toContainText(two!.name)

  await student.getByRole('button', { name: 'Give up' }).click()
  await student.getByRole('button', { name: 'Give up seat' }).click()
  await expect(student.getByText('You have no group yet')).toBeVisible()
  await student.getByRole('button', { name: 'Undo' }).first().click()
  await expect(student.getByRole('complementary', { name: 'Your seat' })).toContainText('Spelt')
})

test('a change that affects seated people asks first', async ({ browser }) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  await openSheet(instructor, 'Culture benches')
  await instructor.getByRole('link', { name: 'Compose' }).click()
  const seats = instructor.getByRole('textbox', { name: 'Seats of Sourdough, wild yeast' })
  await seats.fill('1')
  const ask = instructor.getByRole('alertdialog')
  await expect(ask).toContainText('Everybody stays')
  await ask.getByRole('button', { name: 'Cancel' }).click()
  await expect(seats).toHaveValue('')
  await instructor.getByRole('button', { name: /Remove Sourdough/ }).click()
  await expect(ask).toContainText('would have no group')
  await ask.getByRole('button', { name: 'Cancel' }).click()
  await expect(instructor.getByRole('textbox', { name: 'Title of Sourdough, wild yeast' })).toBeVisible()
})

test('topics are reordered by keys and by drag, and removed with a way back', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await openSheet(page, 'Field mornings')
  const titles = () =>
    page
      .locator('[data-cell$=":title"]')
      .evaluateAll((all) => all.map((field) => (field as HTMLInputElement).value))
  await page.getByRole('textbox', { name: 'Title of Soy cellar' }).focus()
  await page.keyboard.press('Alt+ArrowDown')
  await expect.poll(titles).toEqual(['Maltings', 'Soy cellar', 'Dairy cave'])
  const grip = page.getByRole('button', { name: 'Move Dairy cave', exact: true })
  const from = (await grip.boundingBox())!
  const to = (await page.getByRole('button', { name: 'Move Maltings', exact: true }).boundingBox())!
  await page.mouse.move(from.x + 8, from.y + 12)
  await page.mouse.down()
  await page.mouse.move(to.x + 8, to.y + 4, { steps: 12 })
  await page.mouse.up()
  await expect.poll(titles).toEqual(['Dairy cave', 'Maltings', 'Soy cellar'])
  await page.reload()
  await expect.poll(titles).toEqual(['Dairy cave', 'Maltings', 'Soy cellar'])
  await page.getByRole('button', { name: 'Remove Maltings' }).click()
  await expect.poll(titles).toEqual(['Dairy cave', 'Soy cellar'])
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(titles).toEqual(['Dairy cave', 'Maltings', 'Soy cellar'])
  // A wrong number stays as typed, with what is wrong below it.
  await page.getByRole('textbox', { name: 'Seats of Maltings' }).fill('0')
  await expect(page.getByText('A group has at least one seat.')).toBeVisible()
  await page.getByRole('textbox', { name: 'Seats of Maltings' }).fill('')
  await expect(page.getByText('A group has at least one seat.')).toHaveCount(0)
})

test('HTML in a brief is text, and no picture or script comes of it', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await openSheet(page, 'Field mornings')
  const brief =
    '<img src=x onerror="document.title=\'broken\'"> **bold** ![p](http://127.0.0.1:9/p.png) [go](javascript:alert(1))'
  await page.getByRole('textbox', { name: 'Brief of Maltings' }).fill(brief)
  await expect(page.getByText('all changes saved')).toBeVisible()
  await page.getByRole('link', { name: 'See it as a student' }).click()
  const frame = page.frameLocator('iframe')
  const topic = frame.getByRole('article', { name: 'Maltings' })
  await expect(topic.locator('strong', { hasText: 'bold' })).toBeVisible()
  await expect(topic).toContainText('<img src=x')
  await expect(topic.locator('img')).toHaveCount(0)
  expect(await topic.getByText('go', { exact: true }).getAttribute('href')).not.toMatch(/javascript/)
  expect(await page.title()).not.toBe('broken')
  expect(await frame.locator('title').textContent()).toContain('Field mornings')
})

test('the tray finds those who have no group, by name and by section', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await openSheet(page, 'Culture benches')
  const tray = page.getByRole('region', { name: 'No group yet' })
  const shown = tray.getByRole('option')
  await expect(shown.first()).toBeVisible()
  const all = await shown.count()
  const wed = tray.getByRole('button', { name: /^Wed lab \d+$/ })
  const inWed = Number(/\d+$/.exec((await wed.textContent()) ?? '')![0])
  expect(inWed).toBeLessThan(all)
  await wed.click()
  await expect(shown).toHaveCount(inWed)
  await tray.getByRole('button', { name: /^All/ }).click()
  await expect(shown).toHaveCount(all)
  const name = ((await shown.first().textContent()) ?? '').trim().split(/\s+/)[0]!
  await page.keyboard.press('/')
  await page.keyboard.type(name.toLowerCase())
  await expect(shown.first()).toContainText(name)
  expect(await shown.count()).toBeLessThan(all)
  await page.keyboard.type(' nobody at all')
  await expect(tray).toContainText('Nobody without a group is called that.')
  await page.keyboard.press('Escape')
  await expect(shown).toHaveCount(all)
})

test('a student takes a seat, moves and gives it up by keyboard alone', async ({ browser, context }) => {
  const people = await studentsOf(context, 'SENS 105')
  const page = await enterAs(browser, people[0]!.email)
  await page.goto('/')
  /** Goes on by Tab until the focus is on what is called so, then presses Enter. */
  const tabTo = async (name: RegExp) => {
    for (let i = 0; i < 80; i++) {
      await page.keyboard.press('Tab')
      const here = await page.evaluate(() => document.activeElement?.textContent ?? '')
      if (name.test(here)) {
        await page.keyboard.press('Enter')
        return
      }
    }
    throw new Error(`no Tab leads to ${name}`)
  }
  await page.getByRole('link', { name: /Triangle test panels/ }).waitFor()
  await tabTo(/Triangle test panels/)
  const seat = page.getByRole('complementary', { name: 'Your seat' })
  await seat.waitFor()
  if (((await seat.textContent()) ?? '').includes('no group')) await tabTo(/^Take a seat$/)
  await expect(seat).toContainText('You sit at')
  await tabTo(/^Move here$/)
  await expect(page.getByText(/You moved from/).first()).toBeVisible()
  await tabTo(/^Give up$/)
  await page.getByRole('alertdialog').waitFor()
  await tabTo(/^Give up seat$/)
  await expect(seat).toContainText('You have no group yet')
})

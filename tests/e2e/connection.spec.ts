import { expect, test } from '@playwright/test'
import { enterAs, INSTRUCTOR, openSheet, PHONE, studentsOf } from './people.ts'

test('a page that lost its connection catches up by itself', async ({ browser, context }) => {
  const people = await studentsOf(context, 'FERM 210')
  const instructor = await enterAs(browser, INSTRUCTOR)
  await openSheet(instructor, 'Culture benches')
  const tally = instructor.getByRole('region', { name: 'Tally' })
  await expect(tally).toContainText('have no group yet')
  const before = Number(/\d+/.exec((await tally.textContent()) ?? '')![0])

  await instructor.context().setOffline(true)
  // Somebody without a group takes a seat meanwhile.
  for (const { email } of people) {
    const student = await enterAs(browser, email, { viewport: PHONE })
    await student.goto('/')
    const open = student.getByRole('link', { name: /Culture benches/ })
    await open.waitFor()
    const needed = ((await open.textContent()) ?? '').includes('Choose now')
    if (needed) {
      await open.click()
      await student.getByRole('button', { name: 'Take a seat' }).first().click()
      await expect(student.getByRole('complementary', { name: 'Your seat' })).toContainText('You sit at')
    }
    await student.context().close()
    if (needed) break
  }
  await instructor.context().setOffline(false)
  await expect(tally).toContainText(`${before - 1}`)
})

test('a claim whose answer is lost is sent again and takes one seat', async ({ browser, context }) => {
  const people = await studentsOf(context, 'SENS 105')
  for (const { email } of people) {
    const student = await enterAs(browser, email, { viewport: PHONE })
    await student.goto('/')
    const open = student.getByRole('link', { name: /Triangle test panels/ })
    await open.waitFor()
    if (((await open.textContent()) ?? '').includes('Choose now')) {
      await open.click()
      const keys: string[] = []
      await student.route('**/claims', async (route) => {
        keys.push((route.request().postDataJSON() as { key: string }).key)
        if (keys.length > 1) return route.continue()
        await route.fetch()
        return route.abort()
      })
      await student.getByRole('button', { name: 'Take a seat' }).first().click()
      await expect(student.getByText('Trying again…')).toBeVisible()
      await expect(student.getByRole('complementary', { name: 'Your seat' })).toContainText('You sit at')
      // The stream may tell of the seat first; the claim is asked again all the same.
      await expect.poll(() => keys.length).toBe(2)
      expect(keys[0]).toBe(keys[1])
      return
    }
    await student.context().close()
  }
  throw new Error('The sample has nobody without a seat.')
})

test('a page that is open in very many places waits to be looked at, and then catches up', async ({
  browser,
  context,
}) => {
  const [one] = await studentsOf(context, 'FERM 210')
  const open = async () => {
    const page = await enterAs(browser, one!.email, { viewport: PHONE })
    await page.goto('/')
    await page
      .getByRole('link', { name: /Culture benches/ })
      .first()
      .click()
    await page.getByRole('article').first().waitFor()
    return page
  }
  const first = await open()
  const others = []
  for (let i = 0; i < 8; i++) others.push(await open())
  await expect(first.getByText('You have Haplon open in many places')).toBeVisible()
  await first.evaluate(() => dispatchEvent(new Event('focus')))
  await expect(first.getByText('You have Haplon open in many places')).toBeHidden()
  // It is the newest now, and another one waits.
  await expect(others[0]!.getByText('You have Haplon open in many places')).toBeVisible()
  for (const page of [first, ...others]) await page.context().close()
})

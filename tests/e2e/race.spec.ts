import { expect, test } from '@playwright/test'
import { enterAs, INSTRUCTOR, PHONE, publishSheet, studentsOf } from './people.ts'

test('eight browsers race for three seats: three win, five see what is still free', async ({
  browser,
  context,
}) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(
    instructor,
    'Three warm seats',
    [
      { title: 'Natto', seats: 3 },
      { title: 'Koji rice', seats: 8 },
      { title: 'Amazake', seats: 8 },
    ],
    { offers: 'course' },
  )
  // One section, so that all press for the same three seats.
  const view = await instructor.evaluate(
    (sheet) => fetch(`/api/sheets/${sheet}/run`).then((answer) => answer.json()),
    code,
  )
  const section = view.sections.find(({ name }: { name: string }) => name === 'Tue lab').code
  const natto = view.groups.find(
    (group: { topic: string; section: string }) =>
      group.topic === view.topics[0].code && group.section === section,
  ).code
  const people = (await studentsOf(context, 'FERM 210')).slice(0, 8)
  const pages = await Promise.all(
    people.map(async ({ email }) => {
      const page = await enterAs(browser, email, { viewport: PHONE })
      await page.goto(`/sheets/${code}`)
      await page.getByRole('article', { name: 'Natto, Tue lab' }).waitFor()
      return page
    }),
  )
  // Everybody presses before anybody is answered.
  let asked = 0
  let letGo: () => void = () => undefined
  const all = new Promise<void>((resolve) => {
    letGo = resolve
  })
  for (const page of pages) {
    await page.route('**/claims', async (route) => {
      asked += 1
      if (asked === pages.length) letGo()
      await all
      await route.continue()
    })
  }
  const article = { name: 'Natto, Tue lab' }
  await Promise.all(
    pages.map((page) =>
      page.getByRole('article', article).getByRole('button', { name: 'Take a seat' }).first().click(),
    ),
  )
  const won: boolean[] = []
  for (const page of pages) {
    const bar = page.getByRole('complementary', { name: 'Your seat' })
    const lost = page.getByRole('region', { name: /Natto: somebody was quicker/ })
    await expect(bar.getByText('Natto').or(lost)).toBeVisible()
    won.push(!(await lost.isVisible()))
    if (await lost.isVisible()) {
      await expect(lost).toContainText('That seat was taken a moment ago.')
      await expect(lost.getByRole('button', { name: 'Take a seat at Natto' })).not.toHaveCount(0)
      await expect(lost).toBeFocused()
    }
  }
  expect(won.filter(Boolean)).toHaveLength(3)
  const after = await instructor.evaluate(
    (sheet) => fetch(`/api/sheets/${sheet}/run`).then((answer) => answer.json()),
    code,
  )
  expect(after.seats.filter(({ group }: { group: string }) => group === natto)).toHaveLength(3)
  // A loser goes on from there with one press.
  const loser = pages[won.indexOf(false)]!
  await loser
    .getByRole('region', { name: /somebody was quicker/ })
    .getByRole('button')
    .first()
    .click()
  await expect(loser.getByRole('complementary', { name: 'Your seat' })).toContainText('You sit at')
  for (const page of pages) await page.context().close()
})

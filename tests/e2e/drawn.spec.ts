import { expect, type Page, test } from '@playwright/test'
import type { SettleView } from '../../src/contract/plans.ts'
import { enterAs, INSTRUCTOR, post, publishSheet, send } from './people.ts'

const view = (page: Page, code: string): Promise<SettleView> =>
  page.evaluate(async (sheet) => (await fetch(`/api/sheets/${sheet}/settle`)).json(), code)
const rows = (page: Page) => page.getByRole('table', { name: 'Moves' }).getByRole('row')

test('how a plan was drawn is shown: from which number, among what, and the chances each had', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const topics = [{ title: 'Plum brine' }, { title: 'Pear brine' }, { title: 'Quince brine' }]
  const code = await publishSheet(page, 'Brines by lot', topics, { seats: 20, floor: 1 })
  await page.goto(`/sheets/${code}/settle`)
  await page.getByRole('radio', { name: /By lot/ }).check()
  await expect(rows(page).filter({ hasText: 'drawn by lot among 60 free seats' }).first()).toBeVisible()
  for (const width of [1024, 1280]) {
    await page.setViewportSize({ width, height: 768 })
    // Every reason is whole in view: nothing is cut off, and nothing lies past the edge of the list.
    const cut = await rows(page).evaluateAll((all) =>
      all.flatMap((row) => {
        const why = row.querySelector('td:last-child')
        const list = row.closest('section')?.getBoundingClientRect().right ?? 0
        const past = why ? why.getBoundingClientRect().right > list + 1 : false
        return why && (past || why.scrollWidth > why.clientWidth + 1) ? [why.textContent] : []
      }),
    )
    expect(cut).toEqual([])
  }
  const { lotNumber } = await view(page, code)
  await page.getByRole('button', { name: 'How was this drawn?' }).click()
  const dialog = page.getByRole('dialog', { name: 'How was this drawn?' })
  await expect(dialog).toContainText(`From lot number ${lotNumber}`)
  await expect(dialog).toContainText(/Tue lab: \d+ people drawn over 60 free seats in 3 groups\./)
  await expect(dialog).toContainText(/counted over 1,000 lot numbers/)
  const own = dialog.getByRole('table', { name: 'The chances each had' }).getByRole('row').nth(1)
  // Three groups of as many free seats: a third each, as near as a thousand draws come.
  const share = Number((await own.getByRole('cell').nth(1).textContent())?.replace(' %', ''))
  expect(share).toBeGreaterThan(25)
  expect(share).toBeLessThan(42)
  await dialog.getByLabel('Search in the chances').fill('nobody of this name')
  await expect(dialog.getByText('Nobody who was drawn is called that.')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('button', { name: 'How was this drawn?' })).toBeFocused()

  await test.step('by surname nothing is drawn, and the course says how names are put in order', async () => {
    await page.getByRole('radio', { name: /By surname/ }).check()
    await expect(rows(page).filter({ hasText: 'by surname' }).first()).toBeVisible()
    await expect(page.getByRole('button', { name: 'How was this drawn?' })).toHaveCount(0)
    await page.getByLabel('Alphabet of the names').selectOption('sv')
    await expect.poll(async () => (await view(page, code)).basis.names?.language).toBe('sv')
    await page.getByLabel('Alphabet of the names').selectOption('en')
    await expect.poll(async () => (await view(page, code)).basis.names?.language).toBe('en')
  })
})

test('there is a plan at once, the search goes on, says by how much at most it could be better, and is stopped', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const topics = Array.from({ length: 12 }, (_, i) => ({ title: `Crock ${i + 1}` }))
  const code = await publishSheet(page, 'Many who keep together', topics, { seats: 4, floor: 3 })
  await page.goto(`/sheets/${code}/settle`)
  await page.getByRole('button', { name: /^Apply \d+ moves$/ }).click()
  await page
    .getByRole('alertdialog')
    .getByRole('button', { name: /^Apply \d+ moves?$/ })
    .click()
  await expect(page.getByRole('button', { name: 'Nothing to apply' })).toBeVisible()

  const { basis } = await view(page, code)
  const section = basis.people[0]?.section
  const people = basis.people.filter((person) => person.section === section).map(({ key }) => key)
  const before = new Set((await view(page, code)).keepings.map((keeping) => keeping.code))
  // More threes than groups that could hold one: no bound tells that, so that the search goes on to its end.
  for (let i = 0; i < Math.floor(people.length / 3); i++) {
    const three = people.slice(3 * i, 3 * i + 3)
    await post(page, `/api/sheets/${code}/keepings`, { kind: 'together', people: three, until: null })
  }
  try {
    await page.reload()
    await page.getByLabel('Seats that are taken').selectOption('all')
    const looking = page.getByText(/The best so far, and still looking: /)
    await expect(looking).toBeVisible()
    // By how much it could be better depends on the lot: people left out, groups under their floor, or sizes.
    // There is a plan to look at while it is looked for.
    await expect(rows(page).nth(1)).toBeVisible()
    await page.getByRole('button', { name: 'Stop search' }).click()
    await expect(page.getByText(/^Not proven best: .+ at most[.,]/)).toBeVisible()
    await expect(page.getByRole('button', { name: /^Apply \d+ moves?$/ })).toBeEnabled()
  } finally {
    for (const keeping of (await view(page, code)).keepings) {
      if (!before.has(keeping.code))
        await send(page, 'DELETE', `/api/sheets/${code}/keepings/${keeping.code}`, undefined)
    }
  }
})

test('a rule that keeps somebody out is named with whom releasing it would seat, and released', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(page, 'One crock for each', [{ title: 'Only crock' }], {
    seats: 60,
    floor: 1,
  })
  const { basis } = await view(page, code)
  const named = new Set(basis.keepings.flatMap(({ people }) => people))
  const section = basis.people[0]?.section
  const [a, b] = basis.people.filter((one) => one.section === section && !named.has(one.key))
  await post(page, `/api/sheets/${code}/keepings`, {
    kind: 'apart',
    people: [a?.key, b?.key],
    until: null,
  })
  await page.goto(`/sheets/${code}/settle`)
  const rule = page
    .getByRole('listitem')
    .filter({ hasText: /no seat is left that lets them keep apart as wanted/ })
    .filter({ has: page.getByRole('button', { name: new RegExp(`seats (${a?.name}|${b?.name})$`) }) })
  await expect(rule).toHaveCount(1)
  await rule.getByRole('button', { name: /^Release rule, seats / }).click()
  await expect(rule).toHaveCount(0)
  await expect(rows(page).filter({ hasText: a?.name ?? '' })).toContainText('Only crock')
  await expect(rows(page).filter({ hasText: b?.name ?? '' })).toContainText('Only crock')
})

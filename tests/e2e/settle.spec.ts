import { readFileSync } from 'node:fs'
import { expect, type Page, test } from '@playwright/test'
import { daysFromNow, enterAs, INSTRUCTOR, publishSheet, send, studentsOf } from './people.ts'

/** A sheet of its own with two topics, open, nobody seated. */
async function ownSheet(page: Page, title: string, rules: object = {}): Promise<string> {
  return publishSheet(
    page,
    title,
    [{ title: 'Rye starters' }, { title: 'Wheat starters' }, { title: 'Spelt starters' }],
    {
      seats: 20,
      floor: 2,
      ...rules,
    },
  )
}

const tray = (page: Page) => page.getByRole('listbox', { name: 'People without a group' })
const cell = (page: Page, name: string) => page.getByRole('button', { name: new RegExp(`^${name}`) })

/** Drags something onto something else, in steps as a hand does. */
async function drag(page: Page, from: ReturnType<Page['locator']>, to: ReturnType<Page['locator']>) {
  const [start, end] = [await from.boundingBox(), await to.boundingBox()]
  if (!start || !end) throw new Error('nothing to drag, or nowhere to drag it to')
  await page.mouse.move(start.x + start.width / 2, start.y + start.height / 2)
  await page.mouse.down()
  await page.mouse.move(start.x + start.width / 2 + 12, start.y - 12, { steps: 4 })
  await page.mouse.move(end.x + end.width / 2, end.y + end.height / 2, { steps: 12 })
  await page.mouse.up()
}

test('people are seated by dragging and by keyboard alone, swapped, taken out, and all of it is undone', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const code = await ownSheet(page, 'Starter benches')
  await page.goto(`/sheets/${code}/run`)
  const people = tray(page).getByRole('option')
  await expect(people.nth(1)).toBeVisible()
  const all = await people.count()
  const said = await people.nth(0).locator('span').allTextContents()
  const [name = '', day = ''] = said.filter((text) => text !== '')
  const section = `${day} lab`

  await test.step('one is dragged to a group, and taken back with Ctrl Z', async () => {
    await drag(page, people.nth(0), cell(page, `Rye starters, ${section}`))
    await expect(page.getByText(`${name} seated at Rye starters, ${section}.`)).toBeVisible()
    await expect(people).toHaveCount(all - 1)
    await expect(cell(page, `Rye starters, ${section}: 1 of 20`)).toBeVisible()
    await page.keyboard.press('Control+z')
    await expect(people).toHaveCount(all)
    await page.keyboard.press('Control+Shift+z')
    await expect(people).toHaveCount(all - 1)
  })

  await test.step('two are picked by arrows and space, and seated by typing a topic after P', async () => {
    await people.nth(0).focus()
    await page.keyboard.press(' ')
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press(' ')
    await expect(page.getByText('2 picked')).toBeVisible()
    await page.keyboard.press('p')
    await page.getByPlaceholder('Type the topic').fill('wheat')
    await page.keyboard.press('Enter')
    // The two may be of different sections: then it is asked about first.
    const ask = page.getByRole('button', { name: 'Seat 2 people', exact: true })
    await expect(ask.or(page.getByText(/2 seated at Wheat starters/))).toBeVisible()
    if (await ask.isVisible()) await ask.click()
    await expect(people).toHaveCount(all - 3)
  })

  await test.step('a member is picked in the open group and taken out', async () => {
    await cell(page, `Rye starters, ${section}`).click()
    const member = page.getByRole('listbox', { name: 'Members' }).getByRole('option', { name })
    await member.click()
    await page.getByRole('button', { name: 'Take out of their group' }).click()
    await expect(people).toHaveCount(all - 2)
  })

  await test.step('the limit is changed in place, and the group is closed', async () => {
    const group = page.getByRole('complementary', { name: 'Group' })
    await group.getByRole('button', { name: 'One seat fewer' }).click()
    await expect(group.getByRole('status', { name: 'Limit' })).toHaveText('19')
    await group.getByRole('button', { name: 'Close this group' }).click()
    await expect(page.getByText('The group is closed.')).toBeVisible()
    await expect(cell(page, `Rye starters, ${section}`)).toHaveCount(0)
  })
})

test('a plan is looked at, changed by hand, kept, applied, told, and taken back', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const code = await ownSheet(page, 'Starter plans')
  await page.goto(`/sheets/${code}/settle`)
  const apply = page.getByRole('button', { name: /^Apply \d+ moves$/ })
  await expect(apply).toBeVisible()
  const count = Number((await apply.textContent())?.match(/\d+/)?.[0])
  expect(count).toBeGreaterThan(100)
  const rows = page.getByRole('table', { name: 'Moves' }).getByRole('row')

  await test.step('one is set elsewhere by hand, and the rest is planned around it', async () => {
    const choice = rows.nth(1).getByRole('combobox')
    const now = await choice.inputValue()
    const other = (
      await choice.locator('option').evaluateAll((all) => all.map((one) => (one as HTMLOptionElement).value))
    ).find((value) => value !== '' && value !== now)
    await choice.selectOption(other ?? '')
    await expect(page.getByText('set by hand; let the plan decide')).toBeVisible()
  })

  await test.step('another lot number is compared with it', async () => {
    await page.getByRole('button', { name: 'Compare with another plan' }).click()
    await page.getByRole('radio', { name: /By surname/ }).check()
    await expect(page.getByText(/people sit differently/)).toBeVisible()
    await page.getByRole('button', { name: 'Close comparison' }).click()
  })

  await test.step('it is kept, and applied from there', async () => {
    await page.getByRole('button', { name: 'Save plan' }).click()
    await expect(page.getByText(/kept .* by Renske Okonjo; nothing changed since/)).toBeVisible()
    await page.getByRole('button', { name: 'Open plan' }).click()
    await page.getByRole('button', { name: /^Apply \d+ moves$/ }).click()
    await page
      .getByRole('alertdialog')
      .getByRole('button', { name: /^Apply \d+ moves?$/ })
      .click()
    await expect(page.getByText(/^Applied: \d+ get a seat/)).toBeVisible()
    await expect(page.getByRole('button', { name: 'Nothing to apply' })).toBeVisible()
  })

  await test.step('a student sees the seat on the page and in the mail', async () => {
    const [student] = await studentsOf(page.context(), 'FERM 210')
    const own = await enterAs(browser, student?.email ?? '')
    await own.goto(`/sheets/${code}`)
    await expect(own.getByText(/You sit at/).first()).toBeVisible()
    await own.goto('/outbox')
    await expect(own.getByText(/Starter plans: you sit at/).first()).toBeVisible()
  })

  await test.step('all of it is taken back', async () => {
    await page.getByRole('button', { name: 'Undo plan' }).click()
    await expect(page.getByText(`${count} undone.`)).toBeVisible()
    await expect(page.getByRole('button', { name: `Apply ${count} moves` })).toBeVisible()
  })
})

test('what the house rule says happens at the close by itself, and the ledger tells it', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const code = await ownSheet(page, 'Starters at the close', { atClose: 'seat' })
  // The nearest full minute is the earliest close that a form can ask for.
  const zone = 'Europe/Copenhagen'
  const local = (at: Date) => at.toLocaleString('sv-SE', { timeZone: zone }).replace(' ', 'T').slice(0, 16)
  await send(page, 'PATCH', `/api/sheets/${code}`, { closesAt: local(new Date(Date.now() + 60_000)) })
  await page.goto(`/sheets/${code}/run`)
  await expect(page.getByText('Everybody has a seat.')).toBeVisible({ timeout: 100_000 })

  await page.getByRole('link', { name: 'Ledger' }).click()
  await expect(page.getByText(/by the plan “At the close”/).first()).toBeVisible()
  await page.getByLabel('What kind of change').selectOption('sheet')
  await expect(page.getByText('The sheet was published')).toBeVisible()
  await page.getByRole('button', { name: 'Show everything' }).click()

  await test.step('who sat where before the close', async () => {
    await page.getByLabel(/Day and time/).fill(local(new Date(Date.now() - 3_600_000)))
    await expect(page.getByText(/^As it stood .*: 0 seats taken/)).toBeVisible()
    await page.getByRole('button', { name: 'Back to the entries' }).click()
  })
})

test('groups go out as a file and come back as a plan that changes nothing', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const code = await ownSheet(page, 'Starters on paper')
  await page.goto(`/sheets/${code}/settle`)
  await page.getByRole('button', { name: /^Apply \d+ moves$/ }).click()
  await page
    .getByRole('alertdialog')
    .getByRole('button', { name: /^Apply \d+ moves?$/ })
    .click()
  await expect(page.getByRole('button', { name: 'Nothing to apply' })).toBeVisible()

  await page.getByRole('link', { name: 'Ledger' }).click()
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Students with groups, CSV' }).click()
  const file = await (await download).path()
  expect((await download).suggestedFilename()).toBe('FERM-210-Starters-on-paper-students.csv')

  await page.getByRole('link', { name: 'Settle' }).click()
  await page.getByLabel('Table of who sits where').setInputFiles(file)
  await expect(page.getByRole('button', { name: 'Nothing to apply' })).toBeVisible()

  const lines = readFileSync(file, 'utf8').split('\r\n')
  const bad = [lines[0], lines[1]?.replace(/@/, '@@'), ...lines.slice(2)].join('\r\n')
  await page
    .getByLabel('Table of who sits where')
    .setInputFiles({ name: 'bad.csv', mimeType: 'text/csv', buffer: Buffer.from(bad) })
  await expect(page.getByText(/Line 2/)).toBeVisible()
  await expect(page.getByText('1 line is wrong. Nothing was changed.')).toBeVisible()

  await test.step('and the door list prints', async () => {
    await page.getByRole('link', { name: 'Ledger' }).click()
    await page.getByRole('link', { name: 'Door list to print' }).click()
    await expect(page.getByRole('heading', { name: 'Starters on paper, Tue lab' })).toBeVisible()
    const pdf = await page.pdf()
    expect(pdf.subarray(0, 4).toString()).toBe('%PDF')
  })
})

test('those without a group are written to, and whoever got it shows', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const code = await ownSheet(page, 'Starters to fill', { closesAt: daysFromNow(3) })
  await page.goto(`/sheets/${code}/run`)
  await page.getByRole('button', { name: /^Nudge \d+ by mail$/ }).click()
  const dialog = page.getByRole('dialog', { name: 'Write to students' })
  await dialog.getByLabel('Section').selectOption({ label: 'Wed lab' })
  await dialog.getByLabel('Subject').fill('{sheet} waits for you')
  await expect(dialog.getByRole('heading', { name: 'Starters to fill waits for you' })).toBeVisible()
  await dialog.getByLabel('Text').fill('Dear {surname}')
  await dialog.getByRole('button', { name: /^Send to \d+$/ }).click()
  await expect(dialog.getByText('There is no field {surname}. Pick one from the list.')).toBeVisible()
  await dialog.getByLabel('Text').fill('Dear {first name}, sit down: {link}')
  await dialog.getByRole('button', { name: 'Send to 38' }).click()
  await expect(dialog.getByText(/to 38: 0 have a group by now, 38 still none/)).toBeVisible()
  // In the record too the fields are filled in.
  await expect(
    dialog.getByRole('listitem').filter({ hasText: 'Starters to fill waits for you' }),
  ).toHaveCount(1)
  await expect(dialog.getByText('{sheet}', { exact: false })).toHaveCount(0)

  await dialog.getByRole('tab', { name: 'Before the close' }).click()
  await dialog.getByRole('combobox', { name: 'Before the close' }).selectOption({ label: '3 hours' })
  await dialog.getByRole('button', { name: 'Schedule nudge' }).click()
  await expect(dialog.getByText(/^goes /)).toBeVisible()
})

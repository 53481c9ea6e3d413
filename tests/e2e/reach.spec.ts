import { expect, type Page, test } from '@playwright/test'
import {
  atRest,
  daysFromNow,
  enterAs,
  INSTRUCTOR,
  openSheet,
  PHONE,
  post,
  publishSheet,
  send,
  studentsOf,
} from './people.ts'

// What is wanted is in reach: on a phone, by keys, on a small laptop.

const json = (page: Page, path: string) =>
  page.evaluate((at) => fetch(at).then((answer) => answer.json()), path)
/** What has the focus; `BODY` when nothing sensible has. */
const focused = (page: Page) => page.evaluate(() => document.activeElement?.tagName)

test('on a phone several seats are folded up, the place is kept, and the focus stays after each press', async ({
  browser,
  context,
}) => {
  const people = await studentsOf(context, 'FERM 210')
  const instructor = await enterAs(browser, INSTRUCTOR)
  const topics = Array.from({ length: 30 }, (_, i) => ({ title: `Crock ${i + 1}` }))
  const code = await publishSheet(instructor, 'Many crocks', topics, { seatsEach: 4 })
  const page = await enterAs(browser, people[3]!.email, { viewport: PHONE, hasTouch: true, isMobile: true })
  await page.goto(`/sheets/${code}`)
  const bar = page.getByRole('complementary', { name: 'Your seat' })
  const take = (title: string) => page.getByRole('button', { name: `Take a seat ${title}`, exact: true })

  await test.step('taking one far down', async () => {
    await take('Crock 25').scrollIntoViewIfNeeded()
    expect(await page.evaluate(() => scrollY)).toBeGreaterThan(1_000)
    // Measured in the window: topics out of sight find their height as they are first drawn, and the page's length with them.
    const crock = page.getByRole('article', { name: 'Crock 25', exact: true })
    await atRest(crock)
    const before = (await crock.boundingBox())!.y
    await take('Crock 25').click()
    await expect(bar).toContainText('Crock 25')
    // Success is said once.
    await expect(page.getByText('You sit at Crock 25', { exact: false }).first()).toBeAttached()
    const live = page.locator('[aria-live=polite], [aria-live=assertive], [role=status], [role=alert]')
    expect(await live.filter({ hasText: 'Crock 25' }).count()).toBeLessThanOrEqual(1)
    await expect.poll(() => focused(page)).not.toBe('BODY')
    expect(Math.abs((await crock.boundingBox())!.y - before)).toBeLessThan(120)
  })

  await test.step('four seats cover no more than one does', async () => {
    for (const title of ['Crock 2', 'Crock 3', 'Crock 4']) {
      await take(title).click()
      await expect(page.getByRole('article', { name: title, exact: true })).toContainText('Your seat')
    }
    const more = bar.getByRole('button', { name: /You have 4 seats/ })
    await expect(more).toHaveAttribute('aria-expanded', 'false')
    expect((await bar.boundingBox())!.height).toBeLessThan(844 / 6)
    await more.click()
    await bar.getByRole('button', { name: 'Give up Crock 3' }).click()
    await page.getByRole('alertdialog').getByRole('button', { name: 'Give up seat' }).click()
    await expect(bar).toContainText('You have 3 seats')
    await expect.poll(() => focused(page)).not.toBe('BODY')
  })

  await test.step('fields do not make the phone zoom in', async () => {
    const small = await page
      .locator('input:visible, select:visible, textarea:visible')
      .evaluateAll(
        (all) => all.filter((one) => Number.parseFloat(getComputedStyle(one).fontSize) < 16).length,
      )
    expect(small).toBe(0)
  })
})

test('on a small laptop the seat field and the tray are both in view; a name in a cell is dragged, and told by name', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR, { viewport: { width: 1366, height: 768 } })
  await openSheet(page, 'Culture benches')
  await page.getByRole('link', { name: 'Run', exact: true }).click()
  const tray = page.getByRole('listbox', { name: 'People without a group' })
  await expect(tray.getByRole('option').first()).toBeInViewport()
  const cells = page.locator('button[data-drop]')
  await expect(cells.first()).toBeInViewport()
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1366)
  await test.step('with less height still, no choice above the field is cut off', async () => {
    await page.setViewportSize({ width: 1366, height: 650 })
    for (const choice of await page.getByRole('combobox').all()) {
      const foot = await choice.evaluate((box) => {
        const { left, bottom } = box.getBoundingClientRect()
        return document.elementFromPoint(left + 20, bottom - 1) === box
      })
      expect(foot, (await choice.textContent()) ?? '').toBe(true)
    }
    await page.setViewportSize({ width: 1366, height: 768 })
  })

  await page.getByRole('radio', { name: 'Names' }).click()
  const to = page.getByRole('button', { name: /^Garum and fish sauce, Tue lab/ })
  await to.scrollIntoViewIfNeeded()
  // Somebody of the same column who is in view now.
  const at = await page.locator('button[data-drop] [data-pick]').evaluateAll((names) => {
    const column = document.querySelector('button[data-drop]')!.getBoundingClientRect()
    return names.findIndex((one) => {
      const { top, bottom, left } = one.getBoundingClientRect()
      return top > 300 && bottom < 560 && left < column.right
    })
  })
  const name = page.locator('button[data-drop] [data-pick]').nth(at)
  const who = ((await name.textContent()) ?? '').trim()
  const [from, end] = [(await name.boundingBox())!, (await to.boundingBox())!]
  await page.mouse.move(from.x + 10, from.y + from.height / 2)
  await page.mouse.down()
  await page.mouse.move(from.x + 30, from.y + 20, { steps: 4 })
  const said = page.getByRole('status')
  await page.mouse.move(end.x + 40, end.y + end.height / 2, { steps: 8 })
  await expect(said.filter({ hasText: 'Over Garum and fish sauce, Tue lab.' })).toBeAttached()
  await page.mouse.up()
  await expect(said.filter({ hasText: `${who} dropped at Garum and fish sauce, Tue lab.` })).toBeAttached()
  await page.keyboard.press('Control+z')
})

test('seated by keys, the focus stays in the tray; a plan’s reasons are whole at 1024 and 1280', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(page, 'By keys', [{ title: 'Rye' }], { seats: 60, floor: 1 })
  await page.goto(`/sheets/${code}/run`)
  const options = page.getByRole('listbox', { name: 'People without a group' }).getByRole('option')
  await options.first().focus()
  const many = await options.count()
  await page.keyboard.press(' ')
  await page.keyboard.press('p')
  await page.getByPlaceholder('Type the topic').fill('rye')
  await page.keyboard.press('Enter')
  await expect(options).toHaveCount(many - 1)
  await expect.poll(() => focused(page)).not.toBe('BODY')

  for (const width of [1024, 1280]) {
    await page.setViewportSize({ width, height: 800 })
    await page.goto(`/sheets/${code}/settle`)
    const table = page.getByRole('table', { name: 'Moves' })
    await table.getByRole('row').nth(3).waitFor()
    const cut = await table
      .locator('td')
      .evaluateAll((cells) =>
        cells
          .filter((cell) =>
            [cell, ...cell.querySelectorAll('*')].some(
              (one) =>
                one.scrollWidth > one.clientWidth + 1 && getComputedStyle(one).textOverflow === 'ellipsis',
            ),
          )
          .map((cell) => cell.textContent),
      )
    expect(cut, `at ${width}`).toEqual([])
  }
})

test('those without a group are offered first; from a roster to a new sheet is one press', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(page, 'Who keeps apart', [{ title: 'Rye' }], { seats: 60, floor: 1 })
  const run = await json(page, `/api/sheets/${code}/run`)
  const bySurname = [...run.people].sort((a, b) =>
    a.name.split(' ').at(-1).localeCompare(b.name.split(' ').at(-1)),
  )
  const seated = bySurname.slice(0, 20)
  for (const { code: person, section } of seated) {
    const to = run.groups.find((group: { section: string }) => group.section === section).code
    await post(page, `/api/sheets/${code}/seatings`, {
      changes: [{ person, from: null, to }],
      confirmed: true,
    })
  }
  await page.goto(`/sheets/${code}/settle`)
  await page.getByRole('button', { name: 'Add people to keep apart' }).click()
  await page.getByRole('combobox', { name: 'Type a name' }).focus()
  const offered = await page.getByRole('listbox', { name: 'Type a name' }).getByRole('option').allInnerTexts()
  expect(offered.length).toBeGreaterThan(3)
  for (const { name } of seated) expect(offered.join()).not.toContain(name)

  await page.goto('/')
  await page.getByRole('link', { name: 'Roster' }).first().click()
  await expect(page).toHaveURL(/\/roster$/)
  await expect(page.getByRole('heading', { name: /roster/i }).first()).toBeVisible()
  await page.getByRole('link', { name: 'New sheet' }).click()
  await expect(page.getByLabel('Sheet title')).toBeVisible()
  await page.goto('/courses/new')
  await expect.poll(() => focused(page)).toBe('INPUT')
})

test('a first page tells of locked tasks; what was handed in in time is never late; a mark arrives by itself', async ({
  browser,
  context,
}) => {
  const people = await studentsOf(context, 'FERM 210')
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'In time', [{ title: 'North tank' }])
  const task = {
    title: 'Tank report',
    out: true,
    takesText: true,
    dueAt: daysFromNow(2),
    late: 'always',
    points: 10,
  }
  await post(instructor, `/api/sheets/${code}/tasks`, task)
  const { tasks } = await json(instructor, `/api/sheets/${code}/work`)
  const page = await enterAs(browser, people[4]!.email, { viewport: PHONE })
  const { groups } = await json(page, `/api/sheets/${code}/student`)
  const group = groups[0].code
  await post(page, `/api/sheets/${code}/claims`, { key: `in-time-${code}`, kind: 'take', to: group })
  const work = { group, text: 'Clear.', links: [], files: [], after: 0 }
  await post(page, `/api/sheets/${code}/tasks/${tasks[0].code}/hand-ins`, work)
  // The day it was due passes.
  await send(instructor, 'PATCH', `/api/sheets/${code}/tasks/${tasks[0].code}`, { dueAt: daysFromNow(-1) })

  await test.step('handed in in time', async () => {
    await page.goto(`/sheets/${code}/tasks`)
    const article = page.getByRole('article', { name: 'Tank report' })
    await expect(article).toContainText('Handed in')
    await expect(article.getByText('Late, still taken')).toHaveCount(0)
  })

  await test.step('at the desk of a small laptop the marks are in reach beside the work', async () => {
    await instructor.setViewportSize({ width: 1280, height: 600 })
    await instructor.goto(`/sheets/${code}/tasks/${tasks[0].code}/desk`)
    await expect(instructor.getByText('Clear.').first()).toBeInViewport()
    await expect(instructor.getByLabel(/^Points/).first()).toBeInViewport()
  })

  await test.step('a mark, released', async () => {
    const { piles } = await json(instructor, `/api/sheets/${code}/tasks/${tasks[0].code}/desk`)
    const mark = {
      owner: piles[0].owner,
      apart: null,
      version: 0,
      placements: {},
      points: 8,
      feedback: 'Good.',
    }
    await send(instructor, 'PUT', `/api/sheets/${code}/tasks/${tasks[0].code}/marks`, mark)
    await post(instructor, `/api/sheets/${code}/tasks/${tasks[0].code}/release`, {
      owners: null,
      released: true,
    })
    await expect(page.getByRole('region', { name: 'Your mark' })).toContainText('8 of 10')
  })

  await test.step('without a group, on a sheet that has closed', async () => {
    const other = await enterAs(browser, people[5]!.email, { viewport: PHONE })
    await send(instructor, 'PATCH', `/api/sheets/${code}`, {
      opensAt: daysFromNow(-2),
      closesAt: daysFromNow(-1),
    })
    await other.goto('/')
    await expect(other.getByText('1 task is locked for you until you have a group.')).toBeVisible()
    await expect(other.getByRole('link', { name: 'See the task' }).first()).toBeVisible()
  })
})

test('a group’s page is read in the order in which it is drawn', async ({ browser, context }) => {
  const [one] = await studentsOf(context, 'FERM 210')
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'In order', [{ title: 'North tank' }])
  await send(instructor, 'PUT', `/api/sheets/${code}/extras`, { talk: true, files: true, meeting: true })
  await post(instructor, `/api/sheets/${code}/tasks`, { title: 'Tank report', out: true })
  const page = await enterAs(browser, one!.email, { viewport: PHONE })
  const { groups } = await json(page, `/api/sheets/${code}/student`)
  const group = groups[0].code
  await post(page, `/api/sheets/${code}/claims`, { key: `order-${code}`, kind: 'take', to: group })
  for (const size of [PHONE, { width: 1280, height: 800 }]) {
    await page.setViewportSize(size)
    await page.goto(`/sheets/${code}/groups/${group}`)
    await page.getByRole('heading', { name: 'Talk' }).waitFor()
    // Column by column: within each, what comes later on the page stands lower.
    const back = await page.locator('main section h2').evaluateAll((heads) => {
      const columns = new Map<number, number>()
      return heads.filter((head) => {
        const { left, top } = head.getBoundingClientRect()
        const column = Math.round(left / 200)
        const above = columns.get(column) ?? Number.NEGATIVE_INFINITY
        columns.set(column, top)
        return top < above
      }).length
    })
    expect(back, `at ${size.width}`).toBe(0)
  }
})

test('the publish question names everything that comes into being', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const { courses } = await json(page, '/api/courses')
  const ferm = courses.find(({ courseCode }: { courseCode: string }) => courseCode === 'FERM 210')
  const { code } = await post<{ code: string }>(page, `/api/courses/${ferm.code}/sheets`, {
    title: 'Named whole',
  })
  await post(page, `/api/sheets/${code}/topics/several`, { topics: [{ title: 'Rye' }, { title: 'rye' }] })
  await send(page, 'PATCH', `/api/sheets/${code}`, {
    closesAt: daysFromNow(3),
    atClose: 'seat',
    late: 'seat',
  })
  await send(page, 'PUT', `/api/sheets/${code}/extras`, { talk: true })
  await post(page, `/api/sheets/${code}/tasks`, { title: 'Crumb report', out: true })
  await post(page, `/api/sheets/${code}/tasks`, { title: 'Later report' })
  await page.goto(`/sheets/${code}/compose`)
  await page.getByRole('button', { name: 'Publish…' }).click()
  const asked = page.getByRole('alertdialog')
  for (const words of [
    '6 groups on 2 topics',
    /Tue lab: 8 for 40/,
    /until .* 17:00/,
    'show members and tasks, with messages, talk',
    'out with the sheet: Crumb report; not shown yet: Later report',
    /Names/,
    /At the close/,
    /Latecomers/,
    /Convener/,
    'Two topics are called “rye”.',
  ])
    await expect(asked).toContainText(words)
  await expect(asked.getByRole('button', { name: 'Publish', exact: true })).toBeEnabled()
})

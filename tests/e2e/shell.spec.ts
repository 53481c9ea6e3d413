import { expect, test } from '@playwright/test'
import {
  atRest,
  enterAs,
  INSTRUCTOR,
  openSheet,
  PHONE,
  post,
  publishSheet,
  send,
  studentsOf,
} from './people.ts'

test('code that does not arrive is asked for again; then the page says so, and a load anew brings it', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await openSheet(page, 'Culture benches')
  await page.getByRole('link', { name: 'Compose' }).waitFor()

  await test.step('lost once: the page comes all the same', async () => {
    let lost = 0
    await page.route('**/assets/LedgerPage-*.js', (route) =>
      lost++ === 0 ? route.abort() : route.continue(),
    )
    await page.getByRole('link', { name: 'Ledger' }).click()
    await expect(page.getByRole('heading', { name: 'Who sat where' })).toBeVisible()
    expect(lost).toBeGreaterThan(1)
  })

  await test.step('lost for good: said with what to do, the frame of the application still there', async () => {
    await page.route('**/assets/SettlePage-*.js', (route) => route.abort())
    await page.getByRole('link', { name: 'Settle' }).click()
    await expect(page.getByRole('heading', { name: 'This page did not load' })).toBeVisible()
    await expect(page).toHaveTitle(/did not load/)
    await page.unroute('**/assets/SettlePage-*.js')
    await page.getByRole('button', { name: 'Load the page anew' }).click()
    await expect(page.getByRole('heading', { name: 'Apart and together' })).toBeVisible()
  })

  await test.step('a part that is lost leaves the page standing', async () => {
    await page.route('**/assets/PersonMenu-*.js', (route) => route.abort())
    await page.reload()
    await expect(page.getByText('This part of the page did not load.')).toBeVisible()
    await expect(page.getByRole('heading', { name: 'Apart and together' })).toBeVisible()
    await page.unroute('**/assets/PersonMenu-*.js')
    await page.getByRole('button', { name: 'Try again' }).click()
    await expect(page.getByRole('button', { name: /Renske Okonjo/ })).toBeVisible()
  })
})

test('a page begins at its top with the focus on its heading, and is left and found again at its place', async ({
  browser,
  context,
}) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  const topics = Array.from({ length: 30 }, (_, i) => ({ title: `Vat ${i + 1}` }))
  const code = await publishSheet(instructor, 'Thirty vats', topics, { seats: 6, floor: 1 })
  const [one] = await studentsOf(context, 'FERM 210')
  const page = await enterAs(browser, one!.email, { viewport: PHONE, hasTouch: true })
  await page.goto('/')
  await page.locator(`a[href="/sheets/${code}"]`).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Thirty vats' })).toBeFocused()
  expect(await page.evaluate(() => scrollY)).toBe(0)

  const vat = page.getByRole('article', { name: /^Vat 21/ })
  // What is pressed is in sight beforehand, as pressing it would scroll to it.
  const take = vat.getByRole('button', { name: /^Take a seat/ })
  await take.scrollIntoViewIfNeeded()
  // Topics above are laid out once they come near: the place counts when it no longer changes.
  await atRest(vat)
  const before = await vat.boundingBox()
  await take.click()
  await expect(page.getByRole('complementary', { name: 'Your seat' })).toContainText('Vat 21')
  await expect.poll(() => page.evaluate(() => document.activeElement?.tagName)).not.toBe('BODY')
  const after = await vat.boundingBox()
  expect(Math.abs((after?.y ?? 0) - (before?.y ?? 0))).toBeLessThan(120)

  const place = await page.evaluate(() => scrollY)
  // Pressed where it is: the pointer would scroll to it first.
  await page
    .getByRole('link', { name: /Haplon/ })
    .first()
    .evaluate((link: HTMLElement) => link.click())
  await expect(page.getByRole('heading', { level: 1, name: /Hello/ })).toBeFocused()
  expect(await page.evaluate(() => scrollY)).toBe(0)
  await page.goBack()
  await expect.poll(() => page.evaluate(() => scrollY)).toBe(place)
  await page.goto(`/sheets/${code}/nowhere`)
  await expect(page).toHaveTitle(/nothing at this address/i)
})

test('a page older than the server says so once and loads anew at the next change of page, drafts kept', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await openSheet(page, 'Culture benches')
  await page.getByRole('link', { name: 'Settle' }).click()
  await page.getByRole('button', { name: 'Add' }).first().waitFor()
  await page.evaluate(() => Object.assign(window, { sameLoad: true }))
  await page.route(/\/api\/sheets\/[^/]+\/ledger$/, async (route) => {
    const answer = await route.fetch()
    await route.fulfill({ response: answer, headers: { ...answer.headers(), 'haplon-build': 'newer' } })
  })
  // Run was opened a moment ago, and what it shows is not asked for again so soon.
  await page.getByRole('link', { name: 'Ledger' }).click()
  await expect(page.getByText(/Haplon was renewed/)).toBeVisible()
  expect(await page.evaluate(() => 'sameLoad' in window)).toBe(true)
  await page.getByRole('link', { name: 'Run' }).click()
  // While it is loaded anew nothing can be asked of it.
  await expect.poll(() => page.evaluate(() => 'sameLoad' in window).catch(() => true)).toBe(false)
  await expect(page.getByRole('link', { name: 'Run' })).toHaveAttribute('aria-current', 'page')
})

test('without a connection the page tries again by itself', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  let lost = 0
  await page.route('**/api/courses', (route) => (lost++ < 2 ? route.abort() : route.continue()))
  await page.goto('/')
  await expect(page.getByText(/It is tried again by itself/)).toBeVisible()
  await expect(page.getByRole('heading', { name: /FERM 210/ })).toBeVisible()
})

test('whoever signs out, or is taken off the roster, loses every open page at once', async ({
  browser,
  context,
}) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'Streams end', [{ title: 'Natto' }])
  const people = await studentsOf(context, 'FERM 210')
  const [one, two] = [people.at(-1)!, people.at(-2)!]

  const first = await enterAs(browser, one.email)
  const other = await first.context().newPage()
  for (const page of [first, other]) {
    await page.goto(`/sheets/${code}`)
    await expect(page.getByRole('heading', { name: 'Streams end' })).toBeVisible()
  }
  await first.getByRole('button', { name: new RegExp(one.name) }).click()
  await first.getByRole('menuitem', { name: 'Sign out' }).click()
  await expect(other.getByRole('heading', { name: 'Sign in' })).toBeVisible()

  const left = await enterAs(browser, two.email)
  await left.goto(`/sheets/${code}`)
  await expect(left.getByRole('heading', { name: 'Streams end' })).toBeVisible()
  const { courses } = await instructor.evaluate(() => fetch('/api/courses').then((a) => a.json()))
  const ferm = courses.find(({ courseCode }: { courseCode: string }) => courseCode === 'FERM 210')
  const roster = await instructor.evaluate(
    (course) => fetch(`/api/courses/${course}/roster`).then((a) => a.json()),
    ferm.code,
  )
  const person = roster.people.find(({ email }: { email: string }) => email === two.email)
  await send(instructor, 'PATCH', `/api/courses/${ferm.code}/roster/people/${person.code}`, {
    status: 'left',
  })
  await expect(left.getByRole('heading', { name: 'There is nothing here' })).toBeVisible()
  await expect(left.getByRole('heading', { name: 'Streams end' })).toHaveCount(0)
  await post(instructor, `/api/courses/${ferm.code}/roster/undo`, {})
})

test('a second device learns of the seat taken on the first', async ({ browser, context }) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'Two devices', [{ title: 'Natto' }, { title: 'Kefir' }], {
    seats: 9,
  })
  const [one] = await studentsOf(context, 'FERM 210')
  const first = await enterAs(browser, one!.email)
  const second = await enterAs(browser, one!.email, { viewport: PHONE })
  for (const page of [first, second]) await page.goto(`/sheets/${code}`)
  const natto = (page: typeof first) => page.getByRole('article', { name: /^Natto/ })
  await natto(second)
    .getByRole('button', { name: /^Take a seat/ })
    .waitFor()
  await natto(first)
    .getByRole('button', { name: /^Take a seat/ })
    .click()
  await expect(second.getByRole('complementary', { name: 'Your seat' })).toContainText('You sit at')
  await expect(natto(second)).toContainText('Your seat')
})

test('the code is taken as people have it, after a reload too, and what is said of mail is so', async ({
  browser,
  context,
}) => {
  const [one] = (await studentsOf(context, 'SENS 105')).slice(-1)
  const page = await (await browser.newContext()).newPage()
  await page.goto('/sign-in')
  await page.getByLabel('Email address').fill(one!.email)
  await page.getByRole('button', { name: 'Send me a code' }).click()
  await expect(page.getByRole('heading', { name: 'Type the code' })).toBeVisible()
  await page.reload()
  await expect(page.getByRole('heading', { name: 'Type the code' })).toBeVisible()
  for (let i = 0; i < 4; i++) {
    await page.getByRole('button', { name: 'Send another code' }).click()
    await expect(page.getByText('Only the newest code works.')).toBeVisible()
  }
  await page.getByRole('button', { name: 'Send another code' }).click()
  await expect(page.getByText(/No further mail is sent to .* before \d\d:\d\d/)).toBeVisible()
  const outbox = await (await context.request.get('/api/outbox')).json()
  const mail = outbox.mails.find(({ to }: { to: string }) => to === one!.email)
  const code = /\b(\d{6})\b/.exec(mail.text)?.[1] ?? ''
  await page.getByLabel('Code from the mail').fill(`${code.slice(0, 3)}-${code.slice(3, 5)}`)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByText('The code is six digits.')).toBeVisible()
  await page.getByLabel('Code from the mail').fill(mail.text.split('\n')[0])
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('heading', { name: /Hello/ })).toBeVisible()
})

test('in another zone each page says once whose times it shows, with one’s own on demand', async ({
  browser,
  context,
}) => {
  const [one] = await studentsOf(context, 'FERM 210')
  const page = await enterAs(browser, one!.email, { timezoneId: 'America/New_York' })
  const home = await page.evaluate(() => fetch('/api/home').then((answer) => answer.json()))
  await page.goto(`/sheets/${home.sheets.find(({ state }: { state: string }) => state === 'open').code}`)
  await expect(page.getByText('Times here are those of Europe/Copenhagen.')).toHaveCount(1)
  await page.getByRole('button', { name: 'In your time' }).click()
  await expect(page.getByText(/It closes .* in America\/New York/)).toBeVisible()
  const same = await enterAs(browser, one!.email, { timezoneId: 'Europe/Copenhagen' })
  await same.goto(page.url())
  await same.getByRole('heading', { level: 1 }).waitFor()
  await expect(same.getByText(/Times here are those of/)).toHaveCount(0)
})

test('the tray is one stop for Tab with arrow keys, its names are told by their filling alone in nobody’s colours', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR, { forcedColors: 'active' })
  await openSheet(page, 'Culture benches')
  await page.getByRole('link', { name: 'Run' }).click()
  const tray = page.getByRole('listbox', { name: 'People without a group' })
  await tray.waitFor()
  expect(await tray.locator('[tabindex="0"]').count()).toBe(1)
  await tray.locator('[tabindex="0"]').focus()
  const [first, second] = [tray.getByRole('option').nth(0), tray.getByRole('option').nth(1)]
  await page.keyboard.press('ArrowRight')
  await expect(second).toBeFocused()
  await expect(second).toHaveAttribute('tabindex', '0')
  await expect(first).toHaveAttribute('tabindex', '-1')
  await page.keyboard.press('Tab')
  expect(await tray.locator(':focus').count()).toBe(0)
  // A taken and a free seat differ by their filling, a chosen stage by its edge.
  const fills = await page
    .locator('button[data-drop] span[aria-hidden] , button[data-drop] [aria-hidden="true"]')
    .evaluateAll((pips) =>
      pips
        .filter((pip) => pip.clientHeight > 4 && pip.clientHeight < 16)
        .map((pip) => getComputedStyle(pip).backgroundColor),
    )
  expect(new Set(fills).size).toBeGreaterThan(1)
  const edge = (name: string) =>
    page.getByRole('link', { name, exact: true }).evaluate((link) => getComputedStyle(link).borderBottomColor)
  expect(await edge('Run')).not.toBe(await edge('Ledger'))
})

import { expect, type Page, test } from '@playwright/test'
import { enterAs, INSTRUCTOR, PHONE, publishSheet, studentsOf } from './people.ts'

const seatBar = (page: Page) => page.getByRole('complementary', { name: 'Your seat' })

test('the network goes between press and answer: the press is kept through a reload and takes one seat', async ({
  browser,
  context,
}) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'Kept press', [{ title: 'Rye' }, { title: 'Spelt' }])
  const people = await studentsOf(context, 'FERM 210')
  const student = await enterAs(browser, people[9]!.email, { viewport: PHONE })
  await student.goto(`/sheets/${code}`)
  const keys: string[] = []
  let cut = true
  await student.route('**/claims', async (route) => {
    keys.push((route.request().postDataJSON() as { key: string }).key)
    if (!cut) return route.continue()
    // The server hears it, the phone does not hear the server.
    if (keys.length === 1) await route.fetch()
    return route.abort()
  })
  await student.getByRole('article', { name: 'Rye' }).getByRole('button', { name: 'Take a seat' }).click()
  const kept = student.getByRole('complementary', { name: 'Waiting for the server' })
  await expect(kept).toContainText('Your press for a seat at Rye is kept')
  // Whether the seat shows already depends on the stream, which may tell of it before the answer comes through.
  await student.reload()
  await expect(kept).toBeVisible()
  cut = false
  await expect(seatBar(student)).toContainText('You sit atRye')
  await expect(kept).toBeHidden()
  expect(new Set(keys).size).toBe(1)
  const run = await instructor.evaluate(
    (sheet) => fetch(`/api/sheets/${sheet}/run`).then((answer) => answer.json()),
    code,
  )
  expect(run.seats).toHaveLength(1)
  // Nothing is left to be asked: a further load asks nothing.
  const asked = keys.length
  await student.reload()
  await expect(seatBar(student)).toContainText('You sit atRye')
  expect(keys).toHaveLength(asked)
})

test('whoever stops asking sees how it stands once there is a connection', async ({ browser, context }) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'Stopped press', [{ title: 'Rye' }])
  const people = await studentsOf(context, 'FERM 210')
  const student = await enterAs(browser, people[10]!.email, { viewport: PHONE })
  await student.goto(`/sheets/${code}`)
  await student.getByRole('article', { name: 'Rye' }).waitFor()
  await student.context().setOffline(true)
  await expect(student.getByText('You are offline.')).toBeVisible()
  await student.getByRole('button', { name: 'Take a seat' }).click()
  await student.getByRole('button', { name: 'Stop asking' }).click()
  await expect(student.getByText('It is no longer asked.').first()).toBeAttached()
  await student.context().setOffline(false)
  await expect(student.getByText('You are offline.')).toBeHidden()
  await expect(student.getByRole('button', { name: 'Take a seat' })).toBeEnabled()
  await expect(seatBar(student)).toContainText('You have no group yet')
})

test('a busy server is asked again after the time it names', async ({ browser, context }) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'Busy moment', [{ title: 'Rye' }])
  const people = await studentsOf(context, 'FERM 210')
  const student = await enterAs(browser, people[11]!.email, { viewport: PHONE })
  await student.goto(`/sheets/${code}`)
  const at: number[] = []
  await student.route('**/claims', (route) => {
    at.push(Date.now())
    if (at.length > 1) return route.continue()
    const problem = { type: '', code: 'too-busy', title: '', status: 503, detail: 'Very many ask.' }
    return route.fulfill({ status: 503, headers: { 'Retry-After': '2' }, json: problem })
  })
  await student.getByRole('button', { name: 'Take a seat' }).click()
  await expect(seatBar(student)).toContainText('You sit at')
  expect(at[1]! - at[0]!).toBeGreaterThanOrEqual(2_000)
})

test.describe('installed', () => {
  test.use({ serviceWorkers: 'allow' })

  test('Haplon opens without a network and keeps no answers', async ({ browser, context }) => {
    const people = await studentsOf(context, 'FERM 210')
    const page = await enterAs(browser, people[0]!.email, { viewport: PHONE, serviceWorkers: 'allow' })
    const manifest = await page.request.get('/app.webmanifest')
    const { icons, start_url } = (await manifest.json()) as { icons: { src: string }[]; start_url: string }
    expect(start_url).toBe('/')
    for (const { src } of icons) expect((await page.request.get(src)).ok(), src).toBe(true)
    await page.goto('/')
    await expect(page.getByRole('heading', { name: /Hello/ })).toBeVisible()
    await page.waitForFunction(() => navigator.serviceWorker.controller !== null)
    const keptNames = await page.evaluate(async () => {
      const urls: string[] = []
      for (const name of await caches.keys())
        for (const { url } of await (await caches.open(name)).keys()) urls.push(new URL(url).pathname)
      return urls
    })
    expect(keptNames.length).toBeGreaterThan(5)
    expect(keptNames.filter((path) => path.startsWith('/api'))).toEqual([])
    await page.context().setOffline(true)
    await page.reload()
    await expect(page.getByRole('heading', { name: 'There is no connection' })).toBeVisible()
    // It comes back by itself.
    await page.context().setOffline(false)
    await expect(page.getByRole('heading', { name: /Hello/ })).toBeVisible()
  })
})

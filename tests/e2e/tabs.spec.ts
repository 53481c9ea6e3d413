import { expect, type Page, test } from '@playwright/test'
import { enterAs, INSTRUCTOR, PHONE, remarkedWork, studentsOf } from './people.ts'

/** Stops after which a page counts as walked. */
const MOST = 80

interface Stop {
  name: string
  role: string
  inView: boolean
  /** Whether it stands before the last stop on the page. */
  goesBack: boolean
}

/** Waits until a page has what it will have: as many things to stop at as a moment before, and as high as then. */
async function stands(page: Page): Promise<void> {
  let before = ''
  await expect
    .poll(
      async () => {
        const [stops, height] = await page.evaluate(() => [
          document.querySelectorAll('main :is(a, button, input, select, textarea)').length,
          document.documentElement.scrollHeight,
        ])
        const now = `${stops} stops, ${height} px`
        const same = now === before && stops > 0
        before = now
        return same
      },
      { intervals: [600] },
    )
    .toBe(true)
}

/** Walks a page by Tab from its start and gives every stop until the focus leaves the page or comes round. */
async function walk(page: Page): Promise<Stop[]> {
  await page.evaluate(() => {
    ;(document.activeElement as HTMLElement | null)?.blur()
    window.scrollTo(0, 0)
    Object.assign(window, { stopsSeen: [] })
  })
  const stops: Stop[] = []
  for (let i = 0; i < MOST; i++) {
    await page.keyboard.press('Tab')
    const stop = await page.evaluate(() => {
      const here = document.activeElement as HTMLElement | null
      // Rows of long lists come and go, so a stop is held by itself and not by its number.
      const seen = (window as unknown as { stopsSeen: HTMLElement[] }).stopsSeen
      if (!here || here === document.body || seen.includes(here)) return null
      const last = seen.at(-1)
      const goesBack =
        last?.isConnected === true &&
        (here.compareDocumentPosition(last) & Node.DOCUMENT_POSITION_FOLLOWING) !== 0
      seen.push(here)
      const labelled = (here.getAttribute('aria-labelledby') ?? '')
        .split(' ')
        .map((id) => document.getElementById(id)?.textContent ?? '')
        .join(' ')
      const labels =
        'labels' in here ? [...((here as HTMLInputElement).labels ?? [])].map((one) => one.textContent) : []
      const name =
        here.getAttribute('aria-label') ||
        labelled.trim() ||
        labels.join(' ') ||
        here.textContent ||
        here.title
      const { top, bottom, width } = here.getBoundingClientRect()
      return {
        name: (name ?? '').trim(),
        role: here.getAttribute('role') ?? here.tagName,
        inView: width > 0 && bottom > 0 && top < innerHeight,
        goesBack,
      }
    })
    if (!stop) break
    stops.push(stop)
  }
  return stops
}

/** Each stop has a name, can be seen, and comes after the one before on the page. */
function check(stops: readonly Stop[], where: string): void {
  expect(stops.length, where).toBeGreaterThan(3)
  expect(
    stops.filter(({ name }) => name === ''),
    `${where}: stops without a name`,
  ).toEqual([])
  expect(
    stops.filter(({ inView }) => !inView).map(({ name }) => name),
    `${where}: stops out of sight`,
  ).toEqual([])
  const back = stops.filter(({ goesBack }) => goesBack).map(({ name }) => name)
  expect(back, `${where}: stops that go back on the page`).toEqual([])
  // The first stop leads past the bar.
  expect(stops[0]?.name, where).toBe('Skip to the page')
}

test('every main view of staff is walked by Tab: each stop is named, in sight and in order', async ({
  browser,
}) => {
  test.slow()
  const page = await enterAs(browser, INSTRUCTOR, { viewport: { width: 1280, height: 800 } })
  const { courses } = await page.evaluate(() => fetch('/api/courses').then((answer) => answer.json()))
  const ferm = courses.find(({ courseCode }: { courseCode: string }) => courseCode === 'FERM 210')
  const code = (title: string) => ferm.sheets.find((one: { title: string }) => one.title === title).code
  const [open, past] = [code('Culture benches'), code('Safety walk teams')]
  const { tasks } = await page.evaluate(
    (sheet) => fetch(`/api/sheets/${sheet}/work`).then((a) => a.json()),
    past,
  )
  for (const path of [
    '/',
    `/courses/${ferm.code}/roster`,
    `/courses/${ferm.code}/programs`,
    '/programs',
    ...['compose', 'run', 'settle', 'ledger'].map((stage) => `/sheets/${open}/${stage}`),
    ...['run', 'settle'].map((stage) => `/sheets/${code('Brew partners')}/${stage}`),
    `/sheets/${past}/work`,
    `/sheets/${past}/work/groups`,
    `/sheets/${past}/tasks/${tasks[0].code}/desk`,
  ]) {
    await page.goto(path)
    await page.getByRole('heading', { level: 1 }).waitFor({ state: 'attached' })
    await stands(page)
    check(await walk(page), path)
  }
})

test('remarks are walked by Tab, at the desk while one is written and on a student’s phone', async ({
  browser,
  context,
}) => {
  const instructor = await enterAs(browser, 'matteo.lindgren@brinemoor.example')
  const { desk, page: path, email } = await remarkedWork(instructor, context)
  await instructor.goto(desk)
  await instructor.getByRole('button', { name: 'Edit remark 1' }).click()
  // What is being written is there again after a reload, and does not take the focus.
  await instructor.reload()
  await instructor.getByRole('form', { name: 'The remark' }).waitFor()
  await stands(instructor)
  check(await walk(instructor), desk)
  const page = await enterAs(browser, email, { viewport: PHONE })
  await page.goto(path)
  await page.getByRole('article', { name: 'Remark 1' }).waitFor()
  await stands(page)
  check(await walk(page), path)
})

test('a student’s pages are walked by Tab on a phone with a keyboard', async ({ browser, context }) => {
  const [one] = await studentsOf(context, 'FERM 210')
  const page = await enterAs(browser, one!.email, { viewport: PHONE })
  const home = await page.evaluate(() => fetch('/api/home').then((answer) => answer.json()))
  const open = home.sheets.find(({ state }: { state: string }) => state === 'open').code
  const ranked = home.sheets.find(({ title }: { title: string }) => title === 'Brew partners').code
  for (const path of ['/', `/sheets/${open}`, `/sheets/${open}/tasks`, `/sheets/${ranked}`]) {
    await page.goto(path)
    await page.getByRole('heading', { level: 1 }).waitFor()
    await stands(page)
    check(await walk(page), path)
  }
})

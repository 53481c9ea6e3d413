// Takes the pictures in docs/screenshots anew from the demo data. Build first: `npm run build`.
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { chromiumOptions, untilUp } from './lib/chromium.mjs'
import { root, say } from './lib/setup.mjs'

const { chromium } = await import('@playwright/test')
const PORT = '4890'
const base = `http://127.0.0.1:${PORT}`
const DESK = { width: 1280, height: 800 }
const PHONE = { width: 390, height: 844 }
const INSTRUCTOR = 'renske.okonjo@brinemoor.example'
const MATTEO = 'matteo.lindgren@brinemoor.example'

const demo = spawn(process.execPath, ['dist/server/demo.js'], {
  cwd: root,
  stdio: 'ignore',
  env: { ...process.env, PORT, HAPLON_DB: 'data/screenshots.db' },
})
await untilUp(base)

const browser = await chromium.launch(chromiumOptions())

/** Opens a page as somebody of the sample, goes through the steps, and keeps what is then seen. */
async function picture(name, email, viewport, steps, colorScheme = 'light') {
  const context = await browser.newContext({ viewport, colorScheme, locale: 'en-GB' })
  await context.request.post(`${base}/api/door`, { data: { email }, headers: { Origin: base } })
  // A device that has had the letters before shows them at once.
  await context.addInitScript(() => localStorage.setItem('haplon-letters', 'here'))
  const page = await context.newPage()
  await page.goto(`${base}/`)
  await steps(page)
  // On a phone the menu comes once the page stands.
  await page.getByRole('button', { name: /Menu of/ }).waitFor()
  await page.evaluate(() => document.fonts.ready.then(() => undefined))
  await page.mouse.move(0, 0)
  await pause(600)
  await page.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) })
  await context.close()
  say(`docs/screenshots/${name}.png`)
}

/** What somebody reads of the API. */
async function readAs(email, path) {
  const context = await browser.newContext()
  await context.request.post(`${base}/api/door`, { data: { email }, headers: { Origin: base } })
  const answer = await (await context.request.get(`${base}${path}`)).json()
  await context.close()
  return answer
}

/** The first of a list for which something holds. */
async function firstWhere(all, holds) {
  for (const one of all) if (await holds(one)) return one
  throw new Error('Nobody of the sample is like that.')
}

const benches = (page) => page.getByRole('link', { name: /Culture benches/ }).first()
const run = async (page) => {
  await benches(page).click()
  await page.getByRole('heading', { name: 'No group yet' }).waitFor()
}

try {
  const { people } = await (await fetch(`${base}/api/door`)).json()
  const student = people.find(({ featured, roles }) => featured && roles === 'student in FERM 210').email
  await picture('courses', INSTRUCTOR, DESK, (page) => benches(page).waitFor())
  await picture('run', INSTRUCTOR, DESK, async (page) => {
    await run(page)
    await page.getByRole('button', { name: /Tempeh, Thu lab/ }).click()
  })
  await picture('settle', INSTRUCTOR, DESK, async (page) => {
    await run(page)
    await page.getByRole('link', { name: 'Settle' }).click()
    await page.getByText('students seated').waitFor()
  })
  await picture('ledger', INSTRUCTOR, DESK, async (page) => {
    await run(page)
    await page.getByRole('link', { name: 'Ledger' }).click()
    await page.getByText(/ changes$/).waitFor()
  })
  const walks = async (page) => {
    await page
      .getByRole('link', { name: /Safety walk teams/ })
      .first()
      .click()
    await page.getByRole('link', { name: 'Work' }).click()
    await page.getByRole('heading', { name: 'Everybody' }).waitFor()
  }
  await picture('work', INSTRUCTOR, DESK, walks)
  // The course of last term, whose groups are at work.
  const owner = await browser.newContext()
  await owner.request.post(`${base}/api/door`, { data: { email: MATTEO }, headers: { Origin: base } })
  const read = async (path) => (await owner.request.get(`${base}${path}`)).json()
  const lastTerm = (await read('/api/courses')).courses.find(({ courseCode }) => courseCode === 'FERM 210-T')
  const past = lastTerm.sheets[0].code
  const { groups } = await read(`/api/sheets/${past}/groups`)
  const slow = groups.find(({ name }) => name === 'Slow Bubbles').code
  const { members } = await read(`/api/sheets/${past}/groups/${slow}`)
  const { tasks } = await read(`/api/sheets/${past}/work`)
  await picture('group', MATTEO, DESK, async (page) => {
    await page.goto(`${base}/sheets/${past}/groups/${slow}`)
    await page.getByRole('button', { name: /Before you hand in/ }).click()
    await page.getByLabel('Reply').waitFor()
  })
  const starter = tasks.find(({ remarked }) => remarked.length > 0)
  const spoken = starter.remarked[0].owner
  await picture('desk', MATTEO, DESK, async (page) => {
    await page.goto(`${base}/sheets/${past}/tasks/${starter.code}/desk?pile=${spoken}`)
    await page.getByRole('img', { name: /page 1 of/ }).waitFor()
    await page.getByRole('button', { name: 'Edit remark 2' }).click()
    await page.getByRole('textbox', { name: 'Remark' }).waitFor()
    await page.waitForLoadState('networkidle')
  })
  await picture('student-group', members[1].email, PHONE, async (page) => {
    await page.goto(`${base}/sheets/${past}/groups/${slow}`)
    await page.getByRole('heading', { name: 'Talk' }).waitFor()
  })
  const everybody = (await read(`/api/courses/${lastTerm.code}/roster`)).people
  const reader = starter.work.find((work) => work.owner === spoken).members[0]
  await picture(
    'student-remarks',
    everybody.find(({ code }) => code === reader).email,
    PHONE,
    async (page) => {
      await page.goto(`${base}/sheets/${past}/tasks/${starter.code}/remarks/${spoken}`)
      await page.getByRole('article', { name: 'Remark 2' }).waitFor()
      await page.waitForLoadState('networkidle')
    },
  )
  await owner.close()
  await picture('compose', INSTRUCTOR, DESK, async (page) => {
    await page
      .getByRole('link', { name: /Tasting panel slots/ })
      .first()
      .click()
    await page.getByRole('region', { name: 'Seats check' }).waitFor()
  })
  await picture('roster', INSTRUCTOR, DESK, async (page) => {
    await page.getByRole('link', { name: 'Roster' }).first().click()
    await page.getByRole('region', { name: 'People' }).waitFor()
  })
  await picture('student-home', student, PHONE, (page) => benches(page).waitFor())
  await picture('student-sheet', student, PHONE, async (page) => {
    await benches(page).click()
    await page.getByRole('button', { name: 'Take a seat' }).first().click()
    await page.getByRole('complementary', { name: 'Your seat' }).getByText('You sit at').waitFor()
    await page.getByRole('button', { name: 'With seats' }).scrollIntoViewIfNeeded()
    await page.evaluate(() => window.scrollTo(0, 300))
    await pause(7_500)
  })
  const brew = (page) => page.getByRole('link', { name: /Brew partners/ }).first()
  await picture('wishes-run', INSTRUCTOR, DESK, async (page) => {
    await brew(page).click()
    await page.getByText('If it closed now').waitFor()
    await page.getByRole('button', { name: /Kimchi and lactic sours, Tue lab/ }).click()
    await page.getByText('better off').first().waitFor()
  })
  await picture('wishes-settle', INSTRUCTOR, DESK, async (page) => {
    await brew(page).click()
    await page.getByRole('link', { name: 'Settle' }).click()
    await page.getByText('each is the best there is for its aim').waitFor()
    await page.getByRole('radio', { name: /^Nobody far down/i }).check()
    await page.getByRole('table', { name: 'Moves' }).waitFor()
    await page.getByRole('button', { name: 'Stop search' }).waitFor({ state: 'hidden' })
  })
  const brewing = (await readAs(INSTRUCTOR, '/api/courses')).courses
    .flatMap(({ sheets }) => sheets)
    .find(({ title }) => title === 'Brew partners').code
  const orders = (await readAs(INSTRUCTOR, `/api/sheets/${brewing}/wishes`)).lists
  const addresses = (await readAs(INSTRUCTOR, `/api/sheets/${brewing}/addresses`)).people
  // Somebody with two topics that are as good, of those who named a mate where there is one.
  const equal = orders.filter(({ ranks }) => ranks.some((topics) => topics.length > 1))
  const ranker = equal.find(({ mates }) => mates) ?? equal[0]
  await picture(
    'wishes-rank',
    addresses.find(({ code }) => code === ranker.person).email,
    PHONE,
    async (page) => {
      await page.goto(`${base}/sheets/${brewing}`)
      await page.getByRole('heading', { name: 'Your order', exact: true }).waitFor()
      await page.getByText(/^Chance of your first/).waitFor()
      await page.evaluate(() => window.scrollTo(0, 130))
    },
  )
  const settled = lastTerm.sheets.find(({ title }) => title === 'Brew partners').code
  const outcomes = (await readAs(MATTEO, `/api/sheets/${settled}/run`)).seats
  const pastAddresses = (await readAs(MATTEO, `/api/sheets/${settled}/addresses`)).people
  const emailOf = (person) => pastAddresses.find(({ code }) => code === person).email
  const second = await firstWhere(
    outcomes.map(({ person }) => emailOf(person)),
    async (email) => (await readAs(email, `/api/sheets/${settled}/student`)).wishes.outcomes[0]?.rank === 2,
  )
  await picture('wishes-outcome', second, PHONE, async (page) => {
    await page.goto(`${base}/sheets/${settled}`)
    await page.getByText('How it was decided').click()
    await page.getByRole('button', { name: 'Save the record' }).waitFor()
    await page.evaluate(() => window.scrollTo(0, 260))
  })
  await picture('course', INSTRUCTOR, DESK, async (page) => {
    await page
      .getByRole('link', { name: /FERM 210 Ferm/ })
      .first()
      .click()
    await page.getByRole('heading', { name: 'Settings' }).waitFor()
  })
  await picture('new-sheet', INSTRUCTOR, DESK, async (page) => {
    const course = page.getByRole('region', { name: /FERM 210/ }).first()
    await course.getByRole('link', { name: 'New sheet' }).click()
    await page.getByLabel('Sheet title').fill('Tasting pairs, week 9')
    await page.getByLabel('How groups come about').selectOption('made')
    await page.getByLabel('How many').selectOption('most')
    await page.getByLabel('People in each, at most').fill('3')
    await page.getByLabel('In each section, or mixed').selectOption('mixed')
  })
} finally {
  await browser.close()
  demo.kill('SIGTERM')
}

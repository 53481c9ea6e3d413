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
  const page = await context.newPage()
  await page.goto(`${base}/`)
  await steps(page)
  await page.mouse.move(0, 0)
  await pause(600)
  await page.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) })
  await context.close()
  say(`docs/screenshots/${name}.png`)
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
  await picture('run-dark', INSTRUCTOR, DESK, run, 'dark')
  await picture('compose', INSTRUCTOR, DESK, async (page) => {
    await page
      .getByRole('link', { name: /Tasting panel slots/ })
      .first()
      .click()
    await page.getByRole('region', { name: 'Seats check' }).waitFor()
  })
  await picture('publish', INSTRUCTOR, DESK, async (page) => {
    await page
      .getByRole('link', { name: /Field mornings/ })
      .first()
      .click()
    await page.getByRole('button', { name: 'Publish…' }).click()
    await page.getByRole('alertdialog').waitFor()
  })
  await picture('rehearsal', INSTRUCTOR, DESK, async (page) => {
    await benches(page).click()
    await page.getByRole('link', { name: 'Compose' }).click()
    await page.getByRole('link', { name: 'See it as a student' }).click()
    await page.getByRole('button', { name: 'Take a seat' }).first().click()
    await page.getByRole('complementary', { name: 'Your seat' }).getByText('You sit at').waitFor()
    await pause(7_500)
  })
  await picture('roster-file', INSTRUCTOR, DESK, async (page) => {
    await page.getByRole('link', { name: 'Roster' }).first().click()
    await page.getByRole('button', { name: 'Bring in a roster file' }).click()
    const people = (await (await fetch(`${base}/api/door`)).json()).people.filter(
      ({ roles }) => roles === 'student in FERM 210',
    )
    const line = ({ name, email }, section) => `${name},${email},${section}`
    const csv = [
      'name,email,section',
      line(people[0], 'Thu lab'),
      'Ines Halloran,ines.halloran@brinemoor.example,Wed lab',
      'Otto Strand,otto.strand,Wed lab',
      'Pia Tamm,pia.tamm@brinemoor.example,Fri lab',
    ]
    await page.getByLabel('Roster as text').fill(csv.join('\n'))
    await page.getByRole('button', { name: 'See what would change' }).click()
    await page.getByText('lines wrong').waitFor()
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
} finally {
  await browser.close()
  demo.kill('SIGTERM')
}

import { expect, type Page, test } from '@playwright/test'
import { enterAs, INSTRUCTOR, PHONE, post, studentsOf } from './people.ts'

/** Counts what a person does on a page: keys pressed and clicks made, over page changes. */
async function countPresses(page: Page): Promise<() => Promise<number>> {
  await page.addInitScript(() => {
    const add = (event: Event) => {
      if (event.isTrusted)
        sessionStorage.setItem('presses', String(Number(sessionStorage.getItem('presses') ?? 0) + 1))
    }
    addEventListener('keydown', add, true)
    addEventListener('pointerdown', add, true)
  })
  return async () => Number(await page.evaluate(() => sessionStorage.getItem('presses')))
}

const SECTIONS = ['Mon lab', 'Tue lab', 'Wed lab', 'Thu lab']

function rosterFile(): string {
  const lines = Array.from(
    { length: 120 },
    (_, i) => `Person Number${i},p${i}@brew.example,${SECTIONS[i % 4]}`,
  )
  return ['name,email,section', ...lines].join('\n')
}
function topicsFile(): string {
  const names = ['Pale ale', 'Stout', 'Wheat', 'Saison', 'Lambic', 'Porter', 'Bock', 'Kriek', 'Gose', 'Alt']
  return [
    'Title;Brief;Seats;Floor;Room',
    ...names.map((name, i) => `${name};Brew it twice;${i === 4 ? 4 : ''};;Kettle ${i + 1}`),
  ].join('\n')
}

test('two CSV files become a published sheet of 40 groups in fewer than 60 keystrokes and clicks', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const course = { courseCode: 'BREW 310', title: 'Brewing', zone: 'Europe/Copenhagen', sections: SECTIONS }
  await post(page, '/api/courses', course)
  const presses = await countPresses(page)
  await page.goto('/')
  const choose = async (label: string, name: string, text: string) => {
    const chooser = page.waitForEvent('filechooser')
    await page.getByText(label, { exact: true }).click()
    await (await chooser).setFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) })
  }

  const brew = page.getByRole('region', { name: /BREW 310/ })
  await brew.getByRole('link', { name: 'Roster' }).click()
  await choose('Choose a file', 'roster.csv', rosterFile())
  await page.getByRole('button', { name: 'Import 120 people' }).click()
  await expect(page.getByText('120 students', { exact: false }).first()).toBeVisible()
  await page.getByRole('link', { name: 'Haplon' }).click()
  await brew.getByRole('link', { name: 'New sheet' }).click()
  await page.getByRole('button', { name: 'Write topics instead' }).click()
  await page.getByLabel('Sheet title').fill('Brews')
  await page.keyboard.press('Enter')

  await page.getByRole('button', { name: 'Many topics at once' }).click()
  await choose('Choose a file', 'topics.csv', topicsFile())
  await page.getByRole('button', { name: 'Add 10 topics' }).click()
  await expect(page.getByRole('heading', { name: /10 topics × 4 sections = 40 groups/ })).toBeVisible()
  await expect(page.getByRole('region', { name: 'Seats check' })).toContainText('a seat for everybody')
  const closes = new Date(Date.now() + 5 * 86_400_000)
  const day = closes.toLocaleDateString('en-GB', {
    day: 'numeric',
    month: 'short',
    timeZone: 'Europe/Copenhagen',
  })
  await page.getByLabel('Closes', { exact: true }).click()
  await page.keyboard.type(`${day} 17:00`)
  await page.keyboard.press('Enter')
  await expect(page.getByText(/all changes saved/)).toBeVisible()

  await page.getByRole('link', { name: 'See it as a student' }).click()
  const seen = page.frameLocator('iframe')
  await seen.getByRole('article', { name: 'Stout' }).getByRole('button', { name: 'Take a seat' }).click()
  await expect(seen.getByRole('complementary', { name: 'Your seat' })).toContainText('Stout')
  await page.getByRole('link', { name: 'Back to Compose' }).click()
  await page.getByRole('button', { name: 'Publish…' }).click()
  await expect(page.getByRole('alertdialog')).toContainText('40 groups on 10 topics')
  await page.getByRole('button', { name: 'Publish', exact: true }).click()
  await expect(page.getByRole('link', { name: /\/s\// })).toBeVisible()

  const made = await presses()
  console.log(`a published sheet of 40 groups took ${made} keystrokes and clicks`)
  expect(made).toBeLessThan(60)

  // The rehearsal touched nothing.
  await page.getByRole('link', { name: 'Run' }).click()
  await expect(page.getByText('of 120 students have no group yet').locator('..')).toContainText('120')
})

/** A new draft of the sample course, open in Compose. */
async function draft(page: Page, title: string, topics: string[]): Promise<void> {
  const { courses } = await page.evaluate(() => fetch('/api/courses').then((answer) => answer.json()))
  const ferm = courses.find(({ courseCode }: { courseCode: string }) => courseCode === 'FERM 210')
  const sheet = await post<{ code: string }>(page, `/api/courses/${ferm.code}/sheets`, { title })
  if (topics.length > 0)
    await post(page, `/api/sheets/${sheet.code}/topics/several`, {
      topics: topics.map((name) => ({ title: name })),
    })
  await page.goto(`/sheets/${sheet.code}/compose`)
  await expect(page.getByRole('heading', { name: title })).toBeVisible()
}

test('rows pasted from a spreadsheet are looked at, a pasted column fills down, and all of it is undone', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await draft(page, 'Pasting', ['One', 'Two', 'Three'])
  const paste = (text: string) =>
    page.evaluate((text) => {
      const data = new DataTransfer()
      data.setData('text/plain', text)
      document.activeElement?.dispatchEvent(
        new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
      )
    }, text)
  const seats = (title: string) => page.getByRole('textbox', { name: `Seats of ${title}`, exact: true })
  await seats('One').focus()
  await paste('5\n6\nnone\n')
  await expect(seats('Three')).toHaveValue('none')
  await expect(seats('One')).toHaveValue('5')
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(seats('Two')).toHaveValue('')
  await expect(seats('One')).toHaveValue('5')
  await page.keyboard.press('Control+Shift+z')
  await expect(seats('Two')).toHaveValue('6')

  await page.getByRole('textbox', { name: 'Title of a new topic' }).focus()
  await paste('Four\tA brief\t3\nTwo\tAgain\t3\n\tNameless\t3')
  const many = page.getByRole('region', { name: 'Many topics at once' })
  await expect(many).toContainText('The sheet has a topic of this title already.')
  await expect(many).toContainText('The title is missing.')
  await many.getByRole('button', { name: 'Add 1 topic, leave out 2 wrong' }).click()
  await expect(page.getByRole('textbox', { name: 'Title of Four' })).toBeVisible()

  await page.getByRole('button', { name: 'Many topics at once' }).click()
  await page.getByRole('tab', { name: 'By a pattern' }).click()
  await page.getByLabel('What counts').selectOption('Dated slots')
  await page.getByLabel('First day').fill('2027-05-11')
  await expect(many.getByRole('button', { name: 'Add 6 topics' })).toBeVisible()
  await many.getByRole('button', { name: 'Add 6 topics' }).click()
  await expect(page.getByText('Tue 11 May, 10:00 to 10:20')).toBeVisible()
})

test('one section differs: not offered, another limit, a seat kept free', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await draft(page, 'Exceptions', ['Rye', 'Spelt'])
  await page.getByRole('button', { name: /More of Rye/ }).click()
  await page.getByRole('checkbox', { name: 'Wed lab' }).uncheck()
  await expect(page.getByRole('heading', { name: /= 5 groups/ })).toBeVisible()
  await page.getByRole('textbox', { name: 'Seats of Rye, Tue lab' }).fill('9')
  await expect(page.getByRole('region', { name: 'Seats check' })).toContainText('13 seats for 40')
  await page.getByRole('button', { name: 'Seat kept free of Rye, Tue lab' }).click()
  await page.keyboard.type('a guest')
  await page.keyboard.press('Enter')
  await expect(page.getByText('a guest')).toBeVisible()
  await expect(page.getByText('2 sections differ')).toBeVisible()
  await page.reload()
  await expect(page.getByText('2 sections differ')).toBeVisible()
})

test('two instructors at once see each other’s changes, and neither overwrites the other unasked', async ({
  browser,
}) => {
  const one = await enterAs(browser, INSTRUCTOR)
  await draft(one, 'Together', ['Rye'])
  const two = await enterAs(browser, 'matteo.lindgren@brinemoor.example')
  await two.goto(one.url())
  await two.getByRole('textbox', { name: 'Place of Rye' }).fill('Bench 9')
  await expect(one.getByRole('textbox', { name: 'Place of Rye' })).toHaveValue('Bench 9')

  // One types while the connection is away, the other changes the same title meanwhile.
  await one.context().setOffline(true)
  await one.getByRole('textbox', { name: /Title of Rye/ }).fill('Rye, dark')
  await expect(one.getByText(/not saved yet, trying again/)).toBeVisible()
  await two.getByRole('textbox', { name: /Title of Rye/ }).fill('Rye, light')
  await expect(two.getByText('all changes saved')).toBeVisible()
  await one.context().setOffline(false)
  await expect(one.getByText(/Somebody changed it meanwhile to “Rye, light”/)).toBeVisible()
  await one.getByRole('button', { name: 'Keep mine' }).click()
  await expect(two.getByRole('textbox', { name: /Title of Rye/ })).toHaveValue('Rye, dark')
})

test('where seats change only by asking, a student asks and the instructor answers with one key', async ({
  browser,
  context,
}) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  await draft(instructor, 'By asking', ['Rye', 'Spelt'])
  await instructor.getByLabel('Changing seats').selectOption('only by asking')
  await expect(instructor.getByText('They send a request with a reason')).toBeVisible()
  const closes = `${new Date(Date.now() + 3 * 86_400_000).toISOString().slice(0, 10)}T17:00`
  await instructor.getByLabel('Closes', { exact: true }).fill(closes)
  await instructor.getByLabel('Closes', { exact: true }).blur()
  await instructor.getByRole('button', { name: 'Publish…' }).click()
  await instructor.getByRole('button', { name: 'Publish', exact: true }).click()
  const address = (await instructor.getByRole('link', { name: /\/s\// }).getAttribute('href'))!
  await instructor.getByRole('link', { name: 'Run' }).click()

  const [one] = await studentsOf(context, 'FERM 210')
  const student = await enterAs(browser, one!.email, { viewport: PHONE })
  await student.goto(address)
  await student.getByRole('article', { name: 'Rye' }).getByRole('button', { name: 'Take a seat' }).click()
  await student.getByRole('article', { name: 'Spelt' }).getByRole('button', { name: 'Ask to move' }).click()
  await student.getByRole('button', { name: 'Send request' }).click()
  await expect(student.getByText('Say why: your instructor')).toBeVisible()
  await student.getByLabel('Why?').fill('My bus leaves early.')
  await student.getByRole('button', { name: 'Send request' }).click()
  await expect(student.getByText('Your instructor has not answered yet.')).toBeVisible()

  await expect(instructor.getByText('My bus leaves early.')).toBeVisible()
  await instructor.locator('body').press('y')
  await expect(student.getByText(/was granted/)).toBeVisible()
  await expect(student.getByRole('complementary', { name: 'Your seat' })).toContainText('Spelt')
})

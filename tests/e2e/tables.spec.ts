import { expect, test } from '@playwright/test'
import ExcelJS from 'exceljs'
import type { ComposeView } from '../../src/contract/sheets.ts'
import { enterAs, INSTRUCTOR, post } from './people.ts'

/** A workbook written by another hand than reads it. */
async function workbook(sheets: Record<string, (string | number | Date)[][]>): Promise<Buffer> {
  const book = new ExcelJS.Workbook()
  for (const [name, rows] of Object.entries(sheets)) {
    const sheet = book.addWorksheet(name)
    for (const row of rows) sheet.addRow(row)
  }
  return Buffer.from(await book.xlsx.writeBuffer())
}
const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'

test('a roster and topics come in from spreadsheets as they are, with the sheet chosen, and a picture is refused', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await page.goto('/courses/new')
  await page.getByLabel('Course code').fill('SALT 110')
  await page.getByLabel('Title').fill('Salt and Time')
  await page.getByRole('button', { name: 'Add a section' }).click()
  await page.getByRole('textbox', { name: 'Section 1' }).fill('Tue lab')
  await page.getByRole('button', { name: 'Add the course' }).click()
  await expect(page.getByRole('heading', { name: 'Import roster' })).toBeVisible()

  const choose = (name: string, mimeType: string, buffer: Buffer) =>
    page.getByLabel('Choose a file').setInputFiles({ name, mimeType, buffer })
  await choose('jar.xlsx', XLSX, Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0, 0]))
  await expect(page.getByText('“jar.xlsx” is no table', { exact: false })).toBeVisible()
  const whole = await workbook({ People: [['name', 'email']] })
  await choose('broken.xlsx', XLSX, whole.subarray(0, whole.length / 2))
  await expect(page.getByText('The file is damaged', { exact: false })).toBeVisible()

  await choose(
    'people.xlsx',
    XLSX,
    await workbook({
      'Read me': [['Printed by the office']],
      Students: [
        ['Class list of the spring', '', '', ''],
        ['Number', 'Last name', 'First name', 'E-mail', 'Group'],
        [1001, 'Lind', 'Ada', 'ada@salt.example', 'TUE LAB'],
        [1002, 'Reed', 'Bo', 'bo@salt.example', 'tue  lab'],
      ],
    }),
  )
  // The first sheet has no people; the second is chosen.
  await expect(page.getByText('The first line must name the columns', { exact: false })).toBeVisible()
  await page.getByRole('combobox', { name: 'Sheet' }).selectOption({ label: 'Students (4 lines)' })
  await expect(page.getByText('no column is “section”', { exact: false })).toBeVisible()
  // A column that is called otherwise is pointed out, and it is read anew at once.
  const columns = page.getByRole('group', { name: 'Which column is which' })
  await columns
    .getByRole('combobox', { name: 'Section', exact: true })
    .selectOption({ label: 'column 5: Group' })
  await expect(page.getByText('Line 1 above the headings was passed over', { exact: false })).toBeVisible()
  await page.getByRole('button', { name: 'Import 2 people' }).click()
  await expect(page.getByRole('rowheader', { name: 'Ada Lind' })).toBeVisible()
  await expect(page.getByRole('rowheader', { name: 'Bo Reed' })).toBeVisible()
})

test('a roster without headings loses nobody, and how it is read can be said otherwise', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await page.goto('/courses/new')
  await page.getByLabel('Course code').fill('SALT 120')
  await page.getByLabel('Title').fill('Salt and Sugar')
  await page.getByRole('button', { name: 'Add the course' }).click()
  await page.getByLabel('Roster as text').fill('Ada Lind;ada@salt.example\nBo Reed;bo@salt.example\n')
  await page.getByRole('button', { name: 'See what would change' }).click()
  await expect(page.getByText('no headings were found', { exact: false })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Import 2 people' })).toBeVisible()
  await page.getByRole('combobox', { name: 'The first line' }).selectOption('has the headings')
  await expect(page.getByText('The first line must name the columns', { exact: false })).toBeVisible()
  await page.getByRole('combobox', { name: 'The first line' }).selectOption('is a person')
  await page.getByRole('button', { name: 'Import 2 people' }).click()
  await expect(page.getByRole('rowheader', { name: 'Ada Lind' })).toBeVisible()
})

test('a wrong line is mended in the preview, and the rest stays as it was read', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await page.goto('/courses/new')
  await page.getByLabel('Course code').fill('SALT 130')
  await page.getByLabel('Title').fill('Salt and Ice')
  await page.getByRole('button', { name: 'Add the course' }).click()
  await page
    .getByLabel('Roster as text')
    .fill('name,email\nAda Lind,ada(at)salt.example\nBo Reed,bo@salt.example')
  await page.getByRole('button', { name: 'See what would change' }).click()
  await expect(page.getByRole('button', { name: 'Import 1 person, leave out 1 wrong' })).toBeVisible()
  await page.getByRole('button', { name: 'Mend line 2' }).click()
  const field = page.getByLabel('Line 2 as it is to read')
  await expect(field).toBeFocused()
  await expect(field).toHaveValue('Ada Lind,ada(at)salt.example')
  await field.fill('Ada Lind,ada@salt.example')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Import 2 people' }).click()
  await expect(page.getByRole('rowheader', { name: 'Ada Lind' })).toBeVisible()
})

test('days that can be read two ways are asked about once, and a slot goes over midnight', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await page.goto('/')
  const { code } = await page.evaluate(async () => {
    const { courses } = await (await fetch('/api/courses')).json()
    const course = courses.find(({ courseCode }: { courseCode: string }) => courseCode === 'FERM 210')
    const answer = await fetch(`/api/courses/${course.code}/sheets`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ title: 'Nights' }),
    })
    return (await answer.json()) as { code: string }
  })
  await page.goto(`/sheets/${code}/compose`)
  await page.getByRole('button', { name: 'Many topics at once' }).click()
  await page
    .getByLabel('Topics as text')
    .fill('title,date,start,end\nTempeh,05/06/2027,10 pm,1 am\nMiso,07/08/2027,9:00,')
  await expect(
    page.getByText('It can be read day first or month first. Say which above.').first(),
  ).toBeVisible()
  await page.getByRole('combobox', { name: /Days such as/ }).selectOption('day-first')
  await expect(page.getByText('2027-06-05 22:00 to 2027-06-06 01:00')).toBeVisible()
  await page.getByRole('button', { name: 'Add 2 topics' }).click()
  await expect(page.getByText('2 topics were added.')).toBeVisible()
  const { topics } = await page.evaluate(
    async (sheet) => (await fetch(`/api/sheets/${sheet}/compose`)).json(),
    code,
  )
  expect(
    topics.map(({ startsAt, endsAt }: { startsAt: string; endsAt: string | null }) => [startsAt, endsAt]),
  ).toEqual([
    ['2027-06-05T20:00:00.000Z', '2027-06-05T23:00:00.000Z'],
    ['2027-08-07T07:00:00.000Z', null],
  ])
})

test('topics go out with what differs in their groups, and come in again on another sheet', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const sheet = async (title: string, topics: object[]) => {
    const { courses } = await page.evaluate(() => fetch('/api/courses').then((answer) => answer.json()))
    const course = courses.find(({ courseCode }: { courseCode: string }) => courseCode === 'FERM 210')
    const { code } = await post<{ code: string }>(page, `/api/courses/${course.code}/sheets`, { title })
    if (topics.length > 0) await post(page, `/api/sheets/${code}/topics/several`, { topics })
    return code
  }
  const view = (code: string): Promise<ComposeView> =>
    page.evaluate(async (at) => (await fetch(`/api/sheets/${at}/compose`)).json(), code)
  const empty = await sheet('Crocks again', [])
  const { sections } = await view(empty)
  const { people } = await page.evaluate(async (at) => (await fetch(`/api/sheets/${at}/run`)).json(), empty)
  const [tue, wed] = sections.map(({ code }) => code)
  const person = people.find((one: { section: string }) => one.section === tue)
  const full = await sheet('Crocks', [
    {
      title: 'Miso',
      seats: 4,
      groups: [
        {
          section: tue,
          startsAt: '2027-05-20T22:00',
          endsAt: '2027-05-21T01:00',
          held: [{ person: person.code }],
        },
        { section: wed, offered: false },
      ],
    },
    { title: 'Kefir', mixed: true, groups: [{ section: null, held: [{ note: 'a guest; or two' }] }] },
  ])

  await page.goto(`/sheets/${full}/compose`)
  await page.getByRole('button', { name: 'Many topics at once' }).click()
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save the topics as CSV' }).click(),
  ])
  expect(saved.suggestedFilename()).toBe('Crocks topics.csv')

  await page.goto(`/sheets/${empty}/compose`)
  await page.getByRole('button', { name: 'Many topics at once' }).click()
  await page.getByLabel('Table of topics').setInputFiles(await saved.path())
  const preview = page.getByRole('table', { name: 'What would be added' })
  await expect(preview.getByRole('row', { name: /Tue lab/ })).toContainText(
    `2027-05-20 22:00 to 2027-05-21 01:00, kept free for ${person.name}`,
  )
  await expect(preview.getByRole('row', { name: /Wed lab/ })).toContainText('not offered')
  await expect(preview.getByRole('row', { name: /Everybody/ })).toContainText('kept free for a guest; or two')
  await page.getByRole('button', { name: 'Add 2 topics' }).click()
  await expect(page.getByText('2 topics were added.')).toBeVisible()
  const plain = ({ topics }: ComposeView) =>
    topics.map(({ code: _, groups, ...topic }) => ({
      ...topic,
      groups: groups.map(({ code: _, held, ...group }) => ({
        ...group,
        held: held.map(({ code: _, ...kept }) => kept),
      })),
    }))
  expect(plain(await view(empty))).toEqual(plain(await view(full)))

  await test.step('a column in other words is pointed out, and what is wrong stands with its line', async () => {
    await page.getByRole('button', { name: 'Many topics at once' }).click()
    await page
      .getByLabel('Topics as text')
      .fill('Thema,Section,Shelf\nNatto,Tue lab,Shelf 3\nKoji,Sat lab,Shelf 4')
    await page.locator('summary', { hasText: 'Which column is which' }).click()
    const columns = page.getByRole('group', { name: 'Which column is which' })
    await columns.getByRole('combobox', { name: 'The first line' }).selectOption('has the headings')
    await expect(page.getByText('No column has the titles. Say which it is.')).toBeVisible()
    await columns.getByRole('combobox', { name: 'Title' }).selectOption('Thema')
    await expect(page.getByText(/The column “Shelf” is not read/)).toBeVisible()
    await columns.getByRole('combobox', { name: 'Place' }).selectOption('Shelf')
    await expect(preview.getByRole('row', { name: /^Tue lab/ })).toContainText('Shelf 3')
    await expect(preview.getByRole('row', { name: /^line 3/ })).toContainText(
      'The course has no such section',
    )
    await page.getByRole('button', { name: 'Add 1 topic, leave out 1 wrong' }).click()
    await expect(page.getByRole('textbox', { name: 'Title of Natto' })).toBeVisible()
    // The message before, whose undo takes the two others away, may still stand.
    const said = page.getByRole('listitem').filter({ hasText: '1 topic was added.' })
    await said.getByRole('button', { name: 'Undo' }).click()
    await expect(page.getByRole('textbox', { name: 'Title of Natto' })).toHaveCount(0)
  })
})

import { readFileSync } from 'node:fs'
import * as XLSX from '@e965/xlsx'
import { expect, test } from '@playwright/test'
import { enterAs, INSTRUCTOR, openSheet, PHONE, post, publishSheet, send, studentsOf } from './people.ts'

// Files that go out: opened as whoever gets them would.

test('addresses of those without a group, of a group and of a section are copied as a plain list', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR, { permissions: ['clipboard-read', 'clipboard-write'] })
  await openSheet(page, 'Culture benches')
  const tray = page.getByRole('region', { name: 'No group yet' })
  const all = await tray.getByRole('button', { name: /^All \d+$/ }).textContent()
  await tray.getByRole('button', { name: 'Copy addresses of those without a group' }).click()
  const box = page.getByRole('dialog', { name: 'Addresses of those without a group' })
  const list = box.getByRole('textbox', { name: 'Addresses' })
  const count = Number(/\d+/.exec(all ?? '')?.[0])
  expect((await list.inputValue()).split('\n')).toHaveLength(count)
  await box.getByRole('combobox').selectOption('semicolons')
  await box.getByRole('button', { name: 'Copy addresses' }).click()
  await expect(page.getByText(`${count} copied.`)).toBeVisible()
  const copied = await page.evaluate(() => navigator.clipboard.readText())
  expect(copied.split('; ')).toHaveLength(count)
  expect(copied).toMatch(/^[\w.-]+@brinemoor\.example;/)
  await box.getByRole('button', { name: 'Close' }).click()
  await expect(tray.getByRole('button', { name: 'Copy addresses of those without a group' })).toBeFocused()

  await page.goto('/')
  await page
    .getByRole('link', { name: /Roster/ })
    .first()
    .click()
  await page.getByRole('combobox', { name: 'Section' }).selectOption('Tue lab')
  await page.getByRole('button', { name: 'Copy addresses' }).click()
  const those = page.getByRole('dialog', { name: 'Addresses of those shown of Tue lab' })
  await expect(those.getByText(/40 addresses, in the order of the class list/)).toBeVisible()
})

test('the roster is printed whole, and the door list names those without a group', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await page.goto('/')
  await page
    .getByRole('link', { name: /Roster/ })
    .first()
    .click()
  const table = page.getByRole('table', { name: 'Roster' })
  await expect(table).toBeVisible()
  const shown = Number(/\d+/.exec((await page.getByText(/^\d+( of \d+)? people$/).textContent()) ?? '')?.[0])
  await page.emulateMedia({ media: 'print' })
  await page.evaluate(() => dispatchEvent(new Event('beforeprint')))
  // The heads are a row too.
  await expect(table.getByRole('row')).toHaveCount(shown + 1)
  await expect(page.getByRole('button', { name: 'Import roster' })).toBeHidden()
  await page.evaluate(() => dispatchEvent(new Event('afterprint')))
  await page.emulateMedia({ media: 'screen' })
  await expect(page.getByRole('searchbox', { name: 'Search people' })).toBeVisible()

  await openSheet(page, 'Culture benches')
  await page.getByRole('link', { name: 'Ledger' }).click()
  await page.getByRole('link', { name: /Door list/ }).click()
  await expect(page.getByRole('heading', { name: 'No group yet' }).first()).toBeVisible()
  await expect(page.getByText(/as of \w{3} \d+ \w{3} \d{4}, \d\d:\d\d/).first()).toBeVisible()
})

test('workbooks and JSON of a sheet open elsewhere', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await openSheet(page, 'Culture benches')
  await page.getByRole('link', { name: 'Ledger' }).click()
  const saved = async (label: string) => {
    const download = page.waitForEvent('download')
    await page.getByRole('link', { name: label }).click()
    return readFileSync(await (await download).path())
  }
  const book = XLSX.read(await saved('Students with groups, ODS'))
  const rows = XLSX.utils.sheet_to_json<Record<string, string>>(book.Sheets.Students!)
  expect(rows.length).toBeGreaterThan(100)
  expect(rows.every((row) => /^26-\d{5}$/.test(row['student number'] ?? ''))).toBe(true)
  const json = JSON.parse((await saved('All of it, JSON')).toString())
  expect(json.students).toHaveLength(rows.length)
})

test('somebody goes by another name, is found by their number, and a later file leaves it', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await page.goto('/courses/new')
  const { code } = await post<{ code: string }>(page, '/api/courses', {
    courseCode: 'FERM 299',
    title: 'Names',
    zone: 'Europe/Copenhagen',
    sections: ['Mon lab'],
  })
  await page.goto(`/courses/${code}/roster`)
  const bring = async (text: string) => {
    const field = page.getByLabel('Roster as text')
    const again = page.getByRole('button', { name: 'Import roster' })
    await field.or(again).first().waitFor()
    if (await again.isVisible()) await again.click()
    await field.fill(text)
    await page.getByRole('button', { name: 'See what would change' }).click()
  }
  await bring(
    'name,student number,email\n"Strand Mora, Aleksandra",0042,a@s.example\n"Reed, Bo",0043,b@s.example',
  )
  // Without a column of sections it is asked which one they are in.
  await page.getByRole('combobox', { name: 'Section of everybody' }).selectOption('Mon lab')
  await page.locator('summary', { hasText: 'Which column is which' }).click()
  await expect(page.getByRole('combobox', { name: 'A name with a comma' })).toHaveValue('surname-first')
  await expect(page.getByRole('cell', { name: 'Strand Mora', exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Import 2 people' }).click()
  await page.getByRole('searchbox', { name: 'Search people' }).fill('42')
  await page.getByRole('button', { name: 'Edit Aleksandra Strand Mora' }).click()
  const box = page.getByRole('alertdialog')
  await expect(box.getByLabel('Surname')).toHaveValue('Strand Mora')
  await box.getByLabel('Called').fill('Ola Strand')
  await box.getByRole('button', { name: 'Save person' }).click()
  await expect(page.getByRole('row', { name: /Ola Strand/ })).toContainText('Aleksandra Strand Mora')
  await bring('name,student number,section\nAleksandra Strand Mora,42,Mon lab\nBo Reed,44,Mon lab')
  await expect(page.getByText(/Nobody on the roster has this number/)).toBeVisible()
  await expect(
    page.getByText('The roster already says the same.').or(page.getByText(/No line can be/)),
  ).toBeVisible()
  await expect(page.getByRole('row', { name: /Ola Strand/ })).toBeVisible()
})

test('a saved date is taken out of the calendar again once the seat is given up', async ({
  browser,
  context,
}) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'Dated jars', [{ title: 'Jar' }])
  const { topics } = await instructor.evaluate(
    async (sheet) =>
      (await fetch(`/api/sheets/${sheet}/compose`)).json() as Promise<{ topics: { code: string }[] }>,
    code,
  )
  await send(instructor, 'PATCH', `/api/sheets/${code}/topics/${topics[0]!.code}`, {
    startsAt: `${new Date().getFullYear() + 1}-05-19T22:00`,
    endsAt: `${new Date().getFullYear() + 1}-05-20T01:00`,
    confirmed: true,
  })
  const people = await studentsOf(context, 'FERM 210')
  const page = await enterAs(browser, people[21]!.email, { viewport: PHONE, hasTouch: true })
  await page.goto(`/sheets/${code}`)
  await page.getByRole('button', { name: 'Take a seat Jar' }).click()
  const saved = async (link: ReturnType<typeof page.getByRole>) => {
    const download = page.waitForEvent('download')
    await link.click()
    return readFileSync(await (await download).path(), 'utf8')
  }
  const first = await saved(page.getByRole('link', { name: 'Calendar file' }))
  expect(first).toContain('SEQUENCE:0')
  await page.getByRole('button', { name: 'Give up Jar' }).click()
  await page.getByRole('alertdialog').getByRole('button', { name: 'Give up seat' }).click()
  await expect(page.getByText('You have no group yet')).toBeVisible()
  await page.goto('/')
  const note = page.getByText(/You saved Jar \(Dated jars\).*it is not yours any more/)
  await expect(note).toBeVisible()
  const gone = await saved(page.getByRole('link', { name: /^Remove from calendar/ }))
  expect(gone).toMatch(/METHOD:CANCEL[\s\S]*STATUS:CANCELLED/)
  expect(/UID:.*/.exec(gone)?.[0]).toBe(/UID:.*/.exec(first)?.[0])
  await expect(note).toBeHidden()
})

test('points of criteria go out with the marks, and come in again where a cell was changed', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const criteria = [
    { id: 'seen', title: 'What was seen', points: 5, levels: ['thin', 'strong'] },
    { id: 'said', title: 'Plain writing', points: 5, levels: ['thin', 'strong'] },
  ]
  const sheet = await publishSheet(page, 'Crocks with rows', [{ title: 'Rye' }], { seats: 60 })
  await post(page, `/api/sheets/${sheet}/tasks`, { title: 'Walk', out: true, criteria })
  const read = (what: string) =>
    page.evaluate(async ([code, of]) => (await fetch(`/api/sheets/${code}/${of}`)).json(), [sheet, what])
  const [task] = (await read('work')).tasks
  const { groups, people } = await read('run')
  const [group] = groups
  const one = people.find(({ section }: { section: string }) => section === group.section)
  await post(page, `/api/sheets/${sheet}/seatings`, {
    changes: [{ person: one.code, from: null, to: group.code }],
  })
  await send(page, 'PUT', `/api/sheets/${sheet}/tasks/${task.code}/marks`, {
    owner: group.code,
    apart: null,
    version: 0,
    placements: { seen: 4 },
    points: null,
    feedback: '',
  })
  await page.goto(`/sheets/${sheet}/work`)
  const saved = await page.evaluate(
    async (code) => (await fetch(`/api/sheets/${code}/marks/groups.csv`)).text(),
    sheet,
  )
  const bring = (csv: string) =>
    page
      .getByLabel('Table of marks')
      .setInputFiles({ name: 'groups.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) })
  await bring(saved)
  await expect(page.getByText('All its marks stand already, so nothing would change.')).toBeVisible()
  await page.keyboard.press('Escape')
  await bring(saved.replace(/,4,,/, ',4,3.5,'))
  const box = page.getByRole('dialog', { name: 'What the file would change' })
  await expect(box.getByRole('row', { name: /Walk/ })).toContainText('Plain writing: open to 3.5')
  await expect(box.getByRole('row', { name: /Walk/ })).toContainText('7.5')
  await box.getByRole('button', { name: 'Change 1 mark' }).click()
  await expect(page.getByText('Changed: 1 mark.')).toBeVisible()
  const desk = await read(`tasks/${task.code}/desk`)
  expect(desk.piles[0]).toMatchObject({ points: 7.5, mark: { placements: { seen: 4, said: 3.5 } } })
})

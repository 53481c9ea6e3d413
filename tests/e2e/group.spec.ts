import { readFileSync } from 'node:fs'
import { expect, type Locator, type Page, test } from '@playwright/test'
import { enterAs, INSTRUCTOR, PHONE, post, publishSheet, send, studentsOf } from './people.ts'

interface Sheet {
  code: string
  instructor: Page
  /** A mate’s page on a phone, and one on a large screen. */
  first: Page
  second: Page
  /** The group’s code, and the name of the first mate. */
  group: string
  name: string
}

/** A sheet with one topic in whose group two students sit. */
async function twoInAGroup(
  {
    browser,
    context,
  }: { browser: import('@playwright/test').Browser; context: import('@playwright/test').BrowserContext },
  title: string,
): Promise<Sheet> {
  const [one, two] = await studentsOf(context, 'FERM 210')
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, title, [{ title: 'North tank' }, { title: 'South tank' }])
  const first = await enterAs(browser, one?.email ?? '', { viewport: PHONE })
  const second = await enterAs(browser, two?.email ?? '')
  const { groups } = await first.evaluate(
    (sheet) => fetch(`/api/sheets/${sheet}/student`).then((answer) => answer.json()),
    code,
  )
  const group = groups.find(({ title }: { title: string }) => title === 'North tank').code
  for (const page of [first, second])
    await post(page, `/api/sheets/${code}/claims`, { key: `sits-in-${code}`, kind: 'take', to: group })
  return { code, instructor, first, second, group, name: one?.name ?? '' }
}

test('an instructor chooses what groups get, and two mates talk live, name each other, edit and remove', async ({
  browser,
  context,
}) => {
  const { code, instructor, first, second, group, name } = await twoInAGroup(
    { browser, context },
    'Talking tanks',
  )

  await test.step('everything but messages is off until it is turned on', async () => {
    await first.goto(`/sheets/${code}`)
    await first.getByRole('link', { name: 'Your group’s page' }).click()
    await expect(first.getByRole('heading', { name: '2 sit here' })).toBeVisible()
    await expect(first.getByRole('heading', { name: 'Talk' })).toHaveCount(0)
    await instructor.goto(`/sheets/${code}/work`)
    await instructor.getByRole('link', { name: 'Group pages' }).click()
    await instructor.getByRole('checkbox', { name: /^Talk/ }).check()
    await expect(first.getByRole('heading', { name: 'Talk' })).toBeVisible()
    await instructor.getByRole('checkbox', { name: /^Name and emblem/ }).check()
    await first.getByRole('button', { name: 'Name and more' }).click()
    await first.getByLabel('Name', { exact: true }).fill('Bean counters')
    await first.getByRole('radio', { name: 'wheat' }).check({ force: true })
    await first.getByRole('button', { name: 'Save changes' }).click()
    await expect(first.getByRole('heading', { level: 1, name: 'Bean counters' })).toBeVisible()
  })

  await test.step('a subject opened on one page shows as new on the other, and names its reader', async () => {
    await second.goto(`/sheets/${code}/groups/${group}`)
    await second.getByRole('button', { name: 'Open a subject' }).click()
    await second.getByLabel('Subject').fill('Who brings salt')
    const field = second.getByLabel('What you want to say')
    await field.fill('Can you, @')
    await field.press('End')
    await field.pressSequentially(name.slice(0, 3))
    await expect(second.getByRole('option', { name })).toBeVisible()
    await field.press('Enter')
    await expect(field).toHaveValue(`Can you, @${name} `)
    await second.getByRole('button', { name: 'Open subject' }).click()
    const subject = first.getByRole('button', { name: /Who brings salt/ })
    await expect(subject).toContainText('1 new, names you')
    await subject.click()
    await expect(first.getByText('names you', { exact: true })).toBeVisible()
    // What was looked at is read.
    await expect(subject).not.toContainText('new')
  })

  await test.step('a reply arrives by itself; an edit leaves a trace; a removal leaves its place', async () => {
    await first.getByLabel('Reply').fill('Yes, **two kilos**.')
    await first.getByRole('button', { name: 'Reply', exact: true }).click()
    await expect(second.locator('strong', { hasText: 'two kilos' })).toBeVisible()
    await first.getByRole('button', { name: 'Edit' }).click()
    await first.getByLabel('Your post').fill('Yes, three kilos.')
    await first.getByRole('button', { name: 'Save post' }).click()
    await expect(second.getByText('Yes, three kilos.')).toBeVisible()
    await expect(second.getByText(/^edited/)).toBeVisible()
    await expect(second.getByText('What it said before')).toHaveCount(0)
    await first.getByRole('button', { name: 'Remove' }).click()
    await expect(second.getByText(/^Removed by/)).toBeVisible()
    await expect(second.getByText('three kilos')).toHaveCount(0)
  })

  await test.step('a message reaches all and stays; who moves away loses the page at once', async () => {
    const write = second.getByRole('button', { name: 'Write to all' })
    await write.click()
    // Escape leads back to where one was.
    await second.getByLabel('Message').press('Escape')
    await expect(write).toBeFocused()
    await write.press('Enter')
    await second.getByLabel('Subject').fill('Thursday')
    await second.getByLabel('Message').fill('We start at eight.')
    await second.getByRole('button', { name: 'Send message' }).click()
    await expect(first.getByRole('heading', { name: 'Written to all' })).toBeVisible()
    const { groups } = await first.evaluate(
      (sheet) => fetch(`/api/sheets/${sheet}/student`).then((answer) => answer.json()),
      code,
    )
    const south = groups.find(({ title }: { title: string }) => title === 'South tank').code
    const move = { key: `leaves-${code}`, kind: 'move', from: group, to: south }
    await post(first, `/api/sheets/${code}/claims`, move)
    await expect(first.getByText('There is no group of yours here')).toBeVisible()
    await expect(second.getByRole('heading', { name: 'One sits here' })).toBeVisible()
  })
})

/** A PDF of so many empty pages (ISO 32000-1, section 7.5). */
function pdfOf(pages: number): Buffer {
  const parts = ['%PDF-1.4\n']
  const offsets: number[] = []
  let length = parts[0]!.length
  const add = (text: string) => {
    offsets.push(length)
    parts.push(text)
    length += text.length
  }
  const kids = Array.from({ length: pages }, (_, i) => `${i + 3} 0 R`).join(' ')
  add('1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj\n')
  add(`2 0 obj<</Type/Pages/Count ${pages}/MediaBox[0 0 200 280]/Kids[${kids}]>>endobj\n`)
  for (let i = 0; i < pages; i++) add(`${i + 3} 0 obj<</Type/Page/Parent 2 0 R>>endobj\n`)
  const table = offsets.map((at) => `${String(at).padStart(10, '0')} 00000 n \n`).join('')
  const trailer = `trailer<</Size ${pages + 3}/Root 1 0 R>>\nstartxref\n${length}\n%%EOF`
  return Buffer.from(`${parts.join('')}xref\n0 ${pages + 3}\n0000000000 65535 f \n${table}${trailer}`)
}

test('files come several at once, go on after a lost connection, have versions, and are handed in and read at the desk', async ({
  browser,
  context,
}) => {
  const { code, instructor, first, second, group } = await twoInAGroup({ browser, context }, 'Filing tanks')
  await send(instructor, 'PUT', `/api/sheets/${code}/extras`, { files: true })
  const file = (name: string, text: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })
  const lines = (page: Page) => page.getByRole('region', { name: 'Files' }).getByRole('listitem')

  await test.step('two at once; a third waits for the connection and goes on by itself', async () => {
    await second.goto(`/sheets/${code}/groups/${group}`)
    await first.goto(`/sheets/${code}/groups/${group}`)
    const pick = second.getByLabel('Add files').and(second.locator('input'))
    await pick.setInputFiles([file('weights.txt', 'Mon 4.2'), file('plan.txt', 'First salt, then wait.')])
    await expect(lines(first)).toHaveCount(2)
    // The bytes of the third do not get through until the line is there again.
    let away = true
    await second.route('**/uploads/*', (route) => (away ? route.abort() : route.continue()))
    await pick.setInputFiles(file('log.txt', 'Day 1: cloudy.'))
    await expect(second.getByText('no connection; it goes on by itself')).toBeVisible()
    away = false
    await expect(lines(first)).toHaveCount(3)
  })

  await test.step('the same name is a further version; what is taken away comes back', async () => {
    const pick = first.getByLabel('Add files').and(first.locator('input'))
    await pick.setInputFiles(file('plan.txt', 'First wait, then salt.'))
    await expect(first.getByText(/is there already, so this is a new version/)).toBeVisible()
    await expect(lines(second).filter({ hasText: 'plan.txt' })).toContainText(['1 version before'])
    const [saved] = await Promise.all([
      second.waitForEvent('download'),
      second.getByRole('link', { name: 'plan.txt' }).first().click(),
    ])
    expect(saved.suggestedFilename()).toBe('plan.txt')
    expect(readFileSync(await saved.path(), 'utf8')).toBe('First wait, then salt.')
    await second.getByRole('button', { name: 'Delete log.txt' }).click()
    await expect(second.getByText('1 file was deleted')).toBeVisible()
    await second.getByText('1 file was deleted').click()
    await second.getByRole('button', { name: 'Restore log.txt' }).click()
    await expect(second.getByText('1 file was deleted')).toHaveCount(0)
  })

  await test.step('an empty file is refused in words', async () => {
    await first
      .getByLabel('Add files')
      .and(first.locator('input'))
      .setInputFiles({ name: 'empty.txt', mimeType: 'text/plain', buffer: Buffer.alloc(0) })
    await expect(first.getByText('The file is empty (0 bytes).')).toBeVisible()
  })

  await test.step('a file is handed in for both and read in place at the desk', async () => {
    const task = { title: 'Tank report', out: true, takesText: false, takesLinks: false, takesFiles: true }
    await post(instructor, `/api/sheets/${code}/tasks`, task)
    await first.goto(`/sheets/${code}/tasks`)
    await first
      .getByLabel('Add files')
      .and(first.locator('input'))
      .setInputFiles([
        file('report.html', '<script>document.title = "run"</script> The brine cleared.'),
        { name: 'long.pdf', mimeType: 'application/pdf', buffer: pdfOf(20_000) },
      ])
    for (const name of ['report.html', 'long.pdf'])
      await expect(first.getByRole('link', { name })).toBeVisible()
    await first.getByRole('button', { name: 'Hand in for your group' }).click()
    await first.getByRole('alertdialog').getByRole('button', { name: 'Hand in' }).click()
    await expect(first.getByText('Handed in: version 1')).toBeVisible()
    await instructor.goto(`/sheets/${code}/work`)
    await instructor.getByRole('link', { name: 'To the desk' }).click()
    // Tags are shown as they stand, and nothing in them runs.
    await expect(
      instructor.getByText('<script>document.title = "run"</script> The brine cleared.'),
    ).toBeVisible()
    await expect(instructor).toHaveTitle(/Tank report/)
    // A PDF of very many pages is laid out as it is read, and says where it ends here.
    await expect(instructor.getByText('It has 20,000 pages; the first 500 can be read here')).toBeVisible()
    const pages = instructor.getByRole('img', { name: /^long.pdf, page/ })
    const drawn = (page: Locator) => page.evaluate((canvas: HTMLCanvasElement) => canvas.width)
    await expect.poll(() => drawn(pages.first())).toBeGreaterThan(0)
    const before = await pages.count()
    expect(before).toBeLessThanOrEqual(60)
    await pages.last().scrollIntoViewIfNeeded()
    await expect.poll(() => pages.count()).toBeGreaterThan(before)
    // What is far is given up again.
    await expect.poll(() => drawn(pages.first())).toBe(0)
    const other = await enterAs(browser, 'matteo.lindgren@brinemoor.example')
    await other.goto(instructor.url())
    await expect(other.getByText('Renske Okonjo is at this one too')).toBeVisible()
    await expect(instructor.getByText('Matteo Lindgren is at this one too')).toBeVisible()
  })

  await test.step('marks come in from a file, looked at first', async () => {
    await instructor.goto(`/sheets/${code}/work`)
    await instructor.getByLabel('Table of marks').setInputFiles({
      name: 'marks.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('topic,section,Tank report\nNorth tank,Tue lab,8\nEast tank,Tue lab,3'),
    })
    const dialog = instructor.getByRole('dialog', { name: 'What the file would change' })
    await expect(dialog.getByText('Line 3, topic, “East tank, Tue lab”')).toBeVisible()
    await dialog.getByRole('button', { name: /^Change 1 mark/ }).click()
    await expect(instructor.getByText('1 marked, 0 of them out')).toBeVisible()
  })
})

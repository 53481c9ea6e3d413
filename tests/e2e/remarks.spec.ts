import { randomUUID } from 'node:crypto'
import { type Browser, type BrowserContext, expect, type Page, test } from '@playwright/test'
import { PDFDocument, StandardFonts } from 'pdf-lib'
import { enterAs, INSTRUCTOR, PHONE, post, publishSheet, studentsOf } from './people.ts'

const TEXT =
  'We kept the jars at eighteen degrees. They were weighed each morning by two of us.\nAfter nine days the brine was clear. We would do it again.'

/** A sheet with one group of two, a task with criteria that takes everything, and their work with a PDF. */
async function workOf(browser: Browser, context: BrowserContext, title: string, text = TEXT) {
  const [first, second] = await studentsOf(context, 'FERM 210')
  if (!first || !second) throw new Error('the sample has two students')
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, title, [{ title: 'One shelf' }], { offers: 'course' })
  const pages = [
    await enterAs(browser, first.email, { viewport: PHONE, hasTouch: true, isMobile: true }),
    await enterAs(browser, second.email, { viewport: PHONE }),
  ] as const
  const [{ code: group }] = (await pages[0].evaluate(
    async (sheet) => (await (await fetch(`/api/sheets/${sheet}/student`)).json()).groups,
    code,
  )) as [{ code: string }]
  for (const [i, page] of pages.entries())
    await post(page, `/api/sheets/${code}/claims`, {
      key: `${randomUUID()}-${i}`,
      kind: 'take',
      to: group,
    })
  const criteria = [{ id: 'method', title: 'Method', points: 5, levels: [] }]
  const view = await post<{ tasks: { code: string }[] }>(instructor, `/api/sheets/${code}/tasks`, {
    title: 'Jar paper',
    out: true,
    takesFiles: true,
    criteria,
    answers: true,
  })
  const task = view.tasks[0]?.code ?? ''
  await pages[0].goto(`/sheets/${code}/tasks`)
  await pages[0].getByLabel('Text').fill(text)
  const paper = await PDFDocument.create()
  const font = await paper.embedFont(StandardFonts.Helvetica)
  for (const n of [1, 2]) paper.addPage([400, 500]).drawText(`Leaf ${n}`, { x: 40, y: 400, font, size: 30 })
  await pages[0].locator('input[type="file"]').setInputFiles({
    name: 'paper.pdf',
    mimeType: 'application/pdf',
    buffer: Buffer.from(await paper.save()),
  })
  await expect(pages[0].getByRole('link', { name: 'paper.pdf' })).toBeVisible()
  await handIn(pages[0])
  return { instructor, code, task, group, member: pages[0], mate: pages[1] }
}

async function handIn(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Hand in for your group' }).click()
  await page.getByRole('alertdialog').getByRole('button', { name: 'Hand in' }).click()
  await expect(page.getByText(/Handed in: version/)).toBeVisible()
}

/** Marks words of a text as a mouse does: from their first letter to their last. */
async function sweep(page: Page, words: string): Promise<void> {
  await page.getByText(words).first().waitFor()
  // Letters that come late move the words.
  await page.evaluate(() => document.fonts.ready)
  const box = await page.evaluate((wanted) => {
    const blocks = [...document.querySelectorAll('[data-start]')]
    for (const block of blocks) {
      const walk = document.createTreeWalker(block, NodeFilter.SHOW_TEXT)
      for (let node = walk.nextNode(); node; node = walk.nextNode()) {
        const at = (node as Text).data.indexOf(wanted)
        if (at < 0) continue
        const range = document.createRange()
        range.setStart(node, at)
        range.setEnd(node, at + wanted.length)
        const { left, right, top, height } = range.getBoundingClientRect()
        return { left, right, y: top + height / 2 }
      }
    }
    return null
  }, words)
  if (!box) throw new Error(`“${words}” is not there`)
  await page.mouse.move(box.left + 0.5, box.y)
  await page.mouse.down()
  await page.mouse.move(box.right - 0.5, box.y, { steps: 5 })
  await page.mouse.up()
}

test('a passage and a place on a page are remarked on, read on a phone once the mark is out, and answered once', async ({
  browser,
  context,
}) => {
  const { instructor, code, task, group, member, mate } = await workOf(browser, context, 'Remarked jars')
  await instructor.goto(`/sheets/${code}/tasks/${task}/desk`)
  const list = instructor.getByRole('list', { name: 'Remarks', exact: true })
  await expect(list).toContainText('What you say of a place stands here')

  await test.step('a passage is marked with the mouse, and what is written survives a reload', async () => {
    await sweep(instructor, 'eighteen degrees')
    await instructor.getByRole('button', { name: 'Remark on this' }).click()
    await expect(instructor.getByRole('textbox', { name: 'Remark' })).toBeFocused()
    await instructor.keyboard.type('In the air, or in the brine?')
    await instructor.reload()
    await expect(instructor.getByRole('textbox', { name: 'Remark' })).toHaveValue(
      'In the air, or in the brine?',
    )
    await instructor.getByLabel('Criterion').selectOption('Method')
    await instructor.getByLabel('Points, with a minus').fill('-1')
    await instructor.keyboard.press('Control+Enter')
    await expect(list.getByRole('article', { name: 'Remark 1' })).toContainText('Method −1')
    await expect(instructor.locator('mark')).toHaveText('eighteen degrees')
  })

  await test.step('a part of a page is marked by dragging, moved by keys, and an undo takes it back', async () => {
    const page = instructor.getByRole('img', { name: 'paper.pdf, page 1 of 2' })
    await page.scrollIntoViewIfNeeded()
    const box = await page.boundingBox()
    if (!box) throw new Error('the page is not drawn')
    await instructor.mouse.move(box.x + 30, box.y + 30)
    await instructor.mouse.down()
    await instructor.mouse.move(box.x + 200, box.y + 80, { steps: 5 })
    await instructor.mouse.up()
    await instructor.getByRole('textbox', { name: 'Remark' }).fill('A good title.')
    const made = instructor.getByRole('button', { name: /The place on page 1 of paper.pdf/ })
    const before = await made.boundingBox()
    await made.focus()
    await instructor.keyboard.press('ArrowRight')
    await instructor.keyboard.press('Shift+ArrowRight')
    const now = async () => (await made.boundingBox()) ?? { x: 0, width: 0 }
    await expect.poll(async () => (await now()).x).toBeGreaterThan(before?.x ?? 0)
    await expect.poll(async () => (await now()).width).toBeGreaterThan(before?.width ?? 0)
    await instructor.getByRole('button', { name: 'Remark', exact: true }).click()
    await expect(list.getByRole('article', { name: 'Remark 2' })).toContainText('A good title.')
    await instructor.locator('body').press('Control+z')
    await expect(list.getByRole('article')).toHaveCount(1)
    await instructor.locator('body').press('Control+Shift+z')
    await expect(list.getByRole('article', { name: 'Remark 2' })).toContainText('A good title.')
  })

  await test.step('what the remarks come to is given on a press, and the mark goes out', async () => {
    await instructor.getByRole('button', { name: 'give 4' }).click()
    await expect(instructor.getByText(/Saved. Marked by/)).toBeVisible()
    await instructor.locator('section[aria-label="The work"] input[type="file"]').setInputFiles({
      name: 'by hand.txt',
      mimeType: 'text/plain',
      buffer: Buffer.from('Look at the second leaf again.'),
    })
    await expect(instructor.getByRole('link', { name: 'by hand.txt' })).toBeVisible()
    // Before that, nobody else learns of it.
    await mate.goto(`/sheets/${code}/tasks/${task}/remarks/${group}`)
    await expect(
      mate.getByText('There are no remarks for you here, or not yet.', { exact: false }),
    ).toBeVisible()
    await instructor.getByRole('button', { name: 'Release this one' }).click()
    await expect(instructor.getByRole('button', { name: 'Hide this one' })).toBeVisible()
  })

  await test.step('on a phone each remark stands after its lines or page, and is answered once', async () => {
    await member.goto(`/sheets/${code}/tasks`)
    await expect(member.getByRole('link', { name: 'by hand.txt' })).toBeVisible()
    await member.getByRole('link', { name: 'Read 2 remarks on the work' }).click()
    await expect(member.getByRole('heading', { name: 'Remarks on your group’s work' })).toBeVisible()
    const first = member.getByRole('article', { name: 'Remark 1' })
    await expect(first).toContainText('In the air, or in the brine?')
    await first.getByRole('button', { name: 'Answer' }).tap()
    await first.getByLabel('Your answer to remark 1').fill('In the brine.')
    await member.reload()
    await expect(first.getByLabel('Your answer to remark 1')).toHaveValue('In the brine.')
    await first.getByRole('button', { name: 'Send answer' }).tap()
    await expect(first.getByRole('list', { name: 'Answers' })).toContainText('In the brine.')
    await expect(first.getByRole('button', { name: 'Answer' })).toHaveCount(0)
    await member.getByRole('button', { name: 'Remark 2', exact: true }).tap()
    await expect(member.getByRole('article', { name: 'Remark 2' })).toContainText('A good title.')
    const wide = await member.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)
    expect(wide).toBeLessThanOrEqual(0)
    const saved = member.waitForEvent('download')
    await member.getByRole('link', { name: 'Download with remarks (PDF)' }).tap()
    expect((await saved).suggestedFilename()).toBe('Jar-paper-One-shelf-with-remarks.pdf')
  })

  await test.step('the answer stands at the desk', async () => {
    await instructor.reload()
    await expect(list.getByRole('article', { name: 'Remark 1' })).toContainText('In the brine.')
    await instructor.goto(`/sheets/${code}/work`)
    await expect(instructor.getByText('1 answer to a remark')).toBeVisible()
  })
})

test('by keyboard alone a sentence is remarked on; a further version keeps what still stands, the rest is found', async ({
  browser,
  context,
}) => {
  const { instructor, code, task, member } = await workOf(browser, context, 'Jars twice')
  await instructor.goto(`/sheets/${code}/tasks/${task}/desk`)
  const text = instructor.getByRole('group', { name: /^What was written/ })
  const list = instructor.getByRole('list', { name: 'Remarks', exact: true })
  const say = async (words: string) => {
    await expect(instructor.getByRole('textbox', { name: 'Remark' })).toBeFocused()
    await instructor.keyboard.type(words)
    await instructor.keyboard.press('Control+Enter')
    await expect(list).toContainText(words)
  }
  await text.focus()
  await instructor.keyboard.press('ArrowRight')
  await instructor.keyboard.press('Enter')
  await say('Which jars?')
  await text.focus()
  for (let i = 0; i < 3; i++) await instructor.keyboard.press('ArrowRight')
  await instructor.keyboard.press('r')
  await say('Clear to whom?')
  await expect(instructor.locator('mark')).toHaveText([
    'We kept the jars at eighteen degrees.',
    'After nine days the brine was clear.',
  ])
  // A place on a page, without a mouse.
  await instructor.getByRole('button', { name: 'Remark on page 2 of paper.pdf' }).focus()
  await instructor.keyboard.press('Enter')
  await say('Turn this leaf.')

  await member.getByText('Another version, or withdraw').click()
  await member.getByLabel('Text').fill(`A preface.\n\n${TEXT.replace('was clear', 'was bright')}`)
  await member.getByRole('button', { name: 'Hand in for your group' }).click()
  await member.getByRole('alertdialog').getByRole('button', { name: 'Hand in' }).click()
  await expect(member.getByText('Handed in: version 2')).toBeVisible()
  await instructor.reload()
  await expect(list.getByRole('article', { name: 'Remark 1' })).toContainText('Which jars?')
  await expect(instructor.locator('mark')).toHaveText('We kept the jars at eighteen degrees.')
  const elsewhere = instructor.getByRole('region', { name: 'Not in this version' })
  await expect(elsewhere).toContainText('Clear to whom?')
  await elsewhere.getByRole('button', { name: 'Show it there' }).first().click()
  await expect(instructor.getByLabel('Version')).toHaveValue('1')
  await expect(list.getByRole('article')).toHaveCount(3)
})

test('two who mark the same work: a remark changed or removed by the other is asked about; offline nothing is lost', async ({
  browser,
  context,
}) => {
  const { instructor, code, task, member } = await workOf(browser, context, 'Jars by two')
  const other = await enterAs(browser, INSTRUCTOR)
  const desk = `/sheets/${code}/tasks/${task}/desk`
  const field = (page: Page) => page.getByRole('textbox', { name: 'Remark' })
  const save = (page: Page) => page.getByRole('button', { name: /^(Remark|Save remark)$/ })
  const said = (page: Page, n: number) => page.getByRole('article', { name: `Remark ${n}`, exact: true })
  await instructor.goto(desk)
  await sweep(instructor, 'nine days')
  await instructor.keyboard.press('r')
  await field(instructor).fill('Ten, I think.')
  await instructor.context().setOffline(true)
  await save(instructor).click()
  await expect(instructor.getByText('The server cannot be reached.', { exact: false }).first()).toBeVisible()
  await instructor.context().setOffline(false)
  await save(instructor).click()
  await expect(said(instructor, 1)).toContainText('Ten, I think.')

  await other.goto(desk)
  await other.getByRole('button', { name: 'Edit remark 1' }).click()
  await field(other).fill('Eleven?')
  await instructor.getByRole('button', { name: 'Edit remark 1' }).click()
  await field(instructor).fill('Ten, by the log.')
  await save(instructor).click()
  await expect(said(instructor, 1)).toContainText('Ten, by the log.')
  await save(other).click()
  await expect(other.getByText('reads now: “Ten, by the log.”', { exact: false })).toBeVisible()
  await other.getByRole('button', { name: 'Keep what I write' }).click()
  await save(other).click()
  await expect(said(other, 1)).toContainText('Eleven?')

  await other.getByRole('button', { name: 'Edit remark 1' }).click()
  await expect(said(instructor, 1)).toContainText('Eleven?')
  await instructor.getByRole('button', { name: 'Remove remark 1' }).click()
  await expect(said(instructor, 1)).toHaveCount(0)
  await other.getByRole('button', { name: 'Save as a new remark' }).click()
  await save(other).click()
  await expect(said(other, 1)).toContainText('Eleven?')

  // The group takes its work back while something is written on it.
  await sweep(instructor, 'two of us')
  await instructor.keyboard.press('r')
  await field(instructor).fill('Which two?')
  await member.getByText('Another version, or withdraw').click()
  await member.getByRole('button', { name: 'Withdraw' }).click()
  await member.getByRole('alertdialog').getByRole('button', { name: 'Withdraw' }).click()
  await save(instructor).click()
  await expect(instructor.getByText('Version 1 was withdrawn', { exact: false })).toBeVisible()
  await expect(field(instructor)).toHaveValue('Which two?')
})

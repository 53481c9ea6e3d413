import { expect, test } from '@playwright/test'
import {
  daysFromNow,
  enterAs,
  INSTRUCTOR,
  PHONE,
  post,
  publishSheet,
  send,
  studentsOf,
  TUTOR,
} from './people.ts'

interface Group {
  code: string
  title: string
}

test('a talk is marked on a phone without a connection, reloaded there, while another marks the same; the mark stays with who was there', async ({
  browser,
  context,
}) => {
  const [first, second] = await studentsOf(context, 'FERM 210')
  const desk = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(desk, 'Jar talks', [{ title: 'North shelf' }, { title: 'South shelf' }])
  const student = await enterAs(browser, first?.email ?? '', { viewport: PHONE })
  const mate = await enterAs(browser, second?.email ?? '', { viewport: PHONE })
  const groups = (await student.evaluate(
    async (sheet) => (await (await fetch(`/api/sheets/${sheet}/student`)).json()).groups,
    code,
  )) as Group[]
  const north = groups.find(({ title }) => title === 'North shelf')?.code ?? ''
  const south = groups.find(({ title }) => title === 'South shelf')?.code ?? ''
  await post(student, `/api/sheets/${code}/claims`, { key: 'talks-first-1', kind: 'take', to: north })
  await post(mate, `/api/sheets/${code}/claims`, { key: 'talks-mate-1', kind: 'take', to: north })

  await test.step('a task without a hand-in is set', async () => {
    await desk.goto(`/sheets/${code}/work`)
    await desk.getByRole('button', { name: 'Set a task' }).click()
    const dialog = desk.getByRole('dialog', { name: 'Set a task' })
    await dialog.getByLabel('Title').fill('Jar talk')
    await dialog.getByLabel('nothing: it takes place, such as a talk').check()
    await expect(dialog.getByLabel('Late work')).toHaveCount(0)
    await dialog.getByLabel('Takes place', { exact: true }).fill(daysFromNow(1))
    for (const [i, name] of ['One could follow', 'Answers'].entries()) {
      await dialog.getByRole('button', { name: 'Add a criterion' }).click()
      await dialog.getByLabel(`Criterion ${i + 1}`, { exact: true }).fill(name)
    }
    await dialog.getByRole('button', { name: 'Set the task' }).click()
    await expect(desk.getByText('0 of 1 took place; nothing is handed in')).toBeVisible()
  })

  await test.step('its students see it, and nothing to hand in', async () => {
    await student.goto(`/sheets/${code}/tasks`)
    const task = student.getByRole('article', { name: 'Jar talk' })
    await expect(task.getByText('Nothing to hand in')).toBeVisible()
    await expect(task.getByRole('button', { name: /Hand in/ })).toHaveCount(0)
  })

  const phone = await enterAs(browser, INSTRUCTOR, {
    viewport: PHONE,
    hasTouch: true,
    serviceWorkers: 'allow',
  })
  await test.step('the phone marks without a connection, and a reload there loses nothing', async () => {
    await phone.goto(`/sheets/${code}/work`)
    // The service worker has the page’s files once it runs and the desk was opened.
    await phone.evaluate(() => navigator.serviceWorker.ready)
    await phone.getByRole('link', { name: 'To the desk' }).click()
    await expect(phone.getByRole('heading', { name: /North shelf/ })).toBeVisible()
    await phone.reload()
    await expect(phone.getByRole('slider', { name: 'One could follow' })).toBeVisible()
    await phone.context().setOffline(true)
    await phone.getByRole('slider', { name: 'One could follow' }).press('4')
    await phone.getByLabel('Feedback').fill('Clear from the first jar.')
    await expect(phone.getByText('No connection. What you mark is kept', { exact: false })).toBeVisible()
    await phone.reload()
    await expect(phone.getByRole('slider', { name: 'One could follow' })).toHaveAttribute(
      'aria-valuenow',
      '4',
    )
    await expect(phone.getByLabel('Feedback')).toHaveValue('Clear from the first jar.')
  })

  await test.step('somebody else marks the same meanwhile, and neither is lost', async () => {
    await desk.getByRole('link', { name: 'To the desk' }).click()
    await desk.getByRole('slider', { name: 'Answers' }).press('3')
    await expect(desk.getByText(/^Saved\. Marked by/)).toBeVisible()
    await phone.context().setOffline(false)
    await expect(phone.getByText(/^Saved\. Marked by/)).toBeVisible()
    for (const page of [phone, desk]) {
      await expect(page.getByRole('slider', { name: 'One could follow' })).toHaveAttribute(
        'aria-valuenow',
        '4',
      )
      await expect(page.getByRole('slider', { name: 'Answers' })).toHaveAttribute('aria-valuenow', '3')
    }
    await expect(desk.getByLabel('Feedback')).toHaveValue('Clear from the first jar.')
  })

  await test.step('who moves away keeps the mark, and who was away is taken out with a reason', async () => {
    const { people } = await desk.evaluate(
      async (sheet) => (await fetch(`/api/sheets/${sheet}/run`)).json(),
      code,
    )
    const codeOf = (name: string) => people.find((one: { name: string }) => one.name === name)?.code
    await send(desk, 'POST', `/api/sheets/${code}/seatings`, {
      changes: [{ person: codeOf(first?.name ?? ''), from: north, to: south }],
      confirmed: true,
    })
    await desk.goto(`${desk.url().split('?')[0]}?pile=${north}`)
    await expect(desk.getByText('The mark is for them, whoever sits in the group later.')).toBeVisible()
    await desk.getByRole('button', { name: 'Correct who was there' }).click()
    const dialog = desk.getByRole('dialog', { name: /Who was there of North shelf/ })
    await expect(dialog.getByRole('button', { name: 'Save who was there' })).toBeDisabled()
    await dialog.getByRole('checkbox', { name: second?.name ?? '' }).uncheck()
    await dialog.getByLabel('Reason').fill('Was ill that day')
    await dialog.getByRole('button', { name: 'Save who was there' }).click()
    await expect(dialog).toHaveCount(0)
    await desk.getByRole('button', { name: /^Release 1 mark/ }).click()
    await desk.getByRole('alertdialog').getByRole('button', { name: 'Release 1 mark' }).click()
    await expect(desk.getByText('The marks are out', { exact: false })).toBeVisible()
    await student.reload()
    // Both groups’ entries are theirs: the mark stands with the one they spoke with.
    await expect(student.getByText('Clear from the first jar.')).toBeVisible()
    await mate.goto(`/sheets/${code}/tasks`)
    await expect(mate.getByRole('article', { name: 'Jar talk' })).toBeVisible()
    await expect(mate.getByText('Clear from the first jar.')).toHaveCount(0)
    await desk.goto(`/sheets/${code}/ledger`)
    await expect(desk.getByText(/was not there \(Was ill that day\)/)).toBeVisible()
  })
})

test('one group quietly has another date, fewer words and another text; the other learns nothing of it', async ({
  browser,
  context,
}) => {
  const [first, second] = await studentsOf(context, 'FERM 210')
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'Shelf notes', [
    { title: 'Upper shelf' },
    { title: 'Lower shelf' },
  ])
  const here = await enterAs(browser, first?.email ?? '', { viewport: PHONE })
  const there = await enterAs(browser, second?.email ?? '', { viewport: PHONE })
  const groups = (await here.evaluate(
    async (sheet) => (await (await fetch(`/api/sheets/${sheet}/student`)).json()).groups,
    code,
  )) as Group[]
  const codeOf = (title: string) => groups.find((one) => one.title === title)?.code ?? ''
  await post(here, `/api/sheets/${code}/claims`, {
    key: 'shelf-notes-1',
    kind: 'take',
    to: codeOf('Upper shelf'),
  })
  await post(there, `/api/sheets/${code}/claims`, {
    key: 'shelf-notes-2',
    kind: 'take',
    to: codeOf('Lower shelf'),
  })
  await post(instructor, `/api/sheets/${code}/tasks`, {
    title: 'Shelf note',
    instructions: 'A page.',
    dueAt: daysFromNow(2),
    out: true,
  })
  await instructor.goto(`/sheets/${code}/work`)
  await instructor.getByRole('button', { name: 'Let it differ' }).click()
  const dialog = instructor.getByRole('dialog', { name: /What differs in “Shelf note”/ })
  await expect(dialog.getByText('Tick for whom it differs.')).toBeVisible()
  await dialog.getByRole('checkbox', { name: 'Upper shelf Tue lab' }).check()
  await dialog.getByLabel('other dates').check()
  await dialog.getByLabel('Due', { exact: true }).fill(daysFromNow(9))
  await dialog.getByLabel('another text').check()
  await dialog.getByLabel('Instructions for them').fill('Half a page will do.')
  await dialog.getByLabel('another form or size').check()
  await dialog.getByLabel('Words at most').fill('4')
  await dialog.getByRole('button', { name: 'Save the difference' }).click()
  await expect(dialog.getByText(/handed in as text or links, 4 words at most/)).toBeVisible()
  await dialog.getByRole('button', { name: 'Close' }).click()
  await expect(instructor.getByRole('button', { name: 'Differs (1)' })).toBeVisible()

  await here.goto(`/sheets/${code}/tasks`)
  await expect(here.getByText('Half a page will do.')).toBeVisible()
  await here.getByLabel('Text').fill('one two three four five')
  await expect(here.getByText('5 words; 4 are the most', { exact: false })).toBeVisible()
  await expect(here.getByRole('button', { name: 'Hand in for your group' })).toBeDisabled()
  await here.getByLabel('Text').fill('one two three four')
  await expect(here.getByText('4 of 4 words')).toBeVisible()
  await expect(here.getByRole('button', { name: 'Hand in for your group' })).toBeEnabled()

  await there.goto(`/sheets/${code}/tasks`)
  await expect(there.getByText('A page.')).toBeVisible()
  await expect(there.getByText('Half a page')).toHaveCount(0)
  await expect(there.getByText(/words/)).toHaveCount(0)

  await instructor.getByRole('button', { name: 'Differs (1)' }).click()
  await dialog.getByRole('button', { name: /^End/ }).click()
  await expect(dialog.getByText('The task is the same for everybody.')).toBeVisible()
  await here.reload()
  await expect(here.getByText('A page.')).toBeVisible()
})

test('members say in private how the work was shared, and the desk shows it beside the mark', async ({
  browser,
  context,
}) => {
  const three = (await studentsOf(context, 'FERM 210')).slice(0, 3)
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'Shared jars', [{ title: 'One shelf' }], { offers: 'course' })
  const pages = await Promise.all(three.map(({ email }) => enterAs(browser, email, { viewport: PHONE })))
  const [first, second] = pages
  if (!first || !second) throw new Error('the sample has three students')
  const groups = (await first.evaluate(
    async (sheet) => (await (await fetch(`/api/sheets/${sheet}/student`)).json()).groups,
    code,
  )) as Group[]
  const group = groups[0]?.code ?? ''
  for (const [i, page] of pages.entries())
    await post(page, `/api/sheets/${code}/claims`, { key: `shared-jars-${i}`, kind: 'take', to: group })
  await instructor.goto(`/sheets/${code}/work`)
  await instructor.getByRole('button', { name: 'Set a task' }).click()
  const dialog = instructor.getByRole('dialog', { name: 'Set a task' })
  await dialog.getByLabel('Title').fill('Jar paper')
  await dialog.getByLabel('How the work was shared among them').selectOption('own')
  await dialog.getByRole('button', { name: 'Set the task' }).click()
  await expect(instructor.getByRole('heading', { name: 'Jar paper' })).toBeVisible()

  await first.goto(`/sheets/${code}/tasks`)
  await expect(first.getByText('How was the work shared?')).toHaveCount(0)
  await first.getByLabel('Text').fill('We shared it.')
  await first.getByRole('button', { name: 'Hand in for your group' }).click()
  await first.getByRole('alertdialog').getByRole('button', { name: 'Hand in' }).click()
  await expect(first.getByText('How was the work shared?')).toBeVisible()
  const name = three[1]?.name ?? ''
  await first.getByRole('button', { name: `One point more for ${name}` }).click()
  await expect(first.getByText('1 points too many.')).toBeVisible()
  await expect(first.getByRole('button', { name: 'Send in private' })).toBeDisabled()
  await first.getByRole('button', { name: `One point less for ${three[2]?.name}` }).click()
  await first.getByLabel('A word to your instructors').fill('The weighing was hers.')
  await first.getByRole('button', { name: 'Send in private' }).click()
  await expect(first.getByText('you have said')).toBeVisible()

  await second.goto(`/sheets/${code}/tasks`)
  await expect(second.getByText('you are asked')).toBeVisible()
  await expect(second.getByText('The weighing was hers.')).toHaveCount(0)

  await instructor.getByRole('link', { name: 'To the desk' }).click()
  await expect(instructor.getByRole('heading', { name: 'How the work was shared' })).toBeVisible()
  await expect(instructor.getByText('“The weighing was hers.”', { exact: false })).toBeVisible()
  await expect(instructor.getByText('1 of 3 have said.', { exact: false })).toBeVisible()
})

test('how the work comes in is a curve and a table, and whoever has not begun is nudged in one go', async ({
  browser,
  context,
}) => {
  const [first, second] = await studentsOf(context, 'FERM 210')
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'Slow jars', [{ title: 'Upper' }, { title: 'Lower' }], {
    offers: 'course',
  })
  const pages = [
    await enterAs(browser, first?.email ?? '', { viewport: PHONE }),
    await enterAs(browser, second?.email ?? '', { viewport: PHONE }),
  ] as const
  const groups = (await pages[0].evaluate(
    async (sheet) => (await (await fetch(`/api/sheets/${sheet}/student`)).json()).groups,
    code,
  )) as Group[]
  for (const [i, page] of pages.entries())
    await post(page, `/api/sheets/${code}/claims`, {
      key: `slow-jars-${i}`,
      kind: 'take',
      to: groups[i]?.code,
    })
  await post(instructor, `/api/sheets/${code}/tasks`, {
    title: 'Slow paper',
    dueAt: daysFromNow(2),
    out: true,
  })
  await instructor.goto(`/sheets/${code}/work`)
  await expect(instructor.getByText('2 have not begun', { exact: false })).toBeVisible()
  // Writing is a beginning; handing in is one on the curve.
  await pages[0].goto(`/sheets/${code}/tasks`)
  await pages[0].getByLabel('Text').fill('A beginning.')
  await expect(pages[0].getByText(/^Saved/)).toBeVisible()
  await instructor.reload()
  await expect(instructor.getByText('1 has not begun', { exact: false })).toBeVisible()
  await pages[0].getByRole('button', { name: 'Hand in for your group' }).click()
  await pages[0].getByRole('alertdialog').getByRole('button', { name: 'Hand in' }).click()
  await expect(instructor.getByText('1 of 2 handed in, due', { exact: false })).toBeVisible()
  await instructor
    .getByRole('region', { name: 'How the work comes in' })
    .getByRole('button', { name: 'As a table' })
    .click()
  await expect(instructor.getByRole('table', { name: 'Handed in by the end of each day' })).toContainText('1')

  await instructor.getByRole('button', { name: 'Nudge those who have not begun' }).click()
  const dialog = instructor.getByRole('dialog', { name: 'Nudge 1 person' })
  await expect(dialog.getByLabel('Subject')).toHaveValue('“Slow paper” waits')
  await dialog.getByRole('button', { name: 'Send to 1' }).click()
  await expect(instructor.getByText('Sent to 1.')).toBeVisible()
  await instructor.goto('/outbox')
  await expect(instructor.getByText('“Slow paper” waits').first()).toBeVisible()
})

test('marked works are drawn for a second reading, read without the first mark, and compared', async ({
  browser,
}) => {
  const owner = await enterAs(browser, 'matteo.lindgren@brinemoor.example')
  const { courses } = await owner.evaluate(() => fetch('/api/courses').then((answer) => answer.json()))
  const past = courses.find(({ courseCode }: { courseCode: string }) => courseCode === 'FERM 210-T')
  const code = past.sheets[0].code
  await owner.goto(`/sheets/${code}/work`)
  await owner.getByRole('button', { name: 'Draw a second reading' }).click()
  const dialog = owner.getByRole('dialog', { name: 'Draw a second reading' })
  await dialog.getByLabel('Task').selectOption({ label: 'Starter report' })
  await dialog.getByLabel('Read by').selectOption({ label: 'Yuki Tanabe-Holm' })
  await dialog.getByLabel('How many').fill('2')
  await dialog.getByRole('button', { name: 'Draw them' }).click()
  await expect(owner.getByText('None of them is read a second time yet.')).toBeVisible()
  await expect(owner.getByText(/2 drawn, lot number \d+/)).toBeVisible()

  const reader = await enterAs(browser, TUTOR)
  await reader.goto(`/sheets/${code}/work`)
  await expect(reader.getByText('2 of “Starter report” wait for your second reading.')).toBeVisible()
  await reader.getByRole('link', { name: 'To the second reading' }).click()
  await expect(reader.getByText('0 of 2 marked')).toBeVisible()
  await expect(reader.getByLabel('Feedback')).toHaveValue('')
  await expect(reader.getByText('set apart')).toHaveCount(0)
  for (const line of await reader.getByRole('slider').all()) await line.press('3')
  await expect(reader.getByText('Saved. It changes no mark.')).toBeVisible()
  await expect(reader.getByText('1 of 2 marked')).toBeVisible()

  await owner.reload()
  await expect(owner.getByText(/^1 read twice: the second is on average/)).toBeVisible()
  await owner.getByRole('button', { name: 'End the 1 that is not read' }).click()
  await expect(owner.getByText(/1 drawn, lot number/)).toBeVisible()
})

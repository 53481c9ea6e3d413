import { expect, type Page, test } from '@playwright/test'
import type { WishesView } from '../../src/contract/wishes.ts'
import { closeNow, enterAs, INSTRUCTOR, PHONE, publishSheet, send, studentsOf } from './people.ts'

const TOPICS = ['Rye kvass', 'Beet kvass', 'Tepache', 'Mead'].map((title) => ({
  title,
  brief: `All of ${title}.`,
}))
const RULES = {
  road: 'wished',
  wishWorth: 'odds',
  wishesLeast: 2,
  wishesMost: 4,
  cannotMost: 1,
  matesMost: 1,
  seats: 40,
  floor: 1,
}
const PHONE_WITH_FINGER = { viewport: PHONE, hasTouch: true, isMobile: true }

/** Where few can have what is wanted most. */
const FEW_MEAD = TOPICS.map((topic) => (topic.title === 'Mead' ? { ...topic, seats: 2 } : topic))

const rows = (page: Page) => page.getByRole('region', { name: 'Your order' }).getByRole('listitem')
const order = async (page: Page) =>
  (await rows(page).evaluateAll((all) =>
    all.flatMap((one) => one.getAttribute('aria-label') ?? []),
  )) as string[]
const saved = (page: Page) =>
  expect(page.getByRole('complementary', { name: 'What is kept' })).toContainText(/Saved \w{3} \d/)
const add = (page: Page, title: string) => page.getByRole('button', { name: `Add ${title}` })

test('a student ranks on a phone: by pressing in order, by the menu, by keys; what cannot be, with a reason', async ({
  browser,
  context,
}) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'Drinks by wish', TOPICS, RULES)
  const [person] = await studentsOf(context, 'FERM 210')
  const student = await enterAs(browser, person!.email, PHONE_WITH_FINGER)
  await student.goto('/')
  const stub = student.getByRole('link', { name: /Drinks by wish/ })
  await expect(stub).toContainText('4 topics, none ranked yet')
  await stub.tap()
  const bar = student.getByRole('complementary', { name: 'What is kept' })
  await expect(bar).toContainText('You have ranked nothing yet')
  await add(student, 'Tepache').tap()
  await expect(bar).toContainText('It counts with one topic more')
  await saved(student)
  // Chances are asked for once an order that counts is kept: lots that were drawn before would say nothing of it.
  const first = student.waitForResponse((answer) => answer.url().endsWith('/odds'))
  await add(student, 'Mead').tap()
  const { version } = (await (await first).json()) as { version: number | null }
  expect(version).toBeGreaterThan(1)
  await add(student, 'Rye kvass').tap()
  await expect(bar).toContainText('Your order counts')
  await saved(student)
  expect(await order(student)).toEqual(['1: Tepache', '2: Mead', '3: Rye kvass'])
  await expect(bar).toContainText('Chance of your first: nearly certain')
  await bar.getByRole('button', { name: 'How?' }).tap()
  await expect(bar).toContainText(/\d+ lots were drawn .* to your first wish in 100 %/)

  await student.getByRole('button', { name: 'Change where Rye kvass stands' }).tap()
  await student.getByRole('menuitem', { name: 'As good as the one above' }).tap()
  await expect(student.getByText('either is fine')).toBeVisible()
  expect(await order(student)).toEqual(['1: Tepache', '2: Mead', '2: Rye kvass'])
  // By keys: picked up, moved, put down.
  const grip = student.getByRole('button', { name: 'Move Tepache', exact: true })
  await grip.focus()
  await student.keyboard.press('Alt+ArrowDown')
  await expect.poll(() => order(student)).toEqual(['1: Mead', '1: Tepache', '1: Rye kvass'])
  await student.getByRole('button', { name: 'Change where Mead stands' }).tap()
  await student.getByRole('menuitem', { name: 'Give it a number of its own' }).tap()
  await expect.poll(() => order(student)).toEqual(['1: Tepache', '1: Rye kvass', '2: Mead'])

  await student.getByRole('button', { name: 'I cannot have Beet kvass' }).tap()
  await expect(bar).toContainText('Saved, but for what has no reason yet')
  await student.getByLabel('Why you cannot have Beet kvass').fill('beets disagree with me')
  await saved(student)
  await student.reload()
  await expect.poll(() => order(student)).toEqual(['1: Tepache', '1: Rye kvass', '2: Mead'])
  await expect(student.getByLabel('Why you cannot have Beet kvass')).toHaveValue('beets disagree with me')

  await test.step('a mate counts once both have named each other', async () => {
    const mate = (await studentsOf(context, 'FERM 210'))[1]!
    await student.getByLabel('Mail address of a mate').fill(mate.email.toUpperCase())
    await student.getByRole('button', { name: 'Name them' }).tap()
    await student.getByRole('radio', { name: /^being together/ }).check()
    await saved(student)
    await expect(student.getByText('It does not count yet')).toBeVisible()
    const other = await enterAs(browser, mate.email, PHONE_WITH_FINGER)
    await other.goto(`/sheets/${code}`)
    await expect(other.getByText(person!.email)).toHaveCount(0)
    await other.getByLabel('Mail address of a mate').fill(person!.email)
    await other.getByRole('button', { name: 'Name them' }).tap()
    await expect(other.getByText(/Together with .*, who named you too/)).toBeVisible()
    await student.reload()
    await expect(student.getByText(/Together with .*, who named you too/)).toBeVisible()
  })
  await test.step('offline it is kept here, and sent once there is a connection', async () => {
    await student.context().setOffline(true)
    await student.getByRole('button', { name: 'Change where Mead stands' }).tap()
    await student.getByRole('menuitem', { name: 'Want it most' }).tap()
    await expect(bar).toContainText('Not saved yet, trying again.')
    await student.context().setOffline(false)
    await saved(student)
  })
  await test.step('two tabs: neither overwrites the other unasked', async () => {
    const other = await student.context().newPage()
    await other.goto(`/sheets/${code}`)
    await expect.poll(() => order(other)).toEqual(['1: Mead', '2: Tepache', '2: Rye kvass'])
    await other.getByRole('button', { name: 'Change where Mead stands' }).click()
    await other.getByRole('menuitem', { name: 'Take it out of the order' }).click()
    await saved(other)
    await student.getByRole('button', { name: 'Change where Mead stands' }).tap()
    await student.getByRole('menuitem', { name: 'Move down' }).tap()
    await expect(student.getByRole('alert')).toContainText('Your order was changed elsewhere')
    await student.getByRole('button', { name: 'Use the other' }).tap()
    await expect.poll(() => order(student)).toEqual(['1: Tepache', '1: Rye kvass'])
  })
})

test('an instructor sees the demand, what would help and a forecast, compares the aims, and everybody is told why', async ({
  browser,
  context,
}) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'Drinks for all', FEW_MEAD, RULES)
  const people = await studentsOf(context, 'FERM 210')
  const { topics } = (await instructor.evaluate(
    (sheet) => fetch(`/api/sheets/${sheet}/run`).then((answer) => answer.json()),
    code,
  )) as { topics: { code: string; title: string }[] }
  const codeOf = (title: string) => topics.find((one) => one.title === title)?.code ?? ''
  const ranks = (...titles: string[]) => titles.map((title) => [codeOf(title)])
  const ranked: Page[] = []
  for (const { email } of people.slice(0, 14)) {
    const page = await enterAs(browser, email, { viewport: PHONE })
    await send(page, 'PUT', `/api/sheets/${code}/wishes`, {
      ranks: ranks('Mead', 'Tepache', 'Rye kvass'),
      cannot: [],
      over: 0,
    })
    if (ranked.length < 2) ranked.push(page)
    else await page.context().close()
  }
  await instructor.goto(`/sheets/${code}/run`)
  const column = instructor.getByRole('region', { name: 'Wishes' })
  await expect(column).toContainText(/of \d+ have ranked nothing, or too little/)
  await expect(column.getByRole('definition').filter({ hasText: /^\d+$/ }).first()).toBeVisible()
  const cell = instructor.getByRole('button', { name: /^Mead, Tue lab: .* first wishes, 0 second/ })
  await cell.click()
  const panel = instructor.getByRole('complementary', { name: 'Group' })
  await expect(panel.getByRole('region', { name: 'What would help' })).toContainText(
    'A further group of Mead',
  )
  await expect(panel).toContainText('better off')
  await column.getByRole('button', { name: 'Who ranked what' }).click()
  const who = instructor.getByRole('dialog', { name: 'Who ranked what' })
  await who.getByLabel('Search people and topics').fill(people[0]!.name)
  await expect(who.getByRole('row')).toHaveCount(2)
  await expect(who).toContainText('1 Mead')
  await instructor.keyboard.press('Escape')
  await column.getByRole('button', { name: /^Nudge \d+ by mail/ }).click()
  await expect(instructor.getByRole('dialog')).toContainText(/Ranked nothing, or too little \(\d+\)/)
  await instructor.keyboard.press('Escape')

  await test.step('closed, the aims are compared and one is applied', async () => {
    await closeNow(instructor, code)
    await instructor.goto(`/sheets/${code}/settle`)
    await expect(instructor.getByText('each is the best there is for its aim')).toBeVisible()
    await instructor.getByRole('radio', { name: /^Nobody far down/i }).check()
    await expect(instructor.getByRole('table', { name: 'Moves' })).toContainText('ranked nothing')
    await instructor
      .getByRole('button', { name: /^second wish\s?: why .* has no better one$/ })
      .first()
      .click()
    const why = instructor.getByRole('dialog', { name: /^Why .* has no better wish$/ })
    await expect(why).toContainText(/Mead had 2 seats and \d+ first wishes; .*In the lot they were \d+/)
    await instructor.keyboard.press('Escape')
    await instructor.getByRole('button', { name: /^Apply \d+ moves$/ }).click()
    await instructor
      .getByRole('alertdialog')
      .getByRole('button', { name: /^Apply \d+ moves$/ })
      .click()
    await expect(instructor.getByRole('button', { name: 'Hand it out to students' })).toBeVisible()
    await instructor.getByRole('button', { name: 'Hand it out to students' }).click()
    await expect(instructor.getByRole('button', { name: 'Withdraw it from students' })).toBeVisible()
  })
  await test.step('a student reads which wish it was, why not a better one, and can save the record', async () => {
    const [student] = ranked as [Page, Page]
    await student.goto(`/sheets/${code}`)
    await expect(
      student.getByRole('heading', {
        name: /^You were given (your \w+ wish|a seat that is none of your wishes)$/,
      }),
    ).toBeVisible()
    await student.getByText('How it was decided').click()
    await expect(student.getByText(/in the lot you were \d+\w\w of \d+/)).toBeVisible()
    const download = student.waitForEvent('download')
    await student.getByRole('button', { name: 'Save the record' }).click()
    expect((await download).suggestedFilename()).toBe('wishes.json')
    await expect(student.getByRole('region', { name: 'Your order' }).getByRole('button')).toHaveCount(0)
  })
  const view: WishesView = await instructor.evaluate(
    (sheet) => fetch(`/api/sheets/${sheet}/wishes`).then((answer) => answer.json()),
    code,
  )
  expect(view.settled[0]?.handedOut).toBe(true)
})

test('where everybody may hold two seats, the second is given in a round of its own, and both are told', async ({
  browser,
  context,
}) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'Two drinks each', TOPICS, { ...RULES, seatsEach: 2 })
  const [person] = await studentsOf(context, 'FERM 210')
  const student = await enterAs(browser, person!.email, { viewport: PHONE })
  await student.goto(`/sheets/${code}`)
  for (const title of ['Mead', 'Tepache', 'Rye kvass']) await add(student, title).click()
  await saved(student)
  await closeNow(instructor, code)
  await instructor.goto(`/sheets/${code}/settle`)
  const which = instructor.getByRole('combobox', { name: /^Each is given/ })
  await expect(which).toHaveValue('1')
  const apply = { name: /^Apply \d+ moves$/ }
  const applyIt = async () => {
    await instructor.getByRole('button', apply).click()
    await instructor.getByRole('alertdialog').getByRole('button', apply).click()
  }
  await applyIt()
  await expect(which).toHaveValue('2')
  await expect(instructor.getByText(/^left without a second seat, was \d+$/)).toBeVisible()
  await applyIt()
  await expect(instructor.getByText('By wishes, the second seat')).toBeVisible()
  await expect(instructor.getByRole('button', { name: 'Save that of the second round' })).toBeVisible()
  await student.reload()
  await expect(student.getByRole('heading', { name: 'You were given your first wish' })).toBeVisible()
  // Whom they keep apart from on this course may sit at what they wanted second.
  await expect(
    student.getByRole('heading', { name: /^Your second seat is your (second|third) wish$/ }),
  ).toBeVisible()
  await expect(student.getByText('Your seat', { exact: true })).toHaveCount(2)

  await test.step('the second is undone alone', async () => {
    await instructor
      .getByRole('listitem')
      .filter({ hasText: 'By wishes, the second seat' })
      .getByRole('button', { name: 'Undo plan' })
      .click()
    await expect(instructor.getByText(/^\d+ undone\./)).toBeVisible()
    await student.reload()
    await expect(student.getByText('Your seat', { exact: true })).toHaveCount(1)
  })
})

import { expect, type Page, test } from '@playwright/test'
import type { RunView } from '../../src/contract/seats.ts'
import { faults } from './axe.ts'
import { closeNow, enterAs, INSTRUCTOR, PHONE, publishSheet, studentsOf } from './people.ts'

const TOPICS = ['Rye kvass', 'Beet kvass', 'Tepache', 'Mead'].map((title) => ({ title, brief: '' }))
const PHONE_WITH_FINGER = { viewport: PHONE, hasTouch: true, isMobile: true }

/** Two of one section in groups of different topics: their names, and the titles of their topics. */
async function twoApart(instructor: Page, code: string) {
  const view: RunView = await instructor.evaluate(
    (sheet) => fetch(`/api/sheets/${sheet}/run`).then((answer) => answer.json()),
    code,
  )
  const titles = new Map(view.topics.map((topic) => [topic.code, topic.title]))
  const groups = new Map(view.groups.map((group) => [group.code, titles.get(group.topic) ?? '']))
  const [one, ...others] = view.seats.map(({ person, group }) => ({
    ...view.people.find((known) => known.code === person)!,
    title: groups.get(group)!,
  }))
  const other = others.find(({ title, section }) => title !== one!.title && section === one!.section)
  return [one!, other!] as const
}

test('two swap seats that were given by wishes, from what they would rather have to the undo by staff', async ({
  browser,
  context,
}) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'Swapped drinks', TOPICS, {
    road: 'wished',
    floor: 1,
    seats: 40,
  })
  await closeNow(instructor, code)
  await instructor.goto(`/sheets/${code}/settle`)
  const apply = { name: /^Apply \d+ moves$/ }
  await instructor.getByRole('button', apply).click()
  await instructor.getByRole('alertdialog').getByRole('button', apply).click()
  const card = instructor.getByRole('region', { name: 'Swaps' })
  await card.getByRole('button', { name: 'Let students swap seats' }).click()
  await expect(card).toContainText('Nobody wants another seat.')

  const people = await studentsOf(context, 'FERM 210')
  const [one, other] = await twoApart(instructor, code)
  const open = async (name: string) => {
    const page = await enterAs(browser, people.find((known) => known.name === name)!.email, PHONE_WITH_FINGER)
    await page.goto(`/sheets/${code}`)
    await expect(page.getByRole('heading', { name: 'Swap your seat' })).toBeVisible()
    return page
  }
  const [a, b] = [await open(one.name), await open(other.name)]
  const saved = (page: Page) => expect(page.getByText(/^Saved \w{3} \d/)).toBeVisible()
  await a.getByRole('button', { name: `Add ${other.title}` }).tap()
  await saved(a)
  await b.getByRole('button', { name: `Add ${one.title}` }).tap()
  // Both find it without doing anything, and nobody’s name is in it.
  const offerTo = (page: Page, title: string) => page.getByRole('region', { name: `A swap to ${title}` })
  await expect(offerTo(a, other.title)).toContainText('2 people are in it, none has accepted.')
  await expect(offerTo(b, one.title)).toContainText(`for ${other.title}`)
  await expect(offerTo(b, one.title).getByText(one.name)).toHaveCount(0)
  await expect(card).toContainText('2 students want another seat. 1 swap waits for answers')

  await test.step('the first page says that an answer is waited for', async () => {
    await b.goto('/')
    await expect(b.getByText(`A swap to ${one.title} waits for your answer.`)).toBeVisible()
    await b.goBack()
  })
  await test.step('declined, it is over, and not offered again; said anew, it is', async () => {
    await offerTo(a, other.title).getByRole('button', { name: 'Accept' }).tap()
    await expect(offerTo(a, other.title)).toContainText('1 has accepted, you among them')
    await expect(offerTo(b, one.title)).toContainText('once you accept, it is made')
    await offerTo(b, one.title).getByRole('button', { name: 'Decline' }).tap()
    await expect(b.getByText(/^The swap to .* was declined\./)).toBeVisible()
    await expect(a.getByText(/^The swap to .* was not made; you sit where you did\./)).toBeVisible()
    await b.getByRole('button', { name: `Add ${one.title}` }).tap()
    await expect(offerTo(a, other.title)).toContainText('none has accepted')
  })
  await test.step('a tab that was left open learns that it is over', async () => {
    const tab = await b.context().newPage()
    await tab.goto(`/sheets/${code}`)
    await expect(offerTo(tab, one.title)).toBeVisible()
    await tab.context().setOffline(true)
    await offerTo(tab, one.title).getByRole('button', { name: 'Accept' }).tap()
    await expect(
      tab
        .getByRole('listitem')
        .filter({ hasText: /reach|connection/i })
        .first(),
    ).toBeVisible()
    await tab.context().setOffline(false)
    await tab.close()
  })
  await test.step('accepted by both, each sits where the other did', async () => {
    await offerTo(b, one.title).getByRole('button', { name: 'Accept' }).tap()
    // By keyboard: the offer goes, and the focus with it to where it is said how it ended.
    await offerTo(a, other.title).getByRole('button', { name: 'Accept' }).press('Enter')
    await expect(a.getByText(`You sit at ${other.title} now.`)).toBeVisible()
    await expect(a.getByRole('heading', { name: 'Swap your seat' })).toBeFocused()
    await expect(b.getByText(`A swap brought you to ${one.title}.`)).toBeVisible()
    await expect(b.getByRole('heading', { name: one.title })).toBeVisible()
    await expect(card).toContainText('1 was made')
  })
  await test.step('staff undo it as a whole in the ledger', async () => {
    await instructor.goto(`/sheets/${code}/ledger`)
    await expect(instructor.getByText('in a swap of 2; undoing it takes all of it back')).toHaveCount(2)
    await instructor
      .getByRole('row')
      .filter({ hasText: 'in a swap of 2' })
      .first()
      .getByRole('button', { name: /^Undo/ })
      .click()
    await expect(instructor.getByText('Undone. The ledger says so too.')).toBeVisible()
    await expect(a.getByRole('heading', { name: one.title })).toBeVisible()
    await expect(a.getByText('Nothing: no swap is looked for.', { exact: false })).toBeVisible()
  })
})

for (const colorScheme of ['light', 'dark'] as const)
  test(`axe finds nothing where seats are swapped, nor is a narrow page too wide, ${colorScheme}`, async ({
    browser,
    context,
  }) => {
    const staff = await enterAs(browser, 'matteo.lindgren@brinemoor.example', { colorScheme })
    const { code, person } = await staff.evaluate(async () => {
      const read = async (path: string) => (await fetch(path)).json()
      const { courses } = await read('/api/courses')
      const course = courses.find((one: { courseCode: string }) => one.courseCode === 'FERM 210-T')
      const { code } = course.sheets.find((one: { title: string }) => one.title === 'Brew partners')
      const { swaps } = await read(`/api/sheets/${code}/swaps`)
      const waiting = swaps.find((one: { ending: null | string }) => one.ending === null)
      const asked = waiting.parts.find((one: { accepted: boolean }) => !one.accepted).person
      const { people } = await read(`/api/sheets/${code}/run`)
      return { code, person: people.find((one: { code: string }) => one.code === asked).name }
    })
    await staff.goto(`/sheets/${code}/settle`)
    await staff.getByText('1 swap waits for answers', { exact: false }).waitFor()
    expect(await faults(staff), 'settle').toEqual([])
    const { email } = (await studentsOf(context, 'FERM 210-T')).find(({ name }) => name === person)!
    const student = await enterAs(browser, email, { colorScheme, viewport: { width: 320, height: 640 } })
    await student.goto(`/sheets/${code}`)
    await student.getByRole('region', { name: /^A swap to/ }).waitFor()
    expect(await faults(student), 'a swap').toEqual([])
    expect(await student.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(320)
  })

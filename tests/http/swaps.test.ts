import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { LedgerView } from '../../src/contract/ledger.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { OwnSwaps, SwapsView } from '../../src/contract/swaps.ts'
import { DAY, HOUR } from '../../src/core/instant.ts'
import { createOutboxMailer } from '../../src/server/mail/mailer.ts'
import { createSwapDuty } from '../../src/server/swaps/due.ts'
import { type Client, must, studentEmail, unitWith } from './harness.ts'
import { wishingEach } from './wishing.ts'

const { labs, settle, afterClose, codes, rank, byWishes, seatAll } = wishingEach()

const swaps = () => `${labs().at}/swaps`
const mine = async (client: Client): Promise<OwnSwaps> => {
  const { swaps } = await labs().sheetOf(client)
  if (!swaps) throw new Error('nobody swaps here')
  return swaps
}
const offerOf = async (client: Client) => {
  const { offer } = await mine(client)
  if (!offer) throw new Error('nothing is offered')
  return offer
}
const answer = async (client: Client, accepted: boolean, swap?: string) => {
  const code = swap ?? (await offerOf(client)).code
  return client.post<OwnSwaps & Problem>(`${swaps()}/${code}/answer`, { accepted })
}
/** Says what somebody would rather have, by titles, over what they said before. */
const rather = async (client: Client, ...titles: string[]) => {
  const ranks = (await codes(...titles)).map((code) => [code])
  const { version } = await mine(client)
  return client.send<OwnSwaps & Problem>('PUT', `${swaps()}/wish`, { ranks, over: version })
}
const group = (name: string) => labs().school.groups[`${name}/Tue lab`]!
const seatOf = async (client: Client) => (await labs().sheetOf(client)).seats[0]?.group
const staffView = () => must<SwapsView>(labs().school.owner.get(swaps()))
const mailsTo = (n: number) =>
  labs()
    .harness.stores.mail.newest(100)
    .filter(({ recipient }) => recipient === studentEmail('Tue lab', n))
    .map(({ subject }) => subject.replace(/^.*: /, ''))

/** Everybody ranks; then the first of the Tuesday lab are seated by hand as said, by titles. */
const seated = async (seats: string[], more: object = { swaps: 'offered' }) => {
  await byWishes(more)
  const { basis } = await settle()
  const pins = seats.map((title, n) => ({
    person: basis.people.find(({ name }) => name === `Student ${n} Tue lab`)!.key,
    group: group(title),
  }))
  return { pins, seat: () => seatAll('most-first', pins) }
}

describe('swaps', () => {
  it('are offered where people ranked each other’s topics higher, and made once all have accepted', async () => {
    const { seat } = await seated(['Tempeh', 'Miso', 'Kefir', 'Kefir', 'Kefir'])
    await must(rank(labs().tue(0), ['Miso', 'Tempeh']))
    await must(rank(labs().tue(1), ['Tempeh', 'Miso']))
    afterClose()
    await seat()
    const offer = await offerOf(labs().tue(0))
    expect(offer).toMatchObject({ to: group('Miso'), people: 2, accepted: 0, mine: false })
    expect((await mine(labs().tue(2))).offer).toBeNull()
    // Who else is in it is nowhere in what a student gets.
    const theirs = await labs().sheetOf(labs().tue(0))
    expect(JSON.stringify(theirs.swaps)).not.toMatch(/Student|school\.example/)
    expect((await must(answer(labs().tue(0), true))).offer).toMatchObject({ accepted: 1, mine: true })
    expect(await seatOf(labs().tue(0))).toBe(group('Tempeh'))
    expect((await must(answer(labs().tue(1), true))).last).toMatchObject({ ending: 'made' })
    expect(await seatOf(labs().tue(0))).toBe(group('Miso'))
    expect(await seatOf(labs().tue(1))).toBe(group('Tempeh'))
    for (const n of [0, 1]) expect(mailsTo(n)).toHaveLength(2)
    expect((await staffView()).swaps).toMatchObject([{ ending: 'made', parts: [{ accepted: true }, {}] }])
    // The same answer once more is the same: the first one was lost.
    expect((await answer(labs().tue(0), true, offer.code)).status).toBe(200)
  })

  it('go round through three, by what people say after seats were given', async () => {
    const { seat } = await seated(['Tempeh', 'Kefir', 'Miso', 'Miso', 'Miso'])
    afterClose()
    await seat()
    expect((await mine(labs().tue(0))).ranks).toEqual([])
    await must(rather(labs().tue(0), 'Kefir'))
    await must(rather(labs().tue(1), 'Miso', 'Tempeh'))
    expect((await mine(labs().tue(0))).offer).toMatchObject({ people: 2 })
    // Before all have answered somebody finds something better: what was offered falls, and is found anew.
    await must(rather(labs().tue(1), 'Miso'))
    expect((await mine(labs().tue(0))).last).toMatchObject({ ending: 'fallen' })
    await must(rather(labs().tue(2), 'Tempeh'))
    for (const n of [0, 1, 2]) expect((await offerOf(labs().tue(n))).people).toBe(3)
    for (const n of [0, 1, 2]) await must(answer(labs().tue(n), true))
    expect(await Promise.all([0, 1, 2].map((n) => seatOf(labs().tue(n))))).toEqual(
      ['Kefir', 'Miso', 'Tempeh'].map(group),
    )
    // What was wished for above the new seat is gone from the list, as nothing is above it.
    expect((await mine(labs().tue(1))).ranks).toEqual([])
  })

  it('that somebody declines are not offered to them again; whoever had accepted is told, and not who it was', async () => {
    const { seat } = await seated(['Tempeh', 'Miso', 'Miso', 'Kefir', 'Kefir'])
    await must(rank(labs().tue(0), ['Miso', 'Tempeh']))
    await must(rank(labs().tue(1), ['Tempeh', 'Miso']))
    afterClose()
    await seat()
    const { code } = await offerOf(labs().tue(0))
    await must(answer(labs().tue(0), true))
    expect((await must(answer(labs().tue(1), false))).ranks).toEqual([])
    expect((await mine(labs().tue(0))).last).toMatchObject({ ending: 'declined' })
    expect(mailsTo(0)[0]).toMatch(/not made/)
    expect(mailsTo(1)).toHaveLength(1)
    expect((await answer(labs().tue(0), true, code)).body.code).toBe('swap-over')
    // Somebody else in the same group can say that they want it.
    await must(rather(labs().tue(2), 'Tempeh'))
    expect((await offerOf(labs().tue(0))).people).toBe(2)
    expect((await mine(labs().tue(1))).offer).toBeNull()
    // No second mail on one day; the page has it all the same.
    expect(mailsTo(0).filter((subject) => /would bring/.test(subject))).toHaveLength(1)
  })

  it('end after two days; who did not answer is not asked again before they say so', async () => {
    const { seat } = await seated(['Tempeh', 'Miso', 'Kefir', 'Kefir', 'Kefir'])
    await must(rank(labs().tue(0), ['Miso', 'Tempeh']))
    await must(rank(labs().tue(1), ['Tempeh', 'Miso']))
    afterClose()
    await seat()
    const { code } = await offerOf(labs().tue(1))
    await must(answer(labs().tue(0), true))
    labs().harness.clock.advance(2 * DAY)
    expect((await answer(labs().tue(1), true, code)).body.code).toBe('swap-over')
    const { stores, clock } = labs().harness
    const due = createSwapDuty(unitWith(labs().harness, createOutboxMailer(stores.mail, clock.now)), stores)
    due(clock.now())
    expect((await mine(labs().tue(0))).last).toMatchObject({ ending: 'lapsed' })
    expect((await mine(labs().tue(1))).ranks).toEqual([])
    expect((await mine(labs().tue(0))).ranks).toHaveLength(1)
    await must(rather(labs().tue(1), 'Tempeh'))
    expect((await offerOf(labs().tue(0))).people).toBe(2)
  })

  it.each([
    ['the rule is taken back', () => labs().rule({ swaps: 'no' })],
    ['the instructor makes the groups', () => labs().rule({ road: 'made' })],
    [
      'the plan is undone',
      async () => {
        const { plans } = await settle()
        await must(labs().school.owner.post(`${labs().at}/plans/${plans[0]?.code}/undo`, {}))
      },
    ],
    [
      'the course is archived',
      () =>
        must(labs().school.owner.post(`/api/courses/${labs().school.course}/archive`, { archived: true })),
    ],
    ['wishes are asked for again', () => labs().rule({ closesAt: '2026-06-20T17:00' })],
    [
      'the sheet is archived',
      () => must(labs().school.owner.post(`${labs().at}/archive`, { archived: true })),
    ],
    [
      'somebody is seated elsewhere by hand',
      async () => {
        const { basis } = await settle()
        const person = basis.people.find(({ name }) => name === 'Student 1 Tue lab')!.key
        const changes = [{ person, from: group('Miso'), to: group('Kefir') }]
        await must(labs().school.owner.post(`${labs().at}/seatings`, { changes, confirmed: true }))
      },
    ],
    [
      'somebody is paused',
      async () => {
        const { basis } = await settle()
        const person = basis.people.find(({ name }) => name === 'Student 1 Tue lab')!.key
        const at = `/api/courses/${labs().school.course}/roster/people/${person}`
        await must(labs().school.owner.patch(at, { status: 'paused' }))
      },
    ],
  ])('fall where %s', async (_, happens) => {
    const { seat } = await seated(['Tempeh', 'Miso', 'Kefir'])
    await must(rank(labs().tue(0), ['Miso', 'Tempeh']))
    await must(rank(labs().tue(1), ['Tempeh', 'Miso']))
    afterClose()
    await seat()
    await must(answer(labs().tue(0), true))
    await happens()
    const { stores } = labs().harness
    const sheet = stores.sheets.byCode(labs().school.sheet)!
    expect(stores.swaps.openOn(sheet.id)).toEqual([])
    expect(stores.swaps.ofSheet(sheet.id)).toMatchObject([{ ending: 'fallen' }])
    const swapped = stores.ledger
      .since(sheet.id, 0)
      .filter(({ detail }) => JSON.parse(detail).because === 'swap')
    expect(swapped).toEqual([])
  })

  it('fall within moments where a seat is taken as it comes', async () => {
    const { seat } = await seated(['Tempeh', 'Miso', 'Tempeh', 'Miso', 'Miso'])
    await must(rank(labs().tue(0), ['Miso', 'Tempeh']))
    await must(rank(labs().tue(1), ['Tempeh', 'Miso']))
    afterClose()
    await seat()
    await labs().rule({ road: 'chosen', closesAt: '2026-06-20T17:00' })
    const { code } = await offerOf(labs().tue(0))
    expect((await labs().move(labs().tue(1), 'Miso/Tue lab', 'Kefir/Tue lab')).status).toBe(200)
    // Accepting finds out at once; the clock does within seconds.
    await must(answer(labs().tue(0), true, code))
    expect((await mine(labs().tue(0))).last).toMatchObject({ ending: 'fallen' })
  })

  it('lead nobody to a group of another section, to people they keep apart from, or away from those they stay with', async () => {
    const { seat, pins } = await seated(['Tempeh', 'Miso', 'Miso', 'Kefir', 'Kefir'])
    const keep = (kind: string, who: number[]) =>
      must(
        labs().school.owner.post(`${labs().at}/keepings`, {
          kind,
          people: who.map((n) => pins[n]!.person),
          note: '',
        }),
      )
    await must(rank(labs().tue(0), ['Miso', 'Tempeh']))
    await must(rank(labs().tue(1), ['Tempeh', 'Miso']))
    await must(rank(labs().wed(0), ['Tempeh', 'Kefir']))
    afterClose()
    // Student 2 stays in Miso, so that 0 would come to sit with somebody to keep apart from.
    await keep('apart', [0, 2])
    await seat()
    expect((await mine(labs().tue(0))).offer).toBeNull()
    await keep('together', [3, 4])
    await must(rather(labs().tue(3), 'Tempeh'))
    await must(rather(labs().tue(0), 'Kefir'))
    expect((await mine(labs().tue(0))).offer).toBeNull()
    await must(rather(labs().tue(0)))
    expect((await staffView()).swaps).toEqual([])
  })

  it('are undone as a whole, and not offered again at once', async () => {
    const { seat } = await seated(['Tempeh', 'Miso', 'Kefir', 'Kefir', 'Kefir'])
    await must(rank(labs().tue(0), ['Miso', 'Tempeh']))
    await must(rank(labs().tue(1), ['Tempeh', 'Miso']))
    afterClose()
    await seat()
    for (const n of [0, 1]) await must(answer(labs().tue(n), true))
    const { entries } = await must<LedgerView>(labs().school.owner.get(`${labs().at}/ledger`))
    const moved = entries.filter(({ detail }) => detail.because === 'swap')
    expect(moved).toMatchObject([{ kind: 'seat-moved', actor: null, canUndo: true }, { kind: 'seat-moved' }])
    await must(labs().school.owner.post(`${labs().at}/ledger/${moved[1]?.position}/undo`, {}))
    expect(await seatOf(labs().tue(0))).toBe(group('Tempeh'))
    expect(await seatOf(labs().tue(1))).toBe(group('Miso'))
    expect((await mine(labs().tue(0))).offer).toBeNull()
  })

  it('refuse what is wrong, and say what', async () => {
    const { seat } = await seated(['Tempeh', 'Miso', 'Kefir'], {})
    const wish = (client: Client, ranks: unknown, over = 0) =>
      client.send<Problem>('PUT', `${swaps()}/wish`, { ranks, over })
    expect((await wish(labs().tue(0), [])).body.code).toBe('no-swaps-here')
    afterClose()
    await seat()
    expect((await wish(labs().tue(0), [])).body.code).toBe('no-swaps-here')
    expect((await labs().sheetOf(labs().tue(0))).swaps).toBeNull()
    await labs().rule({ swaps: 'offered' })
    const [miso] = await codes('Miso')
    expect((await wish(labs().tue(0), [['nothing']])).body.errors).toMatchObject([{ path: 'ranks[0][0]' }])
    expect((await wish(labs().tue(0), [[miso], [miso]])).body.errors).toMatchObject([{ path: 'ranks[1][0]' }])
    expect((await wish(labs().tue(0), [[]])).status).toBe(422)
    expect((await wish(labs().tue(0), 'Miso')).status).toBe(422)
    await must(rather(labs().tue(0), 'Miso'))
    expect((await wish(labs().tue(0), [])).body.code).toBe('changed-meanwhile')
    expect((await wish(labs().tue(0), [[miso]])).status).toBe(200)
    await must(rather(labs().tue(1), 'Tempeh'))
    const { code } = await offerOf(labs().tue(0))
    // Somebody who is not in it learns nothing of it.
    expect((await answer(labs().tue(2), true, code)).status).toBe(404)
    expect((await labs().tue(0).post<Problem>(`${swaps()}/${code}/answer`, {})).status).toBe(422)
  })

  it('over random histories: nobody is in two at once, comes to what they did not want, or past a limit', async () => {
    const { seat } = await seated(['Tempeh', 'Miso', 'Kefir', 'Tempeh', 'Miso'])
    afterClose()
    await seat()
    const titles = ['Tempeh', 'Miso', 'Kefir']
    const { stores, clock } = labs().harness
    const sheet = stores.sheets.byCode(labs().school.sheet)!
    const { basis } = await settle()
    const people = [0, 1, 2, 3, 4].map(
      (n) => basis.people.find(({ name }) => name === `Student ${n} Tue lab`)!.key,
    )
    const student = fc.nat(4)
    const step = fc.oneof(
      {
        weight: 4,
        arbitrary: fc.record({
          do: fc.constant('rather' as const),
          student,
          list: fc.shuffledSubarray(titles),
        }),
      },
      {
        weight: 8,
        // Mostly yes, so that many are made.
        arbitrary: fc.record({
          do: fc.constant('answer' as const),
          student,
          yes: fc.constantFrom(true, true, true, true, false),
        }),
      },
      {
        weight: 1,
        arbitrary: fc.record({ do: fc.constant('seat' as const), student, to: fc.constantFrom(...titles) }),
      },
      {
        weight: 1,
        arbitrary: fc.record({ do: fc.constant('wait' as const), hours: fc.integer({ min: 1, max: 60 }) }),
      },
    )
    await fc.assert(
      // Each goes on from where the one before ended.
      fc.asyncProperty(fc.array(step, { minLength: 20, maxLength: 20 }), async (steps) => {
        for (const one of steps) {
          if (one.do === 'wait') {
            clock.advance(one.hours * HOUR)
            // Whoever stays away for two weeks is signed out, so everybody looks in now and then.
            await Promise.all([staffView(), ...people.map((_, n) => mine(labs().tue(n)))])
          } else {
            const client = labs().tue(one.student)
            const before = await mine(client)
            if (one.do === 'rather') await must(rather(client, ...one.list))
            else if (one.do === 'answer' && before.offer && before.offer.until > clock.now())
              await must(answer(client, one.yes))
            else if (one.do === 'seat' && before.seat !== group(one.to)) {
              const changes = [{ person: people[one.student], from: before.seat, to: group(one.to) }]
              await labs().school.owner.post(`${labs().at}/seatings`, { changes, confirmed: true })
            }
          }
          const open = stores.swaps.openOn(sheet.id).flatMap(({ id }) => stores.swaps.parts(id))
          expect(new Set(open.map(({ enrolment_id }) => enrolment_id)).size).toBe(open.length)
          for (const part of open)
            expect(stores.seats.heldBy(sheet.id, part.enrolment_id).map(({ group_id }) => group_id)).toEqual([
              part.from_group_id,
            ])
          // Nobody sits past a limit who was not put there by hand.
          for (const { id, seats } of stores.sheets.groups(sheet.id)) {
            const there = stores.seats.ofGroup(id)
            expect(there.filter(({ extra }) => extra === 0).length).toBeLessThanOrEqual(seats)
          }
        }
      }),
      { numRuns: Number(process.env.SWAP_RUNS ?? 6), endOnFailure: true },
    )
  })
})

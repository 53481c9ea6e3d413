import { describe, expect, it } from 'vitest'
import type { Problem } from '../../src/contract/problems.ts'
import type { OwnList, OwnOdds, WishesView } from '../../src/contract/wishes.ts'
import { HOUR, MINUTE } from '../../src/core/instant.ts'
import { type Client, must, studentEmail } from './harness.ts'
import { wishingEach } from './wishing.ts'

const { labs, afterClose, wishes, own, codes, rank, byWishes, seatAll } = wishingEach()

describe('a list of wishes', () => {
  it('is kept as it is ranked, with its time, and changed until the close', async () => {
    await byWishes()
    const kept = await rank(labs().tue(0), ['Miso', 'Tempeh'])
    expect(kept).toMatchObject({ status: 200, body: { version: 1, savedAt: labs().harness.clock.now() } })
    labs().harness.clock.advance(MINUTE)
    expect((await rank(labs().tue(0), ['Tempeh', 'Miso', 'Kefir'])).body).toMatchObject({ version: 2 })
    const list = await own(labs().tue(0))
    expect(list.ranks).toEqual((await codes('Tempeh', 'Miso', 'Kefir')).map((code) => [code]))
    expect(list.topics.map(({ title, seats }) => [title, seats])).toEqual([
      ['Tempeh', 3],
      ['Kefir', 3],
      ['Miso', 3],
    ])
    afterClose()
    expect((await rank(labs().tue(0), ['Kefir'])).body).toMatchObject({ code: 'window-closed' })
    expect((await own(labs().tue(0))).version).toBe(2)
  })

  it('has equal wishes, and topics that cannot be, with a reason; as many as the rules let it', async () => {
    await byWishes({ wishesMost: 2, cannotMost: 1 })
    const [tempeh, kefir, miso] = await codes('Tempeh', 'Kefir', 'Miso')
    const put = (ranks: unknown, cannot: unknown = []) =>
      labs().tue(0).send<OwnList & Problem>('PUT', wishes(), { ranks, cannot, over: 0 })
    const refused = async (ranks: unknown, cannot: unknown = []) => {
      const { status, body } = await put(ranks, cannot)
      return { status, path: body.errors?.[0]?.path, message: body.errors?.[0]?.message }
    }
    expect(await refused([[tempeh], [kefir], [miso]])).toEqual({
      status: 422,
      path: 'ranks',
      message: 'Your order can have 2 topics at most.',
    })
    expect(await refused([[tempeh], [tempeh]])).toEqual({
      status: 422,
      path: 'ranks[1][0]',
      message: 'This topic stands in your order twice.',
    })
    expect(await refused([[tempeh]], [{ topic: tempeh, reason: 'soy' }])).toMatchObject({
      status: 422,
      path: 'cannot[0].topic',
    })
    expect(await refused([], [{ topic: tempeh, reason: ' ' }])).toMatchObject({
      status: 422,
      path: 'cannot[0].reason',
    })
    expect(await refused([['nowhere']])).toMatchObject({ status: 422, path: 'ranks[0][0]' })
    expect(await refused([[]])).toMatchObject({ status: 422 })
    expect(
      await refused(
        [],
        [
          { topic: tempeh, reason: 'soy' },
          { topic: miso, reason: 'soy' },
        ],
      ),
    ).toEqual({ status: 422, path: 'cannot', message: 'You can leave out 1 topic as impossible at most.' })
    const kept = await put([[tempeh, kefir]], [{ topic: miso, reason: 'koji allergy' }])
    expect(kept.body).toMatchObject({
      ranks: [[tempeh, kefir]],
      cannot: [{ topic: miso, reason: 'koji allergy' }],
    })
  })

  it('is not overwritten by another tab that did not see it; the same again is no change', async () => {
    await byWishes()
    const [tempeh, kefir] = await codes('Tempeh', 'Kefir')
    const put = (ranks: unknown, over: number) =>
      labs().tue(0).send<OwnList & Problem>('PUT', wishes(), { ranks, cannot: [], over })
    expect((await put([[tempeh], [kefir]], 0)).status).toBe(200)
    expect((await put([[tempeh], [kefir]], 0)).body).toMatchObject({ version: 1 })
    expect((await put([[kefir], [tempeh]], 0)).body).toMatchObject({ code: 'changed-meanwhile' })
    expect((await put([[kefir], [tempeh]], 1)).body).toMatchObject({ version: 2 })
  })

  it('is not asked for on a sheet where seats are taken as they come, and seats are not taken where it is', async () => {
    expect((await labs().sheetOf(labs().tue(0))).wishes).toBeNull()
    const [tempeh] = await codes('Tempeh')
    const put = await labs()
      .tue(0)
      .send<Problem>('PUT', wishes(), { ranks: [[tempeh]], cannot: [], over: 0 })
    expect(put.body.code).toBe('no-wishes-here')
    await byWishes()
    const taken = await labs().take(labs().tue(0), 'Tempeh/Tue lab')
    expect(taken.body).toMatchObject({ code: 'seats-by-wishes' })
  })

  it('loses a topic that is removed, and counts only as long as it is long enough', async () => {
    await byWishes({ wishesLeast: 2 })
    await must(rank(labs().tue(0), ['Miso', 'Tempeh']))
    await must(rank(labs().tue(1), ['Miso']))
    const counting = async () =>
      (await must<WishesView>(labs().school.owner.get(wishes()))).lists.map(({ counts }) => counts)
    expect(await counting()).toEqual([true, false])
    const miso = await labs().topic('Miso')
    await must(labs().school.owner.post(`${labs().at}/topics/${miso.code}/remove`, { confirmed: true }))
    expect(await own(labs().tue(0))).toMatchObject({ ranks: [await codes('Tempeh')], gone: ['Miso'] })
    // Two are left, so two are asked for; one is what this list still has.
    expect(await counting()).toEqual([false, false])
  })

  it('is nobody’s business but the student’s and staff’s', async () => {
    await byWishes({ names: 'everyone', wishWorth: 'demand' })
    await must(rank(labs().tue(0), ['Miso', 'Tempeh'], [{ topic: 'Kefir', reason: 'a secret of mine' }]))
    const { code } = await own(labs().tue(0))
    await labs().harness.clock.advance(HOUR)
    for (const path of [
      labs().at.concat('/student'),
      '/api/home',
      `${wishes()}/why/1`,
      `${wishes()}/record/1`,
    ]) {
      const { body } = await labs().tue(1).get<unknown>(path)
      expect(JSON.stringify(body)).not.toContain('a secret of mine')
      expect(JSON.stringify(body)).not.toContain(code)
    }
    expect((await labs().tue(1).get(wishes())).status).toBe(403)
    const { lists } = await must<WishesView>(labs().school.owner.get(wishes()))
    expect(lists[0]?.cannot[0]?.reason).toBe('a secret of mine')
  })

  it('shows how much topics are wanted once an hour, by the rules', async () => {
    await byWishes()
    const demand = async () => (await own(labs().tue(1))).topics.map(({ demand }) => demand)
    expect(await demand()).toEqual([null, null, null])
    await byWishes({ wishWorth: 'demand' })
    expect(await demand()).toEqual(Array(3).fill({ first: 0, all: 0 }))
    await must(rank(labs().tue(0), ['Miso', 'Tempeh']))
    expect(await demand()).toEqual(Array(3).fill({ first: 0, all: 0 }))
    labs().harness.clock.advance(HOUR)
    expect(await demand()).toEqual([
      { first: 0, all: 1 },
      { first: 0, all: 0 },
      { first: 1, all: 1 },
    ])
    // Those of another section want groups of their own.
    expect((await own(labs().wed(0))).topics.map(({ demand }) => demand?.all)).toEqual([0, 0, 0])
  })
})

describe('the chances of a student', () => {
  const odds = (client: Client) => client.get<OwnOdds & Problem>(`${wishes()}/odds`)

  it('are drawn over many lots where the rules show them, for oneself, and not anew for each who asks', async () => {
    await byWishes({ seats: 1 })
    for (let i = 0; i < 2; i++) await must(rank(labs().tue(i), ['Miso', 'Tempeh']))
    expect((await odds(labs().tue(0))).body.code).toBe('no-wishes-here')
    await byWishes({ wishWorth: 'odds' })
    const [one, other, idle] = await Promise.all([0, 1, 4].map((i) => must<OwnOdds>(odds(labs().tue(i)))))
    expect(one!.draws).toBeGreaterThan(0)
    expect(one!.byRank[0]! + other!.byRank[0]!).toBe(one!.draws)
    expect(one!.byRank[0]! + one!.byRank[1]!).toBe(one!.draws)
    expect(one!.version).toBe(1)
    // Who ranked nothing has one of the seats that are left, or none.
    expect(idle).toMatchObject({ draws: one!.draws, version: null })
    await must(rank(labs().tue(0), ['Tempeh', 'Miso']))
    expect(await must<OwnOdds>(odds(labs().tue(0)))).toEqual(one)
    labs().harness.clock.advance(5 * MINUTE)
    const later = await must<OwnOdds>(odds(labs().tue(0)))
    expect(later.byRank[0]).toBe(later.draws)
    expect(later.version).toBe(2)
  })
})

describe('mates', () => {
  const name = async (client: Client, people: string[], first = true) => {
    const { ranks, cannot, version } = await own(client)
    const body = { ranks, cannot, mates: { people, first }, over: version }
    return client.send<OwnList & Problem>('PUT', wishes(), body)
  }

  it('are named by address, and neither told of each other nor counted before all have named each other', async () => {
    await byWishes({ matesMost: 1, seats: 2 })
    for (const i of [0, 1, 2]) await must(rank(labs().tue(i), ['Miso', 'Tempeh']))
    await must(name(labs().tue(0), ['  S1.tuelab@School.example ']))
    expect(await own(labs().tue(0))).toMatchObject({
      mates: { people: ['s1.tuelab@school.example'], first: true },
      agreed: null,
    })
    expect(JSON.stringify(await labs().sheetOf(labs().tue(1)))).not.toContain('s0.tuelab')
    // Whether somebody has an address is not told.
    await must(name(labs().tue(2), ['nobody@elsewhere.example']))
    await must(name(labs().tue(1), [studentEmail('Tue lab', 0)]))
    expect((await own(labs().tue(0))).agreed).toEqual(['Student 1 Tue lab'])
    const { lists } = await must<WishesView>(labs().school.owner.get(wishes()))
    expect(lists.map(({ mates }) => mates?.people.length ?? 0)).toEqual([1, 1, 0])
    afterClose()
    const { wishes: report, moves } = await seatAll()
    expect(report?.together).toHaveLength(1)
    const [a, b] = report!.together[0]!.map((who) => moves.find(({ person }) => person === who)?.to)
    expect(a).toBe(b)
  })

  it('are refused where there are too many, oneself, or no address; and where the rules know none', async () => {
    await byWishes({ matesMost: 1 })
    const path = async (people: string[]) => (await name(labs().tue(0), people)).body.errors?.[0]?.path
    expect(await path(['a@x.example', 'b@x.example'])).toBe('mates.people')
    expect(await path([studentEmail('Tue lab', 0)])).toBe('mates.people[0]')
    expect(await path(['no address'])).toBe('mates.people[0]')
    await byWishes({ matesMost: 0 })
    expect((await name(labs().tue(0), ['a@x.example'])).body.errors?.[0]?.message).toMatch(
      /nobody says with whom/,
    )
    expect((await labs().school.owner.patch<Problem>(labs().at, { matesMost: 4 })).status).toBe(422)
  })
})

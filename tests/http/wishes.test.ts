import { execFileSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import type { Problem } from '../../src/contract/problems.ts'
import type { OwnWhy } from '../../src/contract/wishes.ts'
import type { WishRecord } from '../../src/core/wishes/record.ts'
import { createOutboxMailer } from '../../src/server/mail/mailer.ts'
import { createClosing } from '../../src/server/plans/closing.ts'
import { createPlanner } from '../../src/server/plans/planner.ts'
import { must, studentEmail, unitWith } from './harness.ts'
import { wishingEach } from './wishing.ts'

const { labs, settle, afterClose, wishes, own, rank, byWishes, seatAll, mailsTo } = wishingEach()

describe('seats by wishes', () => {
  it('are given by the lists that count, and everybody is told which wish it is and why not a better one', async () => {
    await byWishes({ seats: 1 })
    for (let i = 0; i < 3; i++) await must(rank(labs().tue(i), ['Miso', 'Tempeh', 'Kefir']))
    afterClose()
    const { wishes: report } = await seatAll()
    expect(report?.figures).toMatchObject({ byRank: [1, 1, 1] })
    const told = await Promise.all([0, 1, 2].map((i) => must<OwnWhy>(labs().tue(i).get(`${wishes()}/why/1`))))
    expect(told.map(({ rank }) => rank).sort()).toEqual([1, 2, 3])
    const last = told.find(({ rank }) => rank === 3)
    expect(last?.whyNot).toMatchObject([
      { title: 'Miso', code: 'lot', seats: 1, wanted: 3 },
      { title: 'Tempeh', code: 'lot', seats: 1 },
    ])
    expect(new Set(told.map(({ place }) => place)).size).toBe(3)
    expect((await own(labs().tue(0))).outcomes[0]).toMatchObject({ seated: true, ranked: true })
    // Who ranked nothing is seated after the others, where there is room, and told as much.
    expect((await own(labs().tue(4))).outcomes).toEqual([
      { round: 1, seated: false, rank: null, ranked: false },
    ])
  })

  it('can be followed by moves as they come, and it is still told why', async () => {
    await byWishes({ seats: 2 })
    for (let i = 0; i < 3; i++) await must(rank(labs().tue(i), ['Miso', 'Tempeh']))
    afterClose()
    await seatAll()
    // Whoever ranked nothing may have filled any of the groups; now each has room.
    await labs().rule({ road: 'chosen', seats: 5, closesAt: '2026-05-20T17:00' })
    const seated = await Promise.all([0, 1, 2].map((i) => own(labs().tue(i))))
    expect(seated.map(({ outcomes }) => outcomes[0]?.rank).sort()).toEqual([1, 1, 2])
    const second = seated.findIndex(({ outcomes }) => outcomes[0]?.rank === 2)
    expect((await labs().move(labs().tue(second), 'Tempeh/Tue lab', 'Kefir/Tue lab')).status).toBe(200)
    // What was given then is told as it was.
    expect((await own(labs().tue(second))).outcomes[0]).toMatchObject({ seated: true, rank: 2 })
    expect((await must<OwnWhy>(labs().tue(second).get(`${wishes()}/why/1`))).rank).toBe(2)
  })

  it('leave a record without names, which the reader of another hand finds right, for whom it is handed out', async () => {
    await byWishes({ seats: 2 })
    for (let i = 0; i < 4; i++) await must(rank(labs().tue(i), ['Miso', 'Tempeh']))
    await must(rank(labs().wed(0), ['Kefir', 'Miso']))
    expect((await labs().school.owner.get<Problem>(`${wishes()}/record/1`)).body.code).toBe(
      'wishes-not-settled',
    )
    afterClose()
    await seatAll('nobody-far-down')
    const record = await must<WishRecord>(labs().school.owner.get(`${wishes()}/record/1`))
    expect(JSON.stringify(record)).not.toMatch(/school\.example|Student/)
    const file = join(mkdtempSync(join(tmpdir(), 'wishes-')), 'record.json')
    writeFileSync(file, JSON.stringify(record))
    expect(execFileSync('node', ['scripts/check-wishes.mjs', file], { encoding: 'utf8' })).toMatch(
      /what the rules give/,
    )
    expect((await labs().tue(0).get(`${wishes()}/record/1`)).status).toBe(403)
    await must(labs().school.owner.send('PUT', `${wishes()}/record`, { handedOut: true }))
    const theirs = await must<WishRecord>(labs().tue(0).get(`${wishes()}/record/1`))
    expect(theirs).toEqual(record)
    const { code } = await must<OwnWhy>(labs().tue(0).get(`${wishes()}/why/1`))
    expect(record.rows.some((row) => row.code === code)).toBe(true)
  })

  it('are given at the close by house rule, once, by what the sheet aims at', async () => {
    await byWishes({ seats: 1, atClose: 'seat', aim: 'nobody-far-down' })
    for (let i = 0; i < 3; i++) await must(rank(labs().tue(i), ['Miso', 'Tempeh', 'Kefir']))
    afterClose()
    const { log, stores, clock } = labs().harness
    const mailer = createOutboxMailer(stores.mail, clock.now)
    const parts = { log, stores, unit: unitWith(labs().harness, mailer), mailer, planner: createPlanner() }
    const closing = createClosing(parts)
    await closing.carryOut(clock.now())
    await closing.carryOut(clock.now())
    await closing.stop()
    const { plans } = await settle()
    expect(plans).toHaveLength(1)
    expect(plans[0]?.content).toMatchObject({
      settings: { method: 'wishes', wishes: { aim: 'nobody-far-down' } },
      wishes: { figures: { byRank: [1, 1, 1] } },
    })
    expect((await must<OwnWhy>(labs().tue(0).get(`${wishes()}/why/1`))).aim).toBe('nobody-far-down')
  })

  it('ask before who has ranked did it for nothing, and keep the lists', async () => {
    await byWishes()
    await must(rank(labs().tue(0), ['Miso', 'Tempeh']))
    const asked = await labs().school.owner.patch<Problem>(labs().at, { road: 'chosen' })
    expect(asked.body).toMatchObject({ code: 'seated-affected', affected: [expect.anything()] })
    await labs().rule({ road: 'chosen' })
    expect((await labs().take(labs().tue(0), 'Tempeh/Tue lab')).status).toBe(200)
    await labs().rule({ road: 'wished' })
    expect((await own(labs().tue(0))).ranks).toHaveLength(2)
  })

  it('are told by mail with the wish that they are, to whoever had some', async () => {
    await byWishes({ seats: 1 })
    for (let i = 0; i < 2; i++) await must(rank(labs().tue(i), ['Miso', 'Tempeh']))
    afterClose()
    await seatAll('most-first', [], { tell: true })
    const mails = [0, 1].map((n) => mailsTo('Tue lab', n)[0]?.body ?? '')
    expect(mails.map((text) => /That is your (first|second) wish/.exec(text)?.[1]).sort()).toEqual([
      'first',
      'second',
    ])
    expect(mails.find((text) => /second/.test(text))).toContain('Why you have no better one')
    for (const n of [2, 3, 4])
      for (const { body } of mailsTo('Tue lab', n)) expect(body).not.toMatch(/That is/)
  })

  it('need no more wishes than a list may have; what is wrong is told beside the number', async () => {
    const wrong = await labs().school.owner.patch<Problem>(labs().at, { wishesLeast: 11 })
    expect(wrong.body.errors).toMatchObject([{ path: 'wishesLeast' }])
    expect((await labs().school.owner.patch<Problem>(labs().at, { wishesMost: 0 })).status).toBe(422)
  })

  it('say of the lot only to those for whom it was drawn, and of an outcome only to those who were there', async () => {
    await byWishes()
    for (let i = 0; i < 2; i++) await must(rank(labs().tue(i), ['Miso', 'Tempeh']))
    // Too short to count: it is as if nothing had been ranked.
    await must(rank(labs().tue(2), ['Kefir']))
    afterClose()
    const { basis } = await settle()
    const personOf = (n: number) => basis.people.find(({ name }) => name === `Student ${n} Tue lab`)!.key
    const kefir = labs().school.groups['Kefir/Tue lab']!
    await seatAll('most-first', [{ person: personOf(0), group: kefir }])
    expect(await must<OwnWhy>(labs().tue(0).get(`${wishes()}/why/1`))).toMatchObject({
      place: null,
      whyNot: [],
    })
    expect((await must<OwnWhy>(labs().tue(1).get(`${wishes()}/why/1`))).place).toBeGreaterThan(0)
    expect((await own(labs().tue(2))).outcomes[0]).toMatchObject({ seated: true, rank: null, ranked: false })
    const person = {
      name: 'Late Comer',
      email: studentEmail('Tue lab', 9),
      section: 'Tue lab',
      role: 'student',
    }
    const csv = `name,email,section,role\n${Object.values(person).join(',')}`
    await must(
      labs().school.owner.post(`/api/courses/${labs().school.course}/roster/import`, {
        csv,
        skipFaults: false,
        unlisted: 'leave',
      }),
    )
    expect((await own(labs().tue(9))).outcomes).toEqual([])
  })

  it('go a second round where everybody may hold two seats, and each is told of both', async () => {
    await byWishes({ seatsEach: 2, seats: 2 })
    for (let i = 0; i < 3; i++) await must(rank(labs().tue(i), ['Miso', 'Tempeh', 'Kefir']))
    afterClose()
    await seatAll('in-turn')
    const first = await must<OwnWhy>(labs().tue(0).get(`${wishes()}/why/1`))
    expect((await labs().tue(0).get<Problem>(`${wishes()}/why/2`)).body.code).toBe('wishes-not-settled')
    const plan = await seatAll('in-turn', [], { round: 2 })
    expect(plan.moves.every(({ from }) => from === null)).toBe(true)
    for (let i = 0; i < 3; i++) {
      const sheet = await labs().sheetOf(labs().tue(i))
      expect(new Set(sheet.seats.map(({ group }) => group)).size).toBe(sheet.seats.length)
      expect((await own(labs().tue(i))).outcomes.map(({ round }) => round)).toEqual([1, 2])
    }
    const second = await must<OwnWhy>(labs().tue(0).get(`${wishes()}/why/2`))
    // Whoever came last comes first, and what somebody has already is no wish that they missed.
    expect(first.place! + second.place!).toBe(first.of + 1)
    expect(second.whyNot.map(({ topic }) => topic)).not.toContain(first.topic)
    for (const round of [1, 2]) {
      const record = await must<WishRecord>(labs().school.owner.get(`${wishes()}/record/${round}`))
      const file = join(mkdtempSync(join(tmpdir(), 'wishes-')), 'record.json')
      writeFileSync(file, JSON.stringify(record))
      expect(execFileSync('node', ['scripts/check-wishes.mjs', file], { encoding: 'utf8' })).toMatch(
        /what the rules give/,
      )
    }
    for (const round of ['0', '3', 'x', '1.5'])
      expect((await labs().tue(0).get<Problem>(`${wishes()}/why/${round}`)).status).toBe(409)
    // A further round gives no third seat.
    await expect(seatAll('in-turn', [], { round: 3 })).rejects.toThrow(/plan-does-not-fit/)
  })

  it('give every round by itself at the close, and tell instructors once', async () => {
    await byWishes({ seatsEach: 2, seats: 5, atClose: 'seat', aim: 'in-turn' })
    for (let i = 0; i < 3; i++) await must(rank(labs().tue(i), ['Miso', 'Tempeh']))
    afterClose()
    const { log, stores, clock } = labs().harness
    const mailer = createOutboxMailer(stores.mail, clock.now)
    const parts = { log, stores, unit: unitWith(labs().harness, mailer), mailer, planner: createPlanner() }
    const closing = createClosing(parts)
    for (let i = 0; i < 3; i++) await closing.carryOut(clock.now())
    await closing.stop()
    const { plans } = await settle()
    expect(plans.map(({ content }) => content.settings.wishes?.round).sort()).toEqual([1, 2])
    for (let i = 0; i < 3; i++) expect((await labs().sheetOf(labs().tue(i))).seats).toHaveLength(2)
    const told = stores.mail
      .newest(100)
      .filter(({ subject, recipient }) => /has closed/.test(subject) && recipient === 'owner@school.example')
    expect(told).toHaveLength(1)
    expect(told[0]?.body).toMatch(/and 1[0-4] were seated by plan/)
  })
})

import { describe, expect, it } from 'vitest'
import { HOUR } from '../../src/core/instant.ts'
import { PLAIN, stageEach } from './stage.ts'

const stage = stageEach((s) => {
  s.enrol(['Ada', 'Bo', 'Cleo', 'Dai'])
  s.enrol(['Tom'], { role: 'tutor' })
  for (const title of ['Tempeh', 'Miso']) s.addTopic(title)
})

describe('a claim', () => {
  it('is written with its entry: who, what, from where and to where', async () => {
    const { claim, entries, seated } = stage()
    expect(await claim('Ada', 'take', 'Tempeh')).toBe('yes')
    expect(await claim('Ada', 'move', 'Miso', 'Tempeh')).toBe('yes')
    expect(await claim('Ada', 'give-up', 'Miso')).toBe('yes')
    expect(entries()).toEqual([
      'seat-taken Ada Tempeh',
      'seat-moved Ada Tempeh Miso',
      'seat-given-up Ada Miso',
    ])
    expect([seated('Tempeh'), seated('Miso')]).toEqual([[], []])
  })

  it('for a line is written, too', async () => {
    const { claim, entries, rule, seat } = stage()
    rule({ full_groups: 'line' })
    seat('Tempeh', 'Bo', 'Cleo')
    expect(await claim('Ada', 'wait', 'Tempeh')).toBe('yes')
    expect(await claim('Ada', 'leave-line', 'Tempeh')).toBe('yes')
    expect(entries()).toEqual(['line-joined Ada Tempeh', 'line-left Ada Tempeh'])
  })

  it('names groups of its own sheet that are there; what it leaves is as it was where it is refused', async () => {
    const { claim, stores, group, now, seated, position, course } = stage()
    const other = stores.sheets.add(course.id, { title: 'Other', contact: '', seats: 2, floor: 1 }, now())
    stores.sheets.addTopic(other.id, { title: 'Elsewhere', ...PLAIN }, [null], now())
    expect(await claim('Ada', 'take', 'Tempeh')).toBe('yes')
    const before = position()
    const moved = group('Miso')
    stores.sheets.removeTopic(moved.topic_id, now())
    const to = async (code: string) => {
      const { sheet, person, claims } = stage()
      const { id, person_id } = person('Ada')
      const ask = { kind: 'move', from: group('Tempeh').code, to: code } as const
      const claim = { sheetId: sheet().id, enrolmentId: id, actorId: person_id, key: `key of ${code}`, ask }
      return claims.submit(claim)
    }
    for (const code of [moved.code, stores.sheets.groups(other.id)[0]!.code, 'nothing'])
      expect(await to(code)).toEqual({ granted: false, reason: 'group-not-found' })
    expect([seated('Tempeh'), position()]).toEqual([['Ada'], before])
  })

  it('is for active students, while the sheet is open, where seats are chosen', async () => {
    const { claim, status, rule, set, stores, sheet, now, position } = stage()
    expect(await claim('Tom', 'take', 'Tempeh')).toBe('not-a-student')
    status('Bo', 'paused')
    expect(await claim('Bo', 'take', 'Tempeh')).toBe('enrolment-not-active')
    rule({ road: 'made' })
    expect(await claim('Ada', 'take', 'Tempeh')).toBe('groups-are-made')
    rule({ road: 'wished' })
    expect(await claim('Ada', 'take', 'Tempeh')).toBe('seats-by-wishes')
    rule({ road: 'chosen', opens_at: '2026-05-12T08:00:00.000Z' })
    expect(await claim('Ada', 'take', 'Tempeh')).toBe('window-not-open-yet')
    set('2026-05-13T08:00:00.000Z')
    expect(await claim('Ada', 'take', 'Tempeh')).toBe('window-closed')
    stores.sheets.archive(sheet().id, now())
    expect(await claim('Ada', 'take', 'Tempeh')).toBe('sheet-archived')
    stores.sheets.archive(sheet().id, null)
    set('2026-05-12T09:00:00.000Z')
    stores.sheets.setDeleted(sheet().id, now())
    expect(await claim('Ada', 'take', 'Tempeh')).toBe('sheet-archived')
    stores.sheets.setDeleted(sheet().id, null)
    stores.sheets.withdraw(sheet().id)
    expect(await claim('Ada', 'take', 'Tempeh')).toBe('sheet-not-published')
    expect(position()).toBe(0)
  })

  it('that an instructor granted is minded by neither window, changes, road nor work; by everything else', async () => {
    const { claim, rule, set, seated, entries, seat, person, group, sheet, claims } = stage()
    expect(await claim('Ada', 'take', 'Tempeh')).toBe('yes')
    rule({ changing: 'never', road: 'made' })
    set('2026-05-14T08:00:00.000Z')
    const granted = (name: string, from: string, to: string) =>
      claims.submit({
        sheetId: sheet().id,
        enrolmentId: person(name).id,
        actorId: 1,
        key: `granted ${name} ${to}`,
        ask: { kind: 'move', from: group(from).code, to: group(to).code },
        granted: true,
      })
    expect(await granted('Ada', 'Tempeh', 'Miso')).toEqual({ granted: true })
    expect(entries().at(-1)).toBe('seat-moved Ada Tempeh Miso because=request')
    seat('Tempeh', 'Bo', 'Cleo')
    expect(await granted('Ada', 'Miso', 'Tempeh')).toEqual({ granted: false, reason: 'group-full' })
    expect(seated('Miso')).toEqual(['Ada'])
  })

  it('keeps seats that are held for others, and uses up the one that is held for the asker', async () => {
    const { claim, hold, stores, group } = stage()
    hold('Tempeh', 'Ada')
    hold('Tempeh', null)
    expect(await claim('Bo', 'take', 'Tempeh')).toBe('group-full')
    expect(await claim('Ada', 'take', 'Tempeh')).toBe('yes')
    expect(stores.sheets.heldIn(group('Tempeh').id)).toHaveLength(1)
    expect(await claim('Bo', 'take', 'Tempeh')).toBe('group-full')
  })

  it('ends the invitations of who is seated: accepted where they sit now, lapsed elsewhere', async () => {
    const { claim, stores, sheet, group, person, now, entries, advance } = stage()
    for (const title of ['Tempeh', 'Miso'])
      stores.invitations.add(sheet().id, group(title).id, person('Ada').id, person('Bo').id, now())
    stores.invitations.add(sheet().id, group('Miso').id, person('Cleo').id, person('Bo').id, now())
    advance(HOUR)
    expect(await claim('Ada', 'take', 'Tempeh')).toBe('yes')
    const ends = (title: string) => stores.invitations.ofGroup(group(title).id).map(({ answer }) => answer)
    expect([ends('Tempeh'), ends('Miso')]).toEqual([['accepted'], ['lapsed', null]])
    const by = person('Bo').id
    expect(entries()).toEqual([
      `invitation-answered Ada Tempeh answer=accepted by=${by}`,
      `invitation-answered Ada Miso answer=lapsed by=${by}`,
      'seat-taken Ada Tempeh',
    ])
  })

  it('lets an extra seat of the group that is left become an ordinary one', async () => {
    const { claim, stores, group, person, now, seated } = stage()
    for (const name of ['Ada', 'Bo']) expect(await claim(name, 'take', 'Tempeh')).toBe('yes')
    stores.seats.seat(group('Tempeh').sheet_id, group('Tempeh').id, person('Cleo').id, true, now())
    expect(await claim('Dai', 'take', 'Tempeh')).toBe('group-full')
    expect(await claim('Ada', 'give-up', 'Tempeh')).toBe('yes')
    expect(seated('Tempeh')).toEqual(['Bo', 'Cleo'])
    expect(await claim('Dai', 'take', 'Tempeh')).toBe('group-full')
    expect(await claim('Bo', 'move', 'Miso', 'Tempeh')).toBe('yes')
    expect(await claim('Dai', 'take', 'Tempeh')).toBe('yes')
  })

  it('is answered once: the same key gives the same answer, and another claim under it is refused', async () => {
    const { claims, sheet, person, group, seated } = stage()
    const { id, person_id } = person('Ada')
    const under = (to: string, enrolmentId = id, sheetId = sheet().id) =>
      claims.submit({
        sheetId,
        enrolmentId,
        actorId: person_id,
        key: 'one-key-only',
        ask: { kind: 'take', to: group(to).code },
      })
    expect(await under('Tempeh')).toEqual({ granted: true })
    expect(await under('Tempeh')).toEqual({ granted: true })
    await expect(under('Miso')).rejects.toMatchObject({ code: 'key-used-otherwise' })
    await expect(under('Tempeh', id, 99)).rejects.toMatchObject({ code: 'key-used-otherwise' })
    expect(await under('Tempeh', person('Bo').id)).toEqual({ granted: true })
    expect(seated('Tempeh')).toEqual(['Ada', 'Bo'])
    expect(await under('Tempeh', person('Cleo').id)).toEqual({ granted: false, reason: 'group-full' })
    expect(await under('Tempeh', person('Cleo').id)).toEqual({ granted: false, reason: 'group-full' })
  })

  it('is taken back where what follows from it fails', async () => {
    const { claims, sheet, person, group, seated, position } = stage()
    const claim = {
      sheetId: sheet().id,
      enrolmentId: person('Ada').id,
      actorId: 1,
      key: 'a-key-to-follow',
      ask: { kind: 'take', to: group('Tempeh').code } as const,
    }
    const follow = () => {
      throw new Error('answered already')
    }
    await expect(claims.submit({ ...claim, follow })).rejects.toThrow('answered already')
    expect([seated('Tempeh'), position()]).toEqual([[], 0])
    const followed: string[] = []
    expect(await claims.submit({ ...claim, follow: (now) => void followed.push(now) })).toEqual({
      granted: true,
    })
    expect(followed).toEqual([stage().now()])
    expect(seated('Tempeh')).toEqual(['Ada'])
  })
})

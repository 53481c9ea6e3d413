import { describe, expect, it } from 'vitest'
import { HOUR, MINUTE, shift } from '../../src/core/instant.ts'
import { keepingsOn } from '../../src/server/plans/keepings.ts'
import { recallSeated, tellSeated } from '../../src/server/plans/mail.ts'
import { stageEach } from './stage.ts'

const stage = stageEach((s) => {
  s.enrol(['Ada', 'Bo', 'Cleo', 'Dai'])
})
const mailsTo = (name: string) =>
  stage()
    .mails()
    .filter(({ recipient }) => recipient === `${name.toLowerCase()}@haplon.example`)

describe('who keeps apart or together', () => {
  it('is who was named and still takes part, until the day the rule ends', () => {
    const s = stage()
    const ids = (...names: string[]) => names.map((name) => s.person(name).id)
    const keep = (kind: 'apart' | 'together', members: number[], expiresAt: string | null) =>
      s.stores.plans.addKeeping(s.course.id, { kind, note: '', expiresAt, members }, s.now())
    keep('apart', ids('Ada', 'Bo', 'Cleo'), null)
    keep('together', ids('Cleo', 'Dai'), shift(s.now(), HOUR))
    const names = () =>
      keepingsOn(s.sheet(), s.now(), s.stores).map(({ kind, people }) => [
        kind,
        people.map((code) => s.stores.roster.everybody(s.course.id).find((one) => one.code === code)?.name),
      ])
    expect(names()).toEqual([
      ['apart', ['Ada', 'Bo', 'Cleo']],
      ['together', ['Cleo', 'Dai']],
    ])
    s.status('Cleo', 'left')
    expect(names()).toEqual([['apart', ['Ada', 'Bo']]])
    s.status('Cleo', 'active')
    s.advance(HOUR)
    expect(names()).toEqual([['apart', ['Ada', 'Bo', 'Cleo']]])
  })
})

describe('mail about a seat', () => {
  it('says where, when, with whom and who leads as far as the rules show it; held mail can be recalled', () => {
    const s = stage()
    s.addTopic('Koji', {
      place: 'Room 2',
      starts_at: '2026-05-20T08:00:00.000Z',
      ends_at: '2026-05-20T09:30:00.000Z',
    })
    s.rule({ seats: 3 })
    s.seat('Koji', 'Ada', 'Bo', 'Cleo')
    s.status('Cleo', 'paused')
    const seated = (name: string) => [{ person: s.person(name).code, to: s.group('Koji').code }]
    const tell = (name: string, held: { cause: string } | null = null) =>
      s.unit.onSheet(s.sheet(), s.now(), () =>
        tellSeated(
          s.sheet(),
          s.course,
          seated(name),
          'https://haplon.example/s/1',
          held && { ...held, now: s.now() },
          s.stores,
          s.mailer,
        ),
      )
    tell('Bo')
    expect(mailsTo('Bo')).toMatchObject([
      {
        subject: 'Benches: you sit at Koji',
        body: expect.stringMatching(
          /^You now sit at Koji on the sheet “Benches”\.\nWhen: .*\nWhere: Room 2\.\nWith: Ada\.\nWho answers for the group: Ada\.\n\nhttps:\/\/haplon\.example\/s\/1$/,
        ),
      },
    ])
    tell('Ada')
    expect(mailsTo('Ada')[0]!.body).toContain('With: Bo.\nWho answers for the group: you.')
    s.rule({ names: 'nobody' })
    tell('Bo')
    expect(mailsTo('Bo')[0]!.body).not.toMatch(/With:|Ada/)
    s.rule({ names: 'after-close', convener: 'none' })
    tell('Ada', { cause: 'hand 1' })
    const recall = () =>
      s.unit.onSheet(s.sheet(), s.now(), () =>
        recallSeated(s.sheet(), 'hand 1', '', s.now(), s.stores, s.mailer),
      )
    recall()
    expect(mailsTo('Ada')).toHaveLength(1)
    tell('Ada', { cause: 'hand 1' })
    s.advance(MINUTE)
    s.stores.mail.keepHeld(s.now())
    recall()
    expect(mailsTo('Ada').map(({ subject }) => subject)).toEqual([
      'Benches: what you were told of your seat was taken back',
      'Benches: you sit at Koji',
      'Benches: you sit at Koji',
    ])
  })
})

import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { Fault } from './call.ts'
import { type Draft, type DraftRules, draftWords, type Known } from './draft.ts'
import { createDrafts } from './drafts.ts'
import type { TabStorage } from './tabKept.ts'

beforeEach(() => {
  vi.useFakeTimers()
})
afterEach(() => {
  vi.useRealTimers()
})

/** A tab's session storage. */
function tabStorage(): TabStorage {
  const kept = new Map<string, string>()
  return {
    getItem: (key) => kept.get(key) ?? null,
    setItem: (key, value) => void kept.set(key, value),
    removeItem: (key) => void kept.delete(key),
    key: (n) => [...kept.keys()][n] ?? null,
    get length() {
      return kept.size
    },
  }
}

const fault = (status: number, code = 'server-fault') =>
  new Fault({ type: '', code: code as 'server-fault', title: '', status, detail: `no (${status})` })

/** A server that keeps one text, answers after a while, and can be made to fail. */
function server(text = '') {
  const state = { text, version: 1, at: 1, delay: 100, failing: null as Fault | null, loses: false, sends: 0 }
  const send = async (value: string, version: Known<string>['version']): Promise<Known<string>> => {
    state.sends += 1
    await new Promise((resolve) => setTimeout(resolve, state.delay))
    if (state.failing) throw state.failing
    if (version !== state.version) throw fault(409, 'marked-meanwhile')
    state.text = value
    state.version += 1
    if (state.loses) throw fault(0)
    state.at += 1
    return { value, version: state.version, at: state.at }
  }
  const known = (): Known<string> => ({ value: state.text, version: state.version, at: ++state.at })
  return { state, send, known }
}

type Server = ReturnType<typeof server>

function page(own: Server, storage = tabStorage(), more: Partial<DraftRules<string>> = {}, who = 'ada') {
  const drafts = createDrafts(
    () => storage,
    () => who,
  )
  const rules: DraftRules<string> = {
    pause: 500,
    send: own.send,
    meanwhile: ['marked-meanwhile'],
    fetch: () => setTimeout(() => drafts.heard('text', own.known()), 50),
    ...more,
  }
  drafts.open('text', rules, own.known())
  const leave = drafts.read('text', () => {})
  return { drafts, leave, storage, now: () => drafts.shown<string>('text') as Draft<string> }
}

const pass = (ms: number) => vi.advanceTimersByTimeAsync(ms)

describe('a draft', () => {
  it('is sent after a pause, and says so', async () => {
    const own = server('old')
    const { drafts, now } = page(own)
    expect(now()).toMatchObject({ value: 'old', state: 'kept' })
    drafts.write('text', 'new')
    expect(now()).toMatchObject({ value: 'new', state: 'waiting' })
    await pass(499)
    expect(own.state.sends).toBe(0)
    await pass(2)
    expect(now().state).toBe('saving')
    await pass(200)
    expect(now()).toMatchObject({ value: 'new', state: 'kept' })
    expect(own.state.text).toBe('new')
  })

  it('goes out although its page is left after ten milliseconds', async () => {
    const own = server('old')
    const { drafts, leave } = page(own)
    drafts.write('text', 'new')
    await pass(10)
    leave()
    // At once, and not after the pause: what is on its way outlives the page, a timer does not.
    expect(own.state.sends).toBe(1)
    await pass(150)
    expect(own.state.text).toBe('new')
  })

  it('sends one after the other, and cuts nothing off that is typed while an answer is slow', async () => {
    const own = server('')
    own.state.delay = 2_000
    const { drafts, now } = page(own)
    drafts.write('text', 'a')
    await pass(600)
    for (const letter of ['ab', 'abc', 'abcd']) {
      drafts.write('text', letter)
      await pass(300)
    }
    expect(own.state.sends).toBe(1)
    expect(now().value).toBe('abcd')
    // A view that was fetched before the answer is no news.
    drafts.heard('text', { value: '', version: 1, at: 0 })
    expect(now().value).toBe('abcd')
    await pass(10_000)
    expect(own.state.text).toBe('abcd')
    expect(own.state.sends).toBe(2)
    expect(now()).toMatchObject({ value: 'abcd', state: 'kept', theirs: null })
  })

  it('is tried again when the server cannot be reached, is down, or ended the session, until it is kept', async () => {
    for (const failing of [fault(0), fault(503), fault(401, 'not-signed-in')]) {
      const own = server('old')
      own.state.failing = failing
      const { drafts, now } = page(own)
      drafts.write('text', 'new')
      await pass(700)
      expect(now().state).toBe('retrying')
      expect(draftWords(now())).toMatch(/^Not saved yet/)
      await pass(30_000)
      own.state.failing = null
      await pass(16_000)
      expect(own.state.text).toBe('new')
      expect(draftWords(now())).toBe('Saved')
    }
  })

  it('is sent again no sooner than the server asks for', async () => {
    const own = server('old')
    const { problem } = fault(503)
    own.state.failing = new Fault(problem, 9_000)
    const { drafts } = page(own)
    drafts.write('text', 'new')
    await pass(650)
    own.state.failing = null
    await pass(8_000)
    expect(own.state.sends).toBe(1)
    await pass(2_000)
    expect([own.state.sends, own.state.text]).toEqual([2, 'new'])
  })

  it('that is written back while an answer is lost goes back on the server, too', async () => {
    const own = server('A')
    own.state.loses = true
    const { drafts, now } = page(own)
    drafts.write('text', 'AB')
    await pass(650)
    own.state.loses = false
    drafts.write('text', 'A')
    expect(now().state).not.toBe('kept')
    await pass(20_000)
    expect([own.state.text, now().state, now().theirs]).toEqual(['A', 'kept', null])
  })

  it('that is written on while an answer is lost is nobody else’s', async () => {
    const own = server('A')
    own.state.loses = true
    const { drafts, now } = page(own)
    drafts.write('text', 'AB')
    await pass(650)
    own.state.loses = false
    drafts.write('text', 'ABC')
    await pass(20_000)
    expect([own.state.text, now().state]).toEqual(['ABC', 'kept'])
  })

  it('beside somebody else’s waits for a decision, however often that is kept anew', async () => {
    const own = server('old')
    const { drafts, now, storage } = page(own)
    drafts.write('text', 'mine')
    for (const version of [2, 3]) {
      Object.assign(own.state, { text: 'theirs', version })
      drafts.heard('text', own.known())
      await pass(20_000)
      expect([own.state.text, now().state, now().theirs]).toEqual(['theirs', 'beside', 'theirs'])
    }
    // So it does after a reload.
    const again = page(own, storage)
    again.drafts.heard('text', own.known())
    await pass(20_000)
    expect([own.state.text, again.now().state]).toEqual(['theirs', 'beside'])
    again.drafts.decide('text', 'theirs')
    expect(again.now()).toMatchObject({ value: 'theirs', state: 'kept', theirs: null })
    expect(storage.length).toBe(0)
  })

  it('that is dropped while it is on its way is what the server has, in the end', async () => {
    for (const loses of [false, true]) {
      const own = server('old')
      own.state.loses = loses
      const { drafts, now } = page(own)
      drafts.write('text', 'new')
      await pass(550)
      drafts.drop('text')
      expect(now().state).toBe('saving')
      await pass(5_000)
      expect(now()).toMatchObject({ value: 'new', state: 'kept' })
    }
  })

  it('is kept although its answer was lost: what the server has by then is the same', async () => {
    const own = server('old')
    own.state.loses = true
    const { drafts, now } = page(own)
    drafts.write('text', 'new')
    await pass(700)
    own.state.loses = false
    await pass(30_000)
    expect(now()).toMatchObject({ value: 'new', state: 'kept', theirs: null })
    expect(own.state.text).toBe('new')
  })

  it('stays as written when the server says no, and is sent again when it is changed', async () => {
    const own = server('old')
    own.state.failing = fault(422, 'body-invalid')
    const { drafts, now } = page(own)
    drafts.write('text', 'too long')
    await pass(700)
    expect(now()).toMatchObject({ value: 'too long', state: 'refused' })
    own.state.failing = null
    drafts.write('text', 'short')
    await pass(2_000)
    expect(own.state.text).toBe('short')
  })

  it('survives a reload, for the same person only, and is gone after the sign-out', async () => {
    const own = server('old')
    own.state.failing = fault(0)
    const first = page(own)
    first.drafts.write('text', 'new')
    await pass(700)
    const other = page(server('old'), first.storage, {}, 'bo')
    expect(other.now().value).toBe('old')
    own.state.failing = null
    const again = page(own, first.storage)
    expect(again.now().value).toBe('new')
    await pass(2_000)
    expect(own.state.text).toBe('new')
    own.state.failing = fault(0)
    again.drafts.write('text', 'newer')
    await pass(700)
    again.drafts.forget()
    expect(page(own, first.storage).now().value).toBe('new')
  })

  it('of two tabs loses nothing: what the other changed is laid beside what was written', async () => {
    const own = server('old')
    const [one, other] = [page(own), page(own)]
    one.drafts.write('text', 'mine')
    other.drafts.write('text', 'theirs')
    await pass(1_500)
    const [kept, beside] = own.state.text === 'mine' ? [one, other] : [other, one]
    expect(kept.now().state).toBe('kept')
    expect(beside.now().state).toBe('beside')
    expect(beside.now().theirs).toBe(own.state.text)
    const mine = beside.now().value
    expect(mine).not.toBe(own.state.text)
    beside.drafts.decide('text', 'mine')
    await pass(1_000)
    expect(own.state.text).toBe(mine)
  })

  it('is merged where both can stand', async () => {
    const own = server('a b')
    const merge = (base: string, mine: string, theirs: string) =>
      mine.startsWith(base) ? theirs + mine.slice(base.length) : null
    const { drafts, now } = page(own, tabStorage(), { merge })
    drafts.write('text', 'a b c')
    own.state.text = 'x a b'
    own.state.version = 2
    drafts.heard('text', own.known())
    await pass(1_000)
    expect(own.state.text).toBe('x a b c')
    expect(now().state).toBe('kept')
  })

  it('that only this tab keeps is there until it is dropped', () => {
    const storage = tabStorage()
    const open = () => {
      const drafts = createDrafts(
        () => storage,
        () => 'ada',
      )
      drafts.open('post', { pause: 0 }, { value: '', version: 0, at: 0 })
      return drafts
    }
    const drafts = open()
    drafts.write('post', 'half a post')
    expect(open().shown<string>('post')?.value).toBe('half a post')
    drafts.drop('post')
    expect(open().shown<string>('post')?.value).toBe('')
    expect(storage.length).toBe(0)
  })
})

describe('a draft that is not whole', () => {
  const whole = { ready: (text: string) => text === '' || /^\d{4}$/.test(text) }

  it('is never sent, whatever happens, and says so', async () => {
    const own = server('2026')
    const { drafts, leave, now } = page(own, tabStorage(), whole)
    drafts.write('text', '202')
    expect(now().state).toBe('unfinished')
    await pass(5_000)
    expect(await drafts.flush('text')).toBe(false)
    drafts.flushAll()
    leave()
    await pass(5_000)
    expect([own.state.sends, own.state.text]).toEqual([0, '2026'])
    expect(draftWords(now())).toContain('not whole')
  })

  it('is sent once it is whole; empty is whole', async () => {
    const own = server('2026')
    const { drafts, now } = page(own, tabStorage(), whole)
    drafts.write('text', '20')
    drafts.write('text', '2027')
    await pass(1_000)
    expect([own.state.text, now().state]).toEqual(['2027', 'kept'])
    drafts.write('text', '')
    await pass(1_000)
    expect(own.state.text).toBe('')
  })

  it('is there again after a reload, and still not sent', async () => {
    const storage = tabStorage()
    const own = server('2026')
    page(own, storage, whole).drafts.write('text', '20')
    const again = page(own, storage, whole)
    expect(again.now()).toMatchObject({ value: '20', state: 'unfinished' })
    await pass(20_000)
    expect(own.state.sends).toBe(0)
  })
})

it('of many drafts, the one that needs somebody most is told of', async () => {
  const own = server()
  const { drafts } = page(own)
  const rules = { pause: 10, send: own.send }
  drafts.open('x 1', rules, own.known())
  expect(drafts.worst('x ')).toBe('kept')
  drafts.write('x 1', 'typed')
  expect(drafts.worst('x ')).toBe('waiting')
  expect(drafts.worst('y ')).toBe('kept')
  own.state.failing = fault(422)
  await pass(1_000)
  expect(drafts.worst('x ')).toBe('refused')
})

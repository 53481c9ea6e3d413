import fc from 'fast-check'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { Fault } from './call.ts'
import type { Draft, DraftRules, Known } from './draft.ts'
import { createDrafts } from './drafts.ts'
import { tabStorage } from './tabStorage.ts'

// The draft engine, played through any order of typing, answers, losses, other writers, reloads and drops against a plain
// model of the server: what is said is so, and nobody's text is overwritten unasked.

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

const fault = (status: number, code = 'server-fault') =>
  new Fault({ type: '', code: code as 'server-fault', title: '', status, detail: `no (${status})` })

type Fate = 'arrives' | 'lost on its way' | 'answer lost' | 'busy' | 'refused'

/** A server that keeps every version of one text, with who wrote it. */
function plainServer() {
  const versions: { text: string; by: 'me' | 'other' }[] = [{ text: '', by: 'other' }]
  const newest = () => versions.length
  return {
    versions,
    newest,
    text: () => versions[newest() - 1]!.text,
    by: () => versions[newest() - 1]!.by,
    write: (text: string, by: 'me' | 'other') => void versions.push({ text, by }),
  }
}

/** What happens, one thing after the other. */
const steps = fc.array(
  fc.oneof(
    {
      weight: 4,
      arbitrary: fc.record({
        kind: fc.constant('type' as const),
        text: fc.constantFrom('', 'A', 'AB', 'ABC', 'X'),
      }),
    },
    {
      weight: 4,
      arbitrary: fc.record({
        kind: fc.constant('pass' as const),
        ms: fc.constantFrom(50, 400, 700, 2_000, 16_000),
      }),
    },
    {
      weight: 3,
      arbitrary: fc.record({
        kind: fc.constant('line' as const),
        fate: fc.constantFrom<Fate>('arrives', 'lost on its way', 'answer lost', 'busy', 'refused'),
        delay: fc.constantFrom(10, 300, 3_000),
      }),
    },
    {
      weight: 2,
      arbitrary: fc.record({
        kind: fc.constant('other' as const),
        text: fc.constantFrom('', 'A', 'AB', 'Q'),
      }),
    },
    {
      weight: 2,
      arbitrary: fc.record({ kind: fc.constant('view' as const), delay: fc.constantFrom(0, 200, 2_500) }),
    },
    fc.record({ kind: fc.constant('drop' as const) }),
    fc.record({ kind: fc.constant('reload' as const) }),
    fc.record({
      kind: fc.constant('decide' as const),
      whose: fc.constantFrom<'mine' | 'theirs'>('mine', 'theirs'),
    }),
  ),
  { maxLength: 40 },
)

/** Plays one history; throws where something was said that is not so, or a text was overwritten unasked. */
async function play(history: typeof steps extends fc.Arbitrary<infer All> ? All : never): Promise<void> {
  const server = plainServer()
  const storage = tabStorage()
  const line = { fate: 'arrives' as Fate, delay: 10 }
  let at = 1
  // What was dropped may still be on its way: what it comes to is known with a later view.
  let mayArrive = false
  // Versions of somebody else's that the writer has seen and not objected to, or decided to go over.
  const agreed = new Set([1])
  const unasked: string[] = []
  const known = (): Known<string> => ({ value: server.text(), version: server.newest(), at: ++at })
  const send = async (value: string, version: Known<string>['version']): Promise<Known<string>> => {
    const { fate, delay } = line
    await new Promise((resolve) => setTimeout(resolve, delay))
    if (fate === 'lost on its way') throw fault(0)
    if (fate === 'busy') throw fault(429, 'too-busy')
    if (fate === 'refused') throw fault(422, 'body-invalid')
    if (version !== server.newest()) throw fault(409, 'changed-meanwhile')
    if (server.by() === 'other' && !agreed.has(server.newest())) unasked.push(`${server.text()} by ${value}`)
    server.write(value, 'me')
    const answer = known()
    await new Promise((resolve) => setTimeout(resolve, delay))
    if (fate === 'answer lost') throw fault(0)
    return answer
  }
  let drafts = createDrafts(
    () => storage,
    () => 'ada',
  )
  let leave = () => {}
  const shown = () => drafts.shown<string>('text') as Draft<string>
  const hear = (theirs: Known<string>, by: typeof drafts) => {
    // An answer reaches the page that asked, and no other.
    if (by !== drafts) return
    const { state, theirs: before } = shown()
    drafts.heard('text', theirs)
    const now = shown()
    // Text that is shown with nothing of one's own over it, or that is what one began from, is agreed to by going on.
    if (now.state !== 'beside' && !(state === 'beside' && before === theirs.value))
      agreed.add(Number(theirs.version))
  }
  const agreeToTheirs = () => {
    const { theirs } = shown()
    if (theirs !== null) agreed.add(server.versions.findLastIndex(({ text }) => text === theirs) + 1)
  }
  const fetch = (delay: number) => {
    const by = drafts
    // It is read when it is asked for, and arrives later.
    const view = known()
    setTimeout(() => hear(view, by), delay)
  }
  const rules: DraftRules<string> = {
    pause: 500,
    send,
    meanwhile: ['changed-meanwhile'],
    fetch: () => fetch(100),
  }
  const open = () => {
    const first = known()
    drafts.open('text', rules, first)
    leave = drafts.read('text', () => {})
    hear(first, drafts)
  }
  open()
  const look = () => {
    const { state, value } = shown()
    // Where it is said to be kept, the newest of one's own on the server is what is shown.
    if (state === 'kept' && server.by() === 'me' && !mayArrive)
      expect(value, 'said to be kept').toBe(server.text())
    expect(unasked, 'overwritten unasked').toEqual([])
  }
  for (const step of history) {
    if (step.kind === 'type') {
      mayArrive = false
      // Whoever writes what stands beside agrees to it.
      if (step.text === shown().theirs) agreeToTheirs()
      drafts.write('text', step.text)
    } else if (step.kind === 'line') Object.assign(line, step)
    else if (step.kind === 'other') server.write(step.text, 'other')
    else if (step.kind === 'view') fetch(step.delay)
    else if (step.kind === 'drop') {
      mayArrive = true
      agreeToTheirs()
      drafts.drop('text')
    } else if (step.kind === 'decide') {
      if (shown().state !== 'beside') continue
      agreeToTheirs()
      drafts.decide('text', step.whose)
    } else if (step.kind === 'reload') {
      leave()
      drafts.letGo()
      drafts = createDrafts(
        () => storage,
        () => 'ada',
      )
      open()
    }
    if (step.kind === 'pass') await vi.advanceTimersByTimeAsync(step.ms)
    look()
  }
  // Once the line is well, everything is kept, or somebody else's stands beside it until that is decided.
  Object.assign(line, { fate: 'arrives', delay: 10 })
  for (let i = 0; i < 4; i++) {
    await vi.advanceTimersByTimeAsync(60_000)
    const { state, value } = shown()
    // What was refused is sent again once it is written anew.
    if (state === 'refused') drafts.write('text', value)
    await vi.advanceTimersByTimeAsync(60_000)
    fetch(0)
    await vi.advanceTimersByTimeAsync(1_000)
    look()
    if (shown().state === 'beside') {
      agreed.add(server.newest())
      drafts.decide('text', 'mine')
    }
  }
  expect(shown()).toMatchObject({ state: 'kept', value: server.text(), theirs: null })
  expect(storage.keys()).toEqual([])
  leave()
}

it('says what is so, overwrites nobody unasked, and is kept in the end, whatever happens', async () => {
  await fc.assert(fc.asyncProperty(steps, play), { numRuns: 2000 })
}, 120_000)

it('keeps nothing of somebody who signed out, whatever was on its way, and hears no answer of theirs', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.constantFrom('answers', 'fails'),
      fc.constantFrom(0, 100, 600, 900),
      fc.boolean(),
      async (how, after, forgets) => {
        const storage = tabStorage()
        let who = 'ada'
        const drafts = createDrafts(
          () => storage,
          () => who,
        )
        const send = async (value: string) => {
          await new Promise((resolve) => setTimeout(resolve, 300))
          if (how === 'fails') throw fault(0)
          return { value, version: 2, at: 2 }
        }
        const rules = { pause: 500, send }
        drafts.open('text', rules, { value: '', version: 1, at: 1 })
        drafts.read('text', () => {})
        drafts.write('text', 'of Ada')
        await vi.advanceTimersByTimeAsync(after)
        if (forgets) drafts.forget()
        else drafts.letGo()
        who = 'bo'
        expect(drafts.open('text', rules, { value: '', version: 1, at: 1 }).value).toBe('')
        await vi.advanceTimersByTimeAsync(60_000)
        expect(drafts.shown('text')).toMatchObject({ value: '', state: 'kept' })
        const kept = storage.keys().filter((key) => key.includes('bo'))
        expect(kept).toEqual([])
        if (forgets) expect(storage.keys()).toEqual([])
      },
    ),
  )
})

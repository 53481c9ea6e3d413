import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { ProblemCode } from '../../contract/problems.ts'
import { createActs, type Deed, type Question } from './acts.ts'
import { Fault } from './call.ts'

const fault = (code: ProblemCode, detail: string) =>
  new Fault({ type: '', code, title: '', status: 409, detail })

/** A page with a list that deeds add to and take from, and everything that it said and asked. */
function page() {
  const said: { words: string; undo?: () => void }[] = []
  const warned: string[] = []
  const asked: Question[] = []
  const state = { answer: true, failing: null as Fault | null, asking: null as Fault | null, takes: 0 }
  const list: string[] = []
  const acts = createActs({
    say: (words, undo) => void said.push({ words, ...(undo && { undo }) }),
    warn: (words) => void warned.push(words),
    ask: async (question) => {
      asked.push(question)
      return state.answer
    },
  })
  const send = (change: () => void) => async (confirmed: boolean) => {
    if (state.takes > 0) await new Promise((resolve) => setTimeout(resolve, state.takes))
    if (state.failing) throw state.failing
    if (state.asking && !confirmed) throw state.asking
    change()
    return [...list]
  }
  const add = (item: string, more: Partial<Deed<string[]>> = {}) =>
    acts.do({
      work: send(() => void list.push(item)),
      undo: send(() => void list.splice(list.indexOf(item), 1)),
      said: `${item} added.`,
      ...more,
    })
  return { acts, said, warned, asked, state, list, add }
}

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

describe('a deed', () => {
  it('is sent, put onto the page and said once', async () => {
    const { said, add } = page()
    const put = vi.fn()
    const done = await add('a', { put })
    expect(done).toMatchObject({ fault: null, answer: ['a'], declined: false })
    expect(put.mock.calls).toEqual([[['a']]])
    expect(said.map(({ words }) => words)).toEqual(['a added.'])
  })

  it('that fails says why, or leaves it to a field, and fetches anew', async () => {
    const { warned, said, state, add } = page()
    state.failing = fault('group-full', 'It is full.')
    const refetch = vi.fn()
    expect((await add('a', { refetch })).fault).toBe(state.failing)
    expect(warned).toEqual(['It is full.'])
    await add('b', { beside: true })
    expect(warned).toHaveLength(1)
    expect([said, refetch.mock.calls]).toEqual([[], [[]]])
  })

  it('that is asked about first is sent again once it is confirmed, and not at all otherwise', async () => {
    const { asked, list, warned, state, add } = page()
    state.asking = fault('seated-affected', 'Two people sit there.')
    await add('a', { ask: { title: 'Remove it?' } })
    expect(asked).toMatchObject([
      { title: 'Remove it?', yes: 'Save change', detail: 'Two people sit there.' },
    ])
    state.answer = false
    expect(await add('b')).toMatchObject({ declined: true })
    expect([list, warned]).toEqual([['a'], []])
  })

  it('waits for those before it in its line, in order, although one of them fails', async () => {
    const { list, state, add } = page()
    state.takes = 2_000
    const first = add('slow', { line: 'x' })
    state.takes = 10
    const second = add('quick', { line: 'x' })
    const other = add('free')
    await vi.advanceTimersByTimeAsync(50)
    expect(list).toEqual(['free'])
    await vi.advanceTimersByTimeAsync(3_000)
    await Promise.all([first, second, other])
    expect(list).toEqual(['free', 'slow', 'quick'])
  })

  it('counts as under way until its answer came', async () => {
    const { acts, state, add } = page()
    const changes = vi.fn()
    acts.watch(changes)
    state.takes = 100
    const done = add('a')
    expect(acts.busy()).toBe(true)
    await vi.advanceTimersByTimeAsync(100)
    await done
    expect([acts.busy(), changes.mock.calls.length]).toEqual([false, 2])
  })
})

describe('an undo', () => {
  it('that is offered with words undoes its own step, whatever was done since', async () => {
    const { said, list, add } = page()
    await add('a')
    await add('b')
    said[0]?.undo?.()
    await vi.runAllTimersAsync()
    expect(list).toEqual(['b'])
    expect(said.at(-1)?.words).toBe('Undone: “a added”.')
    // Pressed again, there is nothing left to undo.
    said[0]?.undo?.()
    await vi.runAllTimersAsync()
    expect(list).toEqual(['b'])
  })

  it('without a name undoes the last step, and says what came of it where that is more', async () => {
    const { acts, said, list, add } = page()
    await add('a')
    await add('b', { saidUndone: (left) => `${left.length} left.` })
    await acts.undo()
    expect([list, said.at(-1)?.words]).toEqual([['a'], 'Undone. 1 left.'])
    await acts.redo()
    expect(list).toEqual(['a', 'b'])
  })

  it('that fails says why and stays, so that it can be tried again', async () => {
    const { acts, warned, list, state, add } = page()
    await add('a')
    state.failing = fault('changed-meanwhile', 'Somebody changed it meanwhile.')
    await acts.undo()
    expect([list, warned]).toEqual([['a'], ['Not undone. Somebody changed it meanwhile.']])
    state.failing = null
    await acts.undo()
    expect(list).toEqual([])
  })

  it('that is asked about and declined needs no second word, and stays', async () => {
    const { acts, warned, list, state, add } = page()
    await add('a')
    state.asking = fault('seated-affected', 'Somebody sits there.')
    state.answer = false
    await acts.undo()
    expect([list, warned]).toEqual([['a'], []])
    state.answer = true
    await acts.undo()
    expect(list).toEqual([])
  })

  it('pressed twice at once undoes the last two, each once', async () => {
    const { acts, list, state, add } = page()
    await add('a')
    await add('b')
    await add('c')
    state.takes = 50
    void acts.undo()
    void acts.undo()
    await vi.advanceTimersByTimeAsync(200)
    expect(list).toEqual(['a'])
  })
})

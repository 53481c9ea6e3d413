import { expect, it } from 'vitest'
import { Fault } from './call.ts'
import { createHistory } from './history.ts'

const no = new Fault({ type: '', code: 'group-full', title: '', status: 409, detail: 'full' })

/** A page with numbers on it, added and taken away by steps. */
function page() {
  const here = new Set<number>()
  const history = createHistory()
  const state = { failing: false }
  const act = (n: number, on: boolean) => async () => {
    if (state.failing) return no
    if (on) here.add(n)
    else here.delete(n)
    return null
  }
  const add = (n: number) => {
    here.add(n)
    return history.add(act(n, false), act(n, true))
  }
  return { here: () => [...here].sort(), history, add, state }
}

it('an undo undoes its own step, whatever was done since, and the last one without a name', async () => {
  const { here, history, add } = page()
  const first = add(1)
  add(2)
  expect(await history.undo(first)).toBe('done')
  expect(here()).toEqual([2])
  expect(await history.undo()).toBe('done')
  expect(here()).toEqual([])
  expect(await history.undo()).toBe('nothing')
})

it('a step is not undone twice, also when it is pressed twice at once', async () => {
  const { here, history, add } = page()
  const first = add(1)
  const both = await Promise.all([history.undo(first), history.undo(first)])
  expect(both).toEqual(['done', 'nothing'])
  expect(await history.undo(first)).toBe('nothing')
  expect(here()).toEqual([])
})

it('a step whose undo fails stays, and can be tried again', async () => {
  const { here, history, add, state } = page()
  const first = add(1)
  state.failing = true
  expect(await history.undo()).toBe(no)
  expect(here()).toEqual([1])
  expect(history.step()?.id).toBe(first)
  state.failing = false
  expect(await history.undo()).toBe('done')
  expect(here()).toEqual([])
})

it('what was undone is done again, until something new is done', async () => {
  const { here, history, add } = page()
  add(1)
  await history.undo()
  expect(await history.redo()).toBe('done')
  expect(here()).toEqual([1])
  await history.undo()
  add(2)
  expect(await history.redo()).toBe('nothing')
  expect(here()).toEqual([2])
})

it('the last 200 steps can be undone, and none that is older', async () => {
  const { here, history, add } = page()
  const ids = Array.from({ length: 201 }, (_, n) => add(n))
  expect(await history.undo(ids[0])).toBe('nothing')
  expect(await history.undo(ids[1])).toBe('done')
  expect(here()).toHaveLength(200)
})

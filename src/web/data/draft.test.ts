import { expect, it } from 'vitest'
import { Fault } from './call.ts'
import { type DraftState, draftWords, neediest } from './draft.ts'

it('the state that needs somebody most stands for all', () => {
  const of = (...states: DraftState[]) => neediest(new Set(states))
  expect(of()).toBe('kept')
  expect(of('kept', 'waiting')).toBe('waiting')
  expect(of('saving', 'retrying', 'waiting')).toBe('retrying')
  expect(of('retrying', 'unfinished')).toBe('unfinished')
  expect(of('unfinished', 'beside', 'saving')).toBe('beside')
  expect(of('beside', 'refused')).toBe('refused')
})

it('every state is told in words, and never as saved where it is not', () => {
  const fault = (status: number, detail: string) =>
    new Fault({ type: '', code: 'body-invalid', title: '', status, detail })
  const states: DraftState[] = ['unfinished', 'waiting', 'saving', 'retrying', 'refused', 'beside']
  for (const state of states) expect(draftWords({ state, fault: null })).not.toMatch(/^Saved/)
  expect(draftWords({ state: 'kept', fault: null })).toBe('Saved')
  expect(draftWords({ state: 'retrying', fault: fault(401, '') })).toMatch(/signed out.*kept here/)
  expect(draftWords({ state: 'retrying', fault: fault(503, '') })).toMatch(/trying again/)
  expect(draftWords({ state: 'refused', fault: fault(422, 'It is too long.') })).toBe(
    'Not saved: It is too long.',
  )
})

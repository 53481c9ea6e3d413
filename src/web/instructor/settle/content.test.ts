import { expect, it } from 'vitest'
import type { PlanContent } from '../../../contract/plans.ts'
import { CAREFUL } from '../../../core/rules.ts'
import { changesIn, titleFor } from './content.ts'
import { firstChoices } from './input.ts'

it('a plan’s changes are told in words, those that are none left out', () => {
  const move = (person: string, from: string | null) => ({ person, from, to: 'g' })
  const settings = { wishes: null }
  const content = {
    settings,
    moves: [move('a', null), move('b', null), move('c', 'h')],
    left: [
      { person: 'd', from: 'h' },
      { person: 'e', from: null },
    ],
    after: { left: 2 },
  } as unknown as PlanContent
  expect(changesIn(content)).toBe('2 get a seat, 1 move, 1 lose theirs, 2 are left without a group')
  const easy = { settings, moves: [move('a', null)], left: [], after: { left: 0 } } as unknown as PlanContent
  expect(changesIn(easy)).toBe('1 get a seat')
  const further = { ...content, settings: { wishes: { round: 2 } } } as unknown as PlanContent
  expect(changesIn(further)).toBe(
    '2 get a further seat, 1 move, 1 lose theirs, 2 are left without a second seat',
  )
})

it('a plan is called after how it was made', () => {
  const choices = firstChoices({ lotNumber: 7, rules: CAREFUL })
  expect(titleFor(choices)).toBe('Evenly')
  expect(titleFor({ ...choices, method: 'wishes' }, 2)).toBe('By wishes, the second seat')
  expect(titleFor({ ...choices, method: 'lot', pins: new Map([['a', 'g']]) })).toBe('By lot, changed by hand')
})

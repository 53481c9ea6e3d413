import { expect, it } from 'vitest'
import { createKeptAnswers } from './keptAnswers.ts'
import { tabStorage } from './tabStorage.ts'

it('gives the newest answer of a key to whom it was given, and to nobody else', () => {
  const tab = tabStorage()
  tab.setItem('of another page', 'stays')
  const answers = createKeptAnswers(() => tab)
  answers.readBy('ada')
  answers.keep('/api/desk', { piles: 1 })
  answers.keep('/api/desk', { piles: 2 })
  answers.readBy('ada')
  expect(answers.of('/api/desk')).toEqual({ piles: 2 })
  expect(answers.of('/api/other')).toBeNull()
  answers.readBy('bao')
  expect(answers.of('/api/desk')).toBeNull()
  answers.keep('/api/desk', { piles: 3 })
  answers.forget()
  expect(answers.of('/api/desk')).toBeNull()
  expect(tab.keys()).toEqual(['of another page'])
})

it('keeps nothing where there is no storage, or none left, or what is there is not readable', () => {
  const none = createKeptAnswers(() => null)
  none.readBy('ada')
  none.keep('/api/desk', 1)
  none.forget()
  expect(none.of('/api/desk')).toBeNull()
  const full = createKeptAnswers(() => tabStorage(1))
  full.readBy('ada')
  full.keep('/api/desk', 1)
  expect(full.of('/api/desk')).toBeNull()
  const tab = tabStorage()
  tab.setItem('haplon.answer./api/desk', '{half')
  expect(createKeptAnswers(() => tab).of('/api/desk')).toBeNull()
})

import { expect, it } from 'vitest'
import { createLeftDrafts } from './leftDrafts.ts'
import { tabStorage } from './tabStorage.ts'

const left = (value: string) => ({ value, base: { value: '', version: 1, at: 0 } })

it('what one person left is not given to another, and all of it goes at the sign-out', () => {
  const tab = tabStorage()
  tab.setItem('of another page', 'stays')
  let who = 'ada'
  const drafts = createLeftDrafts(
    () => tab,
    () => who,
  )
  drafts.keep('brief', left('Ada’s'))
  who = 'ben'
  expect(drafts.of('brief')).toBeNull()
  drafts.keep('brief', left('Ben’s'))
  who = 'ada'
  expect(drafts.of('brief')).toEqual(left('Ada’s'))
  drafts.forget()
  expect(tab.keys()).toEqual(['of another page'])
})

it('a storage that is full, broken or missing loses the reload and nothing else', () => {
  const full = createLeftDrafts(
    () => tabStorage(0),
    () => 'ada',
  )
  full.keep('brief', left('kept on the page'))
  expect(full.of('brief')).toBeNull()
  const tab = tabStorage()
  const broken = createLeftDrafts(
    () => tab,
    () => 'ada',
  )
  broken.keep('brief', left('x'))
  tab.setItem(tab.keys()[0]!, '{half')
  expect(broken.of('brief')).toBeNull()
  broken.drop('brief')
  expect(tab.keys()).toEqual([])
  const none = createLeftDrafts(
    () => null,
    () => 'ada',
  )
  none.keep('brief', left('x'))
  none.forget()
  expect(none.of('brief')).toBeNull()
})

import { expect, it } from 'vitest'
import type { ComposeView } from '../../../contract/sheets.ts'
import { CAREFUL } from '../../../core/rules.ts'
import { notReady, sameTitles } from './notReady.ts'

const topics = (...titles: string[]) => titles.map((title) => ({ title })) as ComposeView['topics']
const rules = CAREFUL
const NOW = '2026-05-06T07:00:00.000Z'

it('says everything that keeps a sheet from being published, and nothing where it can be', () => {
  expect(notReady({ rules, topics: [], closesAt: null }, NOW)).toEqual([
    'Add a topic: there is nothing to choose yet.',
    'Say when it closes.',
  ])
  expect(notReady({ rules, topics: topics('Miso'), closesAt: '2026-05-06T06:59:00.000Z' }, NOW)).toEqual([
    'The closing time has passed. Choose a later one.',
  ])
  expect(notReady({ rules, topics: topics('Miso'), closesAt: '2026-05-07T07:00:00.000Z' }, NOW)).toEqual([])
})

it('asks of groups that are made for nothing but that there are some', () => {
  const made = { ...CAREFUL, road: 'made' as const }
  expect(notReady({ rules: made, topics: topics('Pair 1'), closesAt: null }, NOW)).toEqual([])
  expect(notReady({ rules: made, topics: [], closesAt: null }, NOW)[0]).toMatch(/in Settle/)
})

it('finds topics of one title', () => {
  expect(sameTitles({ topics: topics('Miso', 'Kefir', 'miso ', 'Tempeh') })).toEqual(['miso '])
  expect(sameTitles({ topics: topics('Miso', 'Kefir') })).toEqual([])
})

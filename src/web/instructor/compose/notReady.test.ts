import { expect, it } from 'vitest'
import type { ComposeView } from '../../../contract/sheets.ts'
import { notReady, sameTitles } from './notReady.ts'

const topics = (...titles: string[]) => titles.map((title) => ({ title })) as ComposeView['topics']
const NOW = '2026-05-06T07:00:00.000Z'

it('says everything that keeps a sheet from being published, and nothing where it can be', () => {
  expect(notReady({ topics: [], closesAt: null }, NOW)).toEqual([
    'Add a topic: there is nothing to choose yet.',
    'Say when it closes.',
  ])
  expect(notReady({ topics: topics('Miso'), closesAt: '2026-05-06T06:59:00.000Z' }, NOW)).toEqual([
    'The closing time has passed. Choose a later one.',
  ])
  expect(notReady({ topics: topics('Miso'), closesAt: '2026-05-07T07:00:00.000Z' }, NOW)).toEqual([])
})

it('finds topics of one title', () => {
  expect(sameTitles({ topics: topics('Miso', 'Kefir', 'miso ', 'Tempeh') })).toEqual(['miso '])
  expect(sameTitles({ topics: topics('Miso', 'Kefir') })).toEqual([])
})

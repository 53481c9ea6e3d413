import { expect, it } from 'vitest'
import type { Happening } from '../../contract/groups.ts'
import { happeningWords } from './lately.ts'

it.each<[Happening['kind'], string, string, string]>([
  ['came', 'Ada Holt', '', 'Ada Holt took a seat here'],
  ['handed-in', 'Ada Holt', 'Report', 'Ada Holt handed in “Report”'],
  ['file-version', 'Ada Holt', 'plan.pdf', 'Ada Holt brought a new version of “plan.pdf”'],
  ['place', 'Ada Holt', 'meeting', 'Ada Holt changed the group’s meeting link'],
  ['place', 'Ada Holt', 'meeting name emblem', 'Ada Holt changed the group’s meeting link, name and emblem'],
  ['went', '', '', 'Haplon left the group'],
])('%s by %j is told', (kind, by, what, words) => {
  expect(happeningWords({ at: '2026-05-06T07:00:00.000Z', by, kind, what })).toBe(words)
})

import { describe, expect, it } from 'vitest'
import type { CoursesView } from '../../contract/courses.ts'
import { actionsIn, type Finding, foundBeyond, sought } from './finding.ts'

const sheet = (code: string, title: string, state: string) => ({ code, title, state })
const view = {
  now: '',
  waiting: [],
  courses: [
    {
      code: 'c1',
      courseCode: 'FERM 210',
      title: 'Fermentation',
      role: 'instructor',
      sheets: [
        sheet('s1', 'Projects', 'open'),
        sheet('s2', 'Essays', 'draft'),
        sheet('s3', 'Old', 'archived'),
      ],
    },
    {
      code: 'c2',
      courseCode: 'BREW 1',
      title: 'Brewing',
      role: 'tutor',
      sheets: [sheet('s4', 'Ales', 'open')],
    },
  ],
} as unknown as CoursesView
const titles = (found: readonly Finding[]) => found.map(({ title }) => title)
const typed = (words: string) => titles(sought(actionsIn(view, null, true), words))

describe('the find box', () => {
  it('finds actions by everyday words, only where they can be done', () => {
    expect(typed('nudge')).toEqual(['Nudge those without a group: Projects'])
    expect(typed('publish')).toEqual(['Publish Essays'])
    expect(typed('archive')).toEqual(['Archive Projects', 'Archive Essays', 'Restore Old'])
    expect(typed('import roster')).toEqual(['Import roster of FERM 210'])
    expect(typed('download ales')).toEqual([])
  })

  it('offers sheets and rosters before anything is typed, and no long lists', () => {
    expect(typed('')).toEqual(['Projects', 'Essays', 'Old', 'Roster of FERM 210', 'Ales', 'Roster of BREW 1'])
  })

  it('finds people and topics of all courses by name or address', () => {
    const beyond = {
      courses: [
        {
          code: 'c1',
          people: [
            {
              code: 'p1',
              name: 'Åse Bødker',
              listed: '',
              number: '0042',
              email: 'ab@x.example',
              section: 'Tue lab',
            },
          ],
          topics: [
            { sheet: 's1', code: 't1', title: 'Miso' },
            { sheet: 's2', code: 't2', title: 'Kefir' },
          ],
        },
      ],
    }
    const all = foundBeyond(view, beyond, 's1')
    expect(sought(all, 'ase b')).toMatchObject([{ to: '/courses/c1/people/p1', what: 'FERM 210, Tue lab' }])
    expect(sought(all, 'ab@x')).toHaveLength(1)
    // The open sheet's own topics are found on it already.
    expect(titles(all)).toEqual(['Åse Bødker', 'Kefir'])
  })

  it('puts first what begins with what was typed', () => {
    const all = ['On miso', 'Miso', 'A'].map((title) => ({ key: title, title, what: 'miso?', to: '' }))
    expect(titles(sought(all, 'miso'))).toEqual(['Miso', 'On miso', 'A'])
  })
})

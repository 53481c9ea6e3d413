import { describe, expect, it } from 'vitest'
import { bySurname, initials, matches, searchable } from './names.ts'

describe('names', () => {
  it('are found without their accents, by any of their words', () => {
    expect(searchable('Åse Møllgård')).toBe('ase mollgard')
    expect(matches('mollg åse', 'Åse Møllgård')).toBe(true)
    expect(matches('szcz', 'Zofia Szczęsny', 'z@x.example')).toBe(true)
    expect(matches('nobody', 'Zofia Szczęsny')).toBe(false)
    expect(matches('', 'anything')).toBe(true)
  })

  it('give initials of the first and the last word', () => {
    expect(initials('Thandiwe Ferreira de Brito')).toBe('TB')
    expect(initials('Åse')).toBe('Å')
    expect(initials('')).toBe('')
  })

  it('are ordered by surname', () => {
    expect(['Bao Trinh', 'Ada Lindqvist', 'Zoe Lindqvist'].sort(bySurname)).toEqual([
      'Ada Lindqvist',
      'Zoe Lindqvist',
      'Bao Trinh',
    ])
  })
})

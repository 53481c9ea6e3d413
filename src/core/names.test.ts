import { describe, expect, it } from 'vitest'
import { bySurname, initials, isLanguage, matches, nameOrder, searchable, shortNames } from './names.ts'

describe('names', () => {
  it('are found without their accents, by any of their words', () => {
    expect(searchable('Åse Møllgård')).toBe('ase mollgard')
    expect(matches('mollg åse', 'Åse Møllgård')).toBe(true)
    expect(matches('szcz', 'Zofia Szczęsny', 'z@x.example')).toBe(true)
    expect(matches('nobody', 'Zofia Szczęsny')).toBe(false)
    expect(matches('', 'anything')).toBe(true)
  })

  it('are made short by their first word, as long as that tells them apart', () => {
    expect(shortNames(['Tue lab', 'Wed lab'])).toEqual(['Tue', 'Wed'])
    expect(shortNames(['Section 1', 'Section 2'])).toEqual(['Section 1', 'Section 2'])
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

  it('put surname first, given name second, accents and case last', () => {
    const sorted = (...names: string[]) => names.toSorted(bySurname)
    expect(sorted('bo zorn', 'Ada Zorn')).toEqual(['Ada Zorn', 'bo zorn'])
    expect(sorted('Zoé Aldén', 'Zoe Alden', 'Ann Aldén')).toEqual(['Ann Aldén', 'Zoe Alden', 'Zoé Aldén'])
    expect(sorted('Bao Trinh', 'Strand, Mirela', 'Ada Quist')).toEqual([
      'Ada Quist',
      'Strand, Mirela',
      'Bao Trinh',
    ])
    expect(sorted('Cher', '', 'Ada Bo Jr.', 'Ina Bo')).toEqual(['', 'Ada Bo Jr.', 'Ina Bo', 'Cher'])
  })

  it('count particles or pass them over, as the course says', () => {
    const names = ['Ida Cole', 'Rui de Brito', 'Eva Dunn', 'van den Berg, Joost']
    const sorted = (particles: 'count' | 'skip') =>
      names.toSorted(nameOrder({ language: 'en', particles }, (name) => name))
    expect(sorted('skip')).toEqual(['van den Berg, Joost', 'Rui de Brito', 'Ida Cole', 'Eva Dunn'])
    expect(sorted('count')).toEqual(['Ida Cole', 'Rui de Brito', 'Eva Dunn', 'van den Berg, Joost'])
  })

  it('follow the alphabet of the course’s language', () => {
    const names = ['Ulla Åberg', 'Ulla Zell', 'Ulla Aalto']
    const sorted = (language: string) =>
      names.toSorted(nameOrder({ language, particles: 'skip' }, (name) => name)).map((name) => name.slice(5))
    expect(sorted('en')).toEqual(['Aalto', 'Åberg', 'Zell'])
    expect(sorted('sv')).toEqual(['Aalto', 'Zell', 'Åberg'])
    expect(isLanguage('sv')).toBe(true)
    expect(isLanguage('not a language')).toBe(false)
    // A language that is not known here falls back, instead of breaking a list.
    expect(sorted('??')).toEqual(['Aalto', 'Åberg', 'Zell'])
  })
})

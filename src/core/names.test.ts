import { describe, expect, it } from 'vitest'
import {
  bySurname,
  firstName,
  initials,
  isLanguage,
  listedName,
  matches,
  nameOrder,
  nameParts,
  searchable,
  shortNames,
} from './names.ts'

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
    // With nothing before it, a particle is all there is of a given name.
    const order = nameOrder<string>({ language: 'en', particles: 'count' }, (name) => name)
    expect(['Ida Cole', 'de Brito'].toSorted(order)).toEqual(['de Brito', 'Ida Cole'])
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

describe('names, to the letter', () => {
  it('give two initials where there are two words or more, whatever space is around them', () => {
    expect(initials('  ada   maria  lind ')).toBe('AL')
    expect(initials('ada')).toBe('A')
    expect(initials('🧫 lab')).toBe('🧫L')
  })

  it('are made short only where each stays its own', () => {
    expect(shortNames(['Tue lab', 'Tue lab'])).toEqual(['Tue', 'Tue'])
    expect(shortNames([' Tue lab', 'Wed'])).toEqual(['Tue', 'Wed'])
    expect(shortNames([])).toEqual([])
  })

  it.each([
    ['Łukasz', 'lukasz'],
    ['Đorđe', 'dorde'],
    ['Weiß', 'weiss'],
    ['Æsa', 'aesa'],
    ['Œuvre', 'oeuvre'],
    ['ırmak', 'irmak'],
    ['Sørén', 'soren'],
  ])('%s is found as %s', (name, typed) => {
    expect(searchable(name)).toBe(typed)
    expect(matches(typed, name)).toBe(true)
  })

  it('are found by words in any of the texts, and by all that are typed', () => {
    expect(matches('ada tempeh', 'Ada Lind', null, 'Tempeh')).toBe(true)
    expect(matches('ada kefir', 'Ada Lind', null, 'Tempeh')).toBe(false)
    // Texts stand apart: the end of one and the start of the next are no word.
    expect(matches('lindtempeh', 'Ada Lind', 'Tempeh')).toBe(false)
  })

  it.each([
    ['Ludwig van der Berg', 'Anna Berg', 1],
    ["Kees 't Hart", 'Ann Hart', 1],
    ['Ana de Oliveira e Silva', 'Bea Silva', -1],
    ['Ada Bo III', 'Ina Bo', -1],
    ['Ada Bo sr', 'Ina Bo', -1],
    ['von Trapp', 'Ada Trapp', 1],
    // A word with a capital is part of the name, whatever it is called.
    ['Ludwig Van Berg', 'Anna Van', -1],
    ['Berg, Ludwig', 'Berg, Anna', 1],
    ['Jr.', 'Kim', -1],
  ])('%s and %s are in the order of class lists', (one, other, sign) => {
    expect(Math.sign(bySurname(one, other))).toBe(sign)
    expect(Math.sign(bySurname(other, one))).toBe(-sign)
    expect(bySurname(one, one)).toBe(0)
  })

  it('that differ in accents or case alone still have an order, the same each time', () => {
    expect(Math.sign(bySurname('Zoe Alden', 'Zoe Aldén'))).toBe(-1)
    expect(Math.sign(bySurname('zoe alden', 'Zoe Alden'))).not.toBe(0)
    expect(Math.sign(bySurname('Ada  Bo', 'Ada Bo'))).not.toBe(0)
  })
})

it('takes a name’s parts from the roster, else from its words, particles with the surname', () => {
  const said = { name: 'Ana María Ruiz Mora', given: 'Ana María', family: 'Ruiz Mora' }
  expect(nameParts(said)).toEqual({ given: 'Ana María', family: 'Ruiz Mora' })
  expect(listedName(said)).toBe('Ruiz Mora, Ana María')
  expect(nameParts({ name: 'Ana de Brito', given: '', family: '' })).toEqual({
    given: 'Ana',
    family: 'de Brito',
  })
  expect(listedName({ name: 'Ana de Brito', given: '', family: '' })).toBe('Ana de Brito')
  // Said parts count in the order of a class list.
  const people = [
    said,
    { name: 'Bo Nyman', given: '', family: '' },
    { name: 'Cy Tamm', given: '', family: '' },
  ]
  expect(
    people.toSorted(nameOrder({ language: 'en', particles: 'skip' }, listedName)).map(({ name }) => name),
  ).toEqual(['Bo Nyman', 'Ana María Ruiz Mora', 'Cy Tamm'])
})

it('addresses people by their given name, or by what they are called', () => {
  expect(firstName({ name: 'Ana María Ruiz', given: 'Ana María', called: '' })).toBe('Ana María')
  expect(firstName({ name: '  Ada  Lindqvist ', given: '', called: '' })).toBe('Ada')
  expect(firstName({ name: 'Ola Strand', given: 'Aleksandra', called: 'Ola Strand' })).toBe('Ola')
  expect(firstName({ name: '', given: '', called: '' })).toBe('')
})

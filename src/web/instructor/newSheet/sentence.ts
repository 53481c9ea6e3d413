import type { NewSheet } from '../../../contract/sheets.ts'
import type { Extra } from '../../../core/extras.ts'
import { LIMITS } from '../../../core/limits.ts'
import { inSection as nameInSection, topicsOfPattern } from '../../../core/pattern.ts'
import type { ConvenerRule, ForWhom, Road } from '../../../core/rules.ts'
import { type GroupCount, groupSizes } from '../../../core/supply.ts'
import { sentTime, typedFault } from '../../kit/TimeField.tsx'
import { FIRST_PATTERN } from '../settle/input.ts'

/** How many groups there are: counted in people or groups, or topics by their names. */
export type HowMany = GroupCount['by'] | 'topics'

/** A sheet that a new one goes on from: the same people in the same groups, or other partners than there. */
export interface After {
  how: 'same' | 'fresh'
  sheet: string
}

/** What the sentence at the head of a new sheet says. */
export interface Sentence {
  title: string
  after: After | null
  forWhom: ForWhom
  sections: string[]
  list: string
  road: Road
  by: HowMany
  n: number
  mixed: boolean
  pattern: string
  letters: boolean
  /** Topics by name, one in each line. */
  topics: string
  convener: ConvenerRule
  extras: Extra[]
  /** The subject that every group begins with, and its first post; both empty for none. */
  subject: string
  post: string
  /** The first task, and when it is due as a wall-clock time; empty for none. */
  task: string
  due: string
}

export const FIRST_SENTENCE: Sentence = {
  title: 'New groups',
  after: null,
  forWhom: 'course',
  sections: [],
  list: '',
  road: 'chosen',
  by: 'number',
  n: 6,
  mixed: false,
  pattern: FIRST_PATTERN,
  letters: false,
  topics: '',
  convener: 'first',
  extras: ['messages'],
  subject: '',
  post: '',
  task: '',
  due: '',
}

/** Whom the course has: students by section, with those in none, and lists of people. */
export interface Class {
  students: number
  sections: readonly { code: string; name: string; students: number }[]
  lists: readonly { code: string; title: string; people: readonly { section: string | null }[] }[]
}

/** How many people there are in one place: a section, or all of them. */
export interface Share {
  section: string | null
  name: string
  people: number
  /** Sizes of its groups, spread evenly. */
  sizes: number[]
}

/** What a sentence comes to, before anything is made. */
export interface Sum {
  people: number
  shares: Share[]
  /** Groups in all. */
  groups: number
  /** Titles of the topics that are made. */
  titles: string[]
  /** The limit of each group: its largest size. */
  seats: number
}

/** Titles typed one in each line, blank ones and repetitions left out. */
export function typedTitles(text: string): string[] {
  const seen = new Set<string>()
  return text
    .split(/\r?\n/)
    .map((line) => line.trim().slice(0, LIMITS.title))
    .filter((line) => line !== '' && !seen.has(line.toLowerCase()) && seen.add(line.toLowerCase()))
}

/** Does the arithmetic of a sentence: how many people, in which groups of which sizes. */
export function sumOf(said: Sentence, course: Class): Sum {
  const chosen = new Set(said.sections)
  const list = said.list === '' ? undefined : course.lists.find(({ code }) => code === said.list)
  const inSection = (code: string, all: number): number => {
    if (said.forWhom === 'sections') return chosen.has(code) ? all : 0
    return said.forWhom === 'list'
      ? (list?.people.filter(({ section }) => section === code).length ?? 0)
      : all
  }
  const sections = course.sections.map(({ code, name, students }) => ({
    section: code,
    name,
    people: inSection(code, students),
  }))
  const people = {
    course: course.students,
    sections: sections.reduce((sum, one) => sum + one.people, 0),
    list: list?.people.length ?? 0,
  }[said.forWhom]
  const places =
    said.mixed || sections.length === 0
      ? [{ section: null, name: 'Everybody', people }]
      : sections.filter((one) => one.people > 0)
  const named = typedTitles(said.topics)
  const shares = places.map((place) => ({ ...place, sizes: sizesFor(said, place.people, named.length) }))
  const most = Math.max(0, ...shares.map(({ sizes }) => sizes.length))
  const count = said.by === 'topics' ? named.length : most
  const titles =
    said.by === 'topics'
      ? named
      : topicsOfPattern(
          {
            kind: said.letters ? 'letters' : 'numbers',
            pattern: said.pattern.trim() || FIRST_PATTERN,
            count,
            first: 1,
          },
          LIMITS.topics,
        ).map(({ title }) => nameInSection(title, null))
  return {
    people,
    shares,
    groups: shares.reduce((sum, { sizes }) => sum + sizes.length, 0),
    titles,
    seats: Math.max(1, ...shares.flatMap(({ sizes }) => sizes)),
  }
}

function sizesFor({ by, n }: Sentence, people: number, topics: number): number[] {
  if (by !== 'topics') return groupSizes(people, { by, n })
  if (topics === 0) return []
  // A topic is there whether somebody sits there or not.
  const sizes = groupSizes(people, { by: 'number', n: topics })
  return [...sizes, ...Array.from({ length: topics - sizes.length }, () => 0)]
}

/** Whether its groups have a talk, in which a first subject can stand. */
export const talks = ({ extras }: Pick<Sentence, 'extras'>): boolean => extras.includes('talk')

/** Something in a sentence that cannot be, beside its place, with what to do. */
export interface Doubt {
  at: 'whom' | 'many' | 'title' | 'subject' | 'task'
  words: string
}

/** What is wrong with a sentence; nothing of it is made while there is something. */
export function wrongWith(said: Sentence, course: Class): Doubt[] {
  const wrong: Doubt[] = []
  const { people, titles } = sumOf(said, course)
  if (said.title.trim() === '') wrong.push({ at: 'title', words: 'The sheet needs a title.' })
  if (said.forWhom === 'sections' && said.sections.length === 0)
    wrong.push({ at: 'whom', words: 'Choose a section: the sheet would be for nobody.' })
  else if (said.forWhom === 'list' && said.list === '')
    wrong.push({ at: 'whom', words: 'Choose a list of people, or make one.' })
  // Who goes on in the same groups is counted there.
  if (said.after?.how === 'same') return wrong
  if (talks(said) && (said.subject.trim() === '') !== (said.post.trim() === ''))
    wrong.push({ at: 'subject', words: 'A first subject needs its title and its first post.' })
  const due = said.task.trim() === '' ? null : typedFault(said.due)
  if (due !== null) wrong.push({ at: 'task', words: due })
  if (said.task.trim() === '' && said.due.trim() !== '')
    wrong.push({ at: 'task', words: 'The first task needs a title.' })
  if (wrong.length === 0 && people === 0)
    wrong.push({
      at: 'whom',
      words:
        course.students === 0
          ? 'Nobody is on the roster yet. Import it first, so that groups can be counted.'
          : 'Nobody of those chosen is an active student now.',
    })
  if (said.by === 'topics') {
    // Whoever chooses can be given topics on the next page.
    if (titles.length === 0 && said.road === 'made')
      wrong.push({ at: 'many', words: 'Give the topics, one in each line.' })
    else if (titles.length > LIMITS.topics)
      wrong.push({ at: 'many', words: `These are ${titles.length} topics; a sheet holds ${LIMITS.topics}.` })
  } else if (!Number.isInteger(said.n) || said.n < 1)
    wrong.push({ at: 'many', words: 'Give a whole number, one at least.' })
  else if (people > 0) {
    const { shares } = sumOf(said, course)
    if (said.by === 'number') {
      const few = shares.find((one) => said.n > one.people)
      if (few)
        wrong.push({
          at: 'many',
          words: `${said.n} groups are more than there are people${few.section === null ? '' : ` in ${few.name}`}: ${few.people}.`,
        })
    } else if (said.n > LIMITS.seats)
      wrong.push({ at: 'many', words: `A group has ${LIMITS.seats} people at most.` })
    else if (said.by === 'least') {
      const few = shares.find((one) => said.n > one.people)
      if (few)
        wrong.push({
          at: 'many',
          words: `${few.people} people${few.section === null ? '' : ` in ${few.name}`} make no group of at least ${said.n}.`,
        })
    }
    const most = Math.max(...shares.map(({ sizes }) => sizes.length))
    if (most > LIMITS.topics)
      wrong.push({ at: 'many', words: `That would be ${most} groups; a sheet holds ${LIMITS.topics}.` })
  }
  return wrong
}

/** A sentence as the new sheet that it begins. Groups that are made come by a plan; topics by name are there at once. */
export function newSheetOf(said: Sentence, course: Class): NewSheet {
  const { titles, seats } = sumOf(said, course)
  const made = said.road === 'made'
  return {
    title: said.title.trim(),
    road: said.road,
    mixed: said.mixed,
    forWhom: said.forWhom,
    ...(said.forWhom === 'sections' && { sectionsFor: said.sections }),
    ...(said.forWhom === 'list' && { list: said.list }),
    ...(titles.length > 0 && { seats, floor: made ? 1 : Math.min(2, seats) }),
    convener: said.convener,
    // Nobody chooses there, so nobody is left without a group who comes later.
    ...(made && { late: 'seat' as const, lateFull: 'extra' as const }),
    ...((said.by === 'topics' || !made) && { topics: titles }),
    extras: said.extras,
    ...(talks(said) &&
      said.subject.trim() !== '' && {
        firstSubject: { title: said.subject.trim(), text: said.post.trim() },
      }),
    ...(said.task.trim() !== '' && {
      firstTask: { title: said.task.trim(), dueAt: sentTime(said.due) },
    }),
  }
}

import { type MadeGroups, madeKey, type SettleView } from '../../../contract/plans.ts'
import { LIMITS } from '../../../core/limits.ts'
import { inSection, namesSection, SECTION_MARK, topicsOfPattern } from '../../../core/pattern.ts'
import type { ByWishes, Mixing, PlanGroup, PlanInput, PlanMethod } from '../../../core/plan/types.ts'
import type { HouseRules } from '../../../core/rules.ts'
import { type GroupCount, groupSizes } from '../../../core/supply.ts'
import { USUAL_ORDER } from '../../../core/wishes/rules.ts'

/** Groups to be made: how many, whether each is for all sections together, and how they are called. */
export interface Making extends GroupCount {
  mixed: boolean
  /** `#` stands for what counts. */
  pattern: string
  letters: boolean
}

/** How groups are made where nothing else is chosen. */
export function firstMaking({ mixed, basis }: Pick<Ground, 'basis'> & { mixed: boolean }): Making {
  return {
    by: 'number',
    n: 4,
    mixed: mixed || basis.offers === 'course',
    pattern: FIRST_PATTERN,
    letters: false,
  }
}

/** What groups are called where nothing else is chosen. */
export const FIRST_PATTERN = 'Group #'

/** The part of the page's view that plans are made from. */
export type Ground = Pick<SettleView, 'basis' | 'sections' | 'topics' | 'sat' | 'attributes'> & {
  /** By wishes: the newest round that can be planned (`nextRound`); left out, the first. */
  round?: number
}

/** What is chosen on the page before a plan is made. */
export interface Choices {
  method: PlanMethod
  lotNumber: number
  floorsFirst: boolean
  mayDissolve: boolean
  /** Whether seats that are taken stay, may be moved, or are drawn anew; or the people whose seats may be moved. */
  release: 'none' | 'all' | 'afresh' | 'some'
  released: readonly string[]
  making: Making | null
  /** Sheets by code whose partners are not to meet again, as far as possible. */
  fresh: readonly string[]
  /** Attributes that people are mixed by, or gathered by, the weightiest first. */
  balance: readonly Balance[]
  pins: ReadonlyMap<string, string | null>
  /** By wishes: what is aimed at, and what counts before what. */
  byWishes: ByWishes
}

/** What is chosen where nothing else is: by wishes where the sheet gives seats so, else evenly. */
export function firstChoices({
  lotNumber,
  rules,
}: Pick<SettleView, 'lotNumber'> & { rules: Pick<HouseRules, 'road' | 'aim'> }): Choices {
  return {
    method: rules.road === 'wished' ? 'wishes' : 'evenly',
    byWishes: { aim: rules.aim, order: [...USUAL_ORDER] },
    lotNumber,
    floorsFirst: true,
    mayDissolve: false,
    release: 'none',
    released: [],
    making: null,
    fresh: [],
    balance: [],
    pins: new Map(),
  }
}

/** Choices as they are kept: plain, without a map. */
export type PackedChoices = Omit<Choices, 'pins'> & { pins: [string, string | null][] }

export function packed(choices: Choices): PackedChoices {
  return { ...choices, pins: [...choices.pins] }
}

export function unpacked(choices: PackedChoices): Choices {
  // Choices of before something was to be chosen do not have it.
  return {
    ...choices,
    fresh: choices.fresh ?? [],
    balance: choices.balance ?? [],
    byWishes: choices.byWishes ?? { aim: 'most-first', order: [...USUAL_ORDER] },
    pins: new Map(choices.pins),
  }
}

/** The groups that are made in one section: how many people, and the sizes they come to. */
export interface MadeIn {
  section: string | null
  people: number
  sizes: number[]
}

/** How many groups are made in each section, and of which sizes. */
export function madeIn({ basis, sections }: Ground, choices: Choices): MadeIn[] {
  const { making } = choices
  if (!making) return []
  const seated = new Set(basis.seats.map(({ person }) => person))
  const everybody = choices.release === 'afresh'
  const loose = basis.people.filter(({ key }) => everybody || !seated.has(key))
  const places = making.mixed || sections.length === 0 ? [null] : sections.map(({ code }) => code)
  return places.map((section) => {
    const people = loose.filter((person) => section === null || person.section === section).length
    return { section, people, sizes: groupSizes(people, making) }
  })
}

/** The topics that have to be added for it; null when none are. */
export function madeGroups(view: Ground, made: readonly MadeIn[], making: Making | null): MadeGroups | null {
  const count = Math.max(0, ...made.map(({ sizes }) => sizes.length))
  if (count === 0) return null
  const taken = new Set(view.topics.map(({ title }) => title.toLowerCase()))
  const names = topicsOfPattern(
    {
      kind: making?.letters ? 'letters' : 'numbers',
      pattern: making?.pattern?.trim() || FIRST_PATTERN,
      count: count + taken.size,
      first: 1,
    },
    LIMITS.topics * 2,
  )
  const places = view.sections.map(({ name }) => name)
  const isFree = (title: string) =>
    namesSection(title)
      ? !places.some((name) => taken.has(inSection(title, name).toLowerCase()))
      : !taken.has(title.toLowerCase())
  const titles = names.map(({ title }) => title).filter(isFree)
  return {
    titles: titles.slice(0, count),
    mixed: making?.mixed ?? false,
    seats: Math.max(1, ...made.flatMap(({ sizes }) => sizes)),
  }
}

/** What counts in the names of groups: numbers, letters, or each section for itself. */
export const COUNTS_IN = { numbers: 'numbers', letters: 'letters', sections: 'section and number' } as const
export type CountsIn = keyof typeof COUNTS_IN

/** What counts in a pattern. */
export const countsIn = ({ pattern, letters }: Pick<Making, 'pattern' | 'letters'>): CountsIn =>
  namesSection(pattern) ? 'sections' : letters ? 'letters' : 'numbers'

/** A pattern in which something else counts. */
export function countedBy(by: CountsIn, pattern: string): Pick<Making, 'pattern' | 'letters'> {
  if (by === 'sections') return { pattern: `${SECTION_MARK} #`, letters: false }
  return { pattern: namesSection(pattern) ? FIRST_PATTERN : pattern, letters: by === 'letters' }
}

/** An attribute, and whether each group has a mix of it or is alike in it. */
export interface Balance {
  name: string
  how: 'mix' | 'alike'
}

/** What people are mixed by; nothing where nothing is chosen. */
function mixingOf(view: Ground, { fresh, balance }: Choices): { mixing?: Mixing } {
  const attributes = balance.flatMap(({ name, how }) => {
    const known = view.attributes.find((one) => one.name === name)
    return known ? [{ name, how, of: new Map(Object.entries(known.of)) }] : []
  })
  const met = metOn(view, fresh)
  return met.length + attributes.length > 0 ? { mixing: { met, attributes } } : {}
}

/** Pairs who sat together on the sheets named, and on how many of them. */
function metOn({ sat, basis }: Ground, sheets: readonly string[]): Mixing['met'] {
  const here = new Set(basis.people.map(({ key }) => key))
  const times = new Map<string, number>()
  for (const { sheet, groups } of sat) {
    if (!sheets.includes(sheet)) continue
    for (const group of groups) {
      const own = group.filter((person) => here.has(person)).sort()
      own.forEach((a, i) => {
        for (const b of own.slice(i + 1)) times.set(`${a} ${b}`, (times.get(`${a} ${b}`) ?? 0) + 1)
      })
    }
  }
  return [...times].map(([pair, n]) => {
    const [a = '', b = ''] = pair.split(' ')
    return { a, b, times: n }
  })
}

/**
 * The newest round of seats by wishes that can be planned: the first, or, where everybody may hold several seats, the one
 * after those that were applied.
 */
export function nextRound({ rules, plans }: Pick<SettleView, 'rules' | 'plans'>): number {
  const applied = plans.flatMap(({ appliedAt, undoneAt, content: { settings } }) =>
    appliedAt !== null && undoneAt === null && settings.wishes ? [settings.wishes.round ?? 1] : [],
  )
  return Math.min(rules.seatsEach, 1 + Math.max(0, ...applied))
}

/** Which round is planned: the newest, or one before it that was chosen. */
export function roundChosen({ round = 1 }: Pick<Ground, 'round'>, byWishes: ByWishes): number {
  return Math.min(byWishes.round ?? round, round)
}

/** What the planner is given for a sheet and what was chosen. */
export function inputOf(view: Ground, choices: Choices): PlanInput {
  const { basis } = view
  const made = madeIn(view, choices)
  const limit = madeGroups(view, made, choices.making)?.seats ?? 1
  const added = made.flatMap(({ section, sizes }) =>
    sizes.map(
      (_, i): PlanGroup => ({ key: madeKey(i, section), section, seats: limit, blocked: 0, floor: 1 }),
    ),
  )
  // Where groups are made, those that there are stay as they are.
  const groups = choices.making ? basis.groups.map((group) => ({ ...group, closed: true })) : basis.groups
  const known = new Set(basis.people.map(({ key }) => key))
  const places = new Set([...groups, ...added].map(({ key }) => key))
  const { method, lotNumber, floorsFirst, mayDissolve, release, released, pins, byWishes } = choices
  return {
    ...basis,
    groups: [...groups, ...added],
    method,
    lotNumber,
    floorsFirst,
    mayDissolve: mayDissolve && floorsFirst,
    release: release === 'some' ? released : release,
    ...(method === 'wishes'
      ? { byWishes: { ...byWishes, round: roundChosen(view, byWishes) } }
      : mixingOf(view, choices)),
    // What was set by hand is kept over a reload; people and groups may be gone by then.
    pins: [...pins].flatMap(([person, group]) =>
      known.has(person) && (group === null || places.has(group)) ? [{ person, group }] : [],
    ),
  }
}

import { type MadeGroups, madeKey, type SettleView } from '../../../contract/plans.ts'
import { rankWords } from '../../../contract/wishWords.ts'
import { inSection, namesSection } from '../../../core/pattern.ts'
import type { Gap } from '../../../core/plan/cost.ts'
import type { MoveReason, PlanConflict } from '../../../core/plan/types.ts'

/** Names for what a plan holds as codes. */
export interface PlanNaming {
  person: (code: string) => string
  /** A group's topic, and its section where asked for. */
  group: (code: string | null, withSection?: boolean) => string
  sectionOf: (person: string) => string
}

export function planNaming(view: SettleView, made: MadeGroups | null): PlanNaming {
  const names = new Map(view.basis.people.map(({ key, name }) => [key, name]))
  const sections = new Map(view.sections.map(({ code, name }) => [code, name]))
  const titles = new Map(view.topics.map(({ code, title }) => [code, title]))
  const groups = new Map(
    view.groups.map(({ code, topic, section }) => [
      code,
      { title: titles.get(topic) ?? '', section: sections.get(section ?? '') ?? '' },
    ]),
  )
  made?.titles.forEach((title, i) => {
    for (const section of [null, ...view.sections.map(({ code }) => code)]) {
      const name = sections.get(section ?? '') ?? ''
      // A name with the section in it says it once.
      const own = { title: inSection(title, name), section: namesSection(title) ? '' : name }
      groups.set(madeKey(i, section), own)
    }
  })
  const sectionByPerson = new Map(
    view.basis.people.map(({ key, section }) => [key, sections.get(section ?? '') ?? '']),
  )
  return {
    person: (code) => names.get(code) ?? 'Somebody',
    group: (code, withSection = false) => {
      if (code === null) return 'no group'
      const found = groups.get(code)
      return [found?.title ?? 'a group', withSection ? found?.section : ''].filter(Boolean).join(', ')
    },
    sectionOf: (person) => sectionByPerson.get(person) ?? '',
  }
}

/** Why somebody is seated where they are, in a few words. */
export function moveWords(reason: MoveReason, { person }: PlanNaming): string {
  switch (reason.code) {
    case 'by-hand':
      return 'set by hand'
    case 'held':
      return 'a seat is kept for them'
    case 'apart':
      return `kept apart from ${reason.from.map(person).join(', ')}`
    case 'together':
      return `kept together with ${reason.with.map(person).join(', ')}`
    case 'dissolved':
      return 'their group was too small'
    case 'floor':
      return 'reaches the floor'
    case 'only-room':
      return 'only room left'
    case 'even':
      return 'evens out'
    case 'lot':
      return lotWords(reason.among ?? null)
    case 'surname':
      return 'by surname'
    case 'make-room':
      return `makes room for ${reason.for.map(person).join(', ')}`
    case 'extra':
      return 'one more seat, as none was free'
    case 'mixed':
      return 'exchanged for a better mix'
    case 'wish':
      if (reason.rank !== null) return `${rankWords(reason.rank)} wish`
      return reason.wished ? 'none of their wishes' : 'ranked nothing'
    case 'unchecked':
      return 'not checked: the search was ended before'
  }
}

function lotWords(among: number | null): string {
  if (among === null) return 'drawn by lot'
  return among === 1 ? 'drawn for the one free seat' : `drawn by lot among ${among} free seats`
}

/** By how much at most a plan could be better, in words that go on from “still looking:”. */
export function gapWords({ part, by, rank }: Gap): string {
  const people = by === 1 ? '1 person' : `${by} people`
  switch (part) {
    case 'left':
      return `a better plan could seat ${people} more at most`
    case 'under':
      return `a better plan could leave ${by === 1 ? '1 group' : `${by} groups`} fewer under the floor at most`
    case 'moved':
      return `a better plan could move ${people} fewer at most`
    case 'wishes':
      return rank === undefined
        ? `the ranks of a better plan could come to ${by} less in all, at most`
        : `a better plan could change the ${rankWords(rank)} wishes by ${people} at most`
    case 'uneven':
      return `with ${people} in other groups at most, sizes could be more even`
  }
}

/** Which rule cannot hold, or what it costs that it does. */
export function conflictWords(
  { code, people }: PlanConflict,
  kind: 'apart' | 'together',
  naming: PlanNaming,
): string {
  const who = people.map(naming.person).join(', ')
  const rule = kind === 'apart' ? 'keep apart' : 'keep together'
  if (code === 'no-room') return `${who}: no seat is left that lets them ${rule} as wanted.`
  const why: Record<Exclude<PlanConflict['code'], 'no-room'>, string> = {
    both: 'other rules say the contrary',
    sections: 'they are of different sections, or one of them can sit nowhere',
    'seated-apart': 'they sit in different groups already',
    'seated-together': 'they sit together already',
    'too-large': 'no group has so many free seats',
    pinned: 'what is set by hand says otherwise',
  }
  return `${who}: ${rule} cannot hold, since ${why[code]}.`
}

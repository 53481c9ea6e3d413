import { type MadeGroups, madeKey, type SettleView } from '../../../contract/plans.ts'
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
    for (const section of [null, ...view.sections.map(({ code }) => code)])
      groups.set(madeKey(i, section), { title, section: sections.get(section ?? '') ?? '' })
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
      return 'drawn by lot'
    case 'surname':
      return 'by surname'
  }
}

/** Which rule cannot hold, and why. */
export function conflictWords(
  { code, people }: PlanConflict,
  kind: 'apart' | 'together',
  naming: PlanNaming,
): string {
  const who = people.map(naming.person).join(', ')
  const rule = kind === 'apart' ? 'keep apart' : 'keep together'
  const why: Record<PlanConflict['code'], string> = {
    both: 'others say the contrary',
    sections: 'they are of different sections, or one of them can sit nowhere',
    'seated-apart': 'they sit in different groups already',
    'seated-together': 'they sit together already',
    'too-large': 'no group has so many free seats',
    pinned: 'what is set by hand says otherwise',
    'no-room': 'there is no seat left that allows it',
  }
  return `${who}: ${rule} cannot hold, since ${why[code]}.`
}

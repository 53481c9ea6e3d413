import type { LedgerView } from '../../../contract/ledger.ts'
import { sayInstant } from '../../../core/zone.ts'
import type { Naming } from './words.ts'

/** Names for what a ledger's entries hold as codes. */
export function namingOf({ people, groups, topics, sections, plans, course }: LedgerView): Naming {
  const names = new Map(people.map(({ code, name }) => [code, name]))
  const titles = new Map(topics.map(({ code, title }) => [code, title]))
  const sectionNames = new Map(sections.map(({ code, name }) => [code, name]))
  const labels = new Map(
    groups.map(({ code, topic, section }) => [
      code,
      [titles.get(topic), sectionNames.get(section ?? '')].filter(Boolean).join(', '),
    ]),
  )
  const planTitles = new Map(plans.map(({ code, title }) => [code, title]))
  return {
    person: (code) => (code === null ? 'Somebody' : (names.get(code) ?? 'Somebody')),
    group: (code) => (code === null ? 'a group' : (labels.get(code) ?? 'a group')),
    topic: (code) => titles.get(code) ?? '',
    at: (instant) => sayInstant(instant, course.zone),
    plan: (code) => planTitles.get(code) ?? null,
  }
}

import type { ComposeView } from '../../../contract/sheets.ts'
import { takesPeople } from '../../../core/groupState.ts'
import type { RemedyGroup } from '../../../core/remedies.ts'
import type { SupplyInput } from '../../../core/supply.ts'

/** What the seats check counts on this sheet: sections with their students, groups that are offered. */
export function supplyOf(view: ComposeView): SupplyInput & { groups: RemedyGroup[] } {
  const sections =
    view.sections.length > 0
      ? view.sections.map(({ code, students }) => ({ key: code, students }))
      : [{ key: null, students: view.students }]
  const groups = view.topics.flatMap((topic) =>
    topic.groups.filter(takesPeople).map(({ code, section, taken, own }) => ({
      code,
      section,
      taken,
      seats: own.seats ?? topic.seats ?? view.seats,
      floor: own.floor ?? topic.floor ?? view.floor,
      common: own.seats === null && topic.seats === null,
    })),
  )
  return { sections, groups, everybody: view.students }
}

/** The name of a section by its key; everybody where the course has none, or groups are for all sections. */
export function sectionName(view: ComposeView, key: string | null): string {
  return key === null ? 'Everybody' : (view.sections.find(({ code }) => code === key)?.name ?? '')
}

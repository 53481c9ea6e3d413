import type { WorkView } from '../../../contract/tasks.ts'

/** The name of a work, by its owner: its group by topic and section, or its student. */
export function workName(
  view: Pick<WorkView, 'groups' | 'people' | 'topics' | 'sections'>,
  owner: string,
): string {
  const group = view.groups.find(({ code }) => code === owner)
  if (!group) return view.people.find(({ code }) => code === owner)?.name ?? ''
  const topic = view.topics.find(({ code }) => code === group.topic)?.title
  const section = view.sections.find(({ code }) => code === group.section)?.name
  return [topic, section].filter(Boolean).join(', ')
}

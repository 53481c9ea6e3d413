import type { WorkView } from '../../../contract/tasks.ts'
import { Picks } from '../../kit/Picks.tsx'

/** Picks the groups that a task, or a difference, is for. Those without members can be chosen ahead. */
export function WhichGroups({
  view,
  groups,
  onGroups,
  label = 'Groups',
}: {
  view: Pick<WorkView, 'groups' | 'topics' | 'sections'>
  groups: ReadonlySet<string>
  onGroups: (groups: ReadonlySet<string>) => void
  label?: string
}) {
  const titles = new Map(view.topics.map(({ code, title }) => [code, title]))
  const sections = new Map(view.sections.map(({ code, name }) => [code, name]))
  return (
    <Picks
      label={label}
      all={view.groups
        .filter(({ onSheet }) => onSheet)
        .map(({ code, topic, section, members }) => ({
          code,
          name: titles.get(topic) ?? '',
          more: [sections.get(section ?? ''), members.length === 0 && 'nobody yet']
            .filter(Boolean)
            .join(', '),
        }))}
      picked={groups}
      onPicked={onGroups}
      nobody="No group is called that."
    />
  )
}

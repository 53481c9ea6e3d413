import type { WorkView } from '../../../contract/tasks.ts'
import { Check } from '../../kit/Check.tsx'

/** Picks the groups that a task is for, among those with members. */
export function WhichGroups({
  view,
  groups,
  onGroups,
}: {
  view: WorkView
  groups: ReadonlySet<string>
  onGroups: (groups: ReadonlySet<string>) => void
}) {
  const titles = new Map(view.topics.map(({ code, title }) => [code, title]))
  const sections = new Map(view.sections.map(({ code, name }) => [code, name]))
  return (
    <fieldset className="max-h-40 overflow-auto rounded-field border border-line-strong px-3 py-1">
      <legend className="sr-only">Groups</legend>
      <div className="grid sm:grid-cols-2">
        {view.groups
          .filter(({ members }) => members.length > 0)
          .map(({ code, topic, section }) => (
            <Check
              key={code}
              checked={groups.has(code)}
              onValue={() => {
                const next = new Set(groups)
                if (!next.delete(code)) next.add(code)
                onGroups(next)
              }}
              className="text-sm"
            >
              {titles.get(topic)} <span className="text-soft">{sections.get(section ?? '')}</span>
            </Check>
          ))}
      </div>
    </fieldset>
  )
}

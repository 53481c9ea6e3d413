import type { WorkView } from '../../../contract/tasks.ts'

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
            <label key={code} className="flex min-h-7 items-center gap-2 text-sm">
              <input
                type="checkbox"
                className="size-4 accent-seat"
                checked={groups.has(code)}
                onChange={() => {
                  const next = new Set(groups)
                  if (!next.delete(code)) next.add(code)
                  onGroups(next)
                }}
              />
              {titles.get(topic)} <span className="text-soft">{sections.get(section ?? '')}</span>
            </label>
          ))}
      </div>
    </fieldset>
  )
}

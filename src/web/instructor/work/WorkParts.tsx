import { NavLink } from 'react-router'

/** The two parts of the work on a sheet: its tasks, and the pages of its groups. */
export function WorkParts({ sheet }: { sheet: string }) {
  const parts = [
    { label: 'Tasks and marks', to: `/sheets/${sheet}/work` },
    { label: 'Group pages', to: `/sheets/${sheet}/work/groups` },
  ]
  return (
    <nav aria-label="Parts of the work" className="flex gap-5">
      {parts.map(({ label, to }) => (
        <NavLink
          key={to}
          to={to}
          end
          className={({ isActive }) =>
            isActive ? 'font-semibold text-ink' : 'text-seat underline underline-offset-2'
          }
        >
          {label}
        </NavLink>
      ))}
    </nav>
  )
}

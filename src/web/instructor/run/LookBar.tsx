import { Choice } from '../../kit/Choice.tsx'
import type { Look } from './arranged.ts'

const ONLY: { value: Look['only']; label: string }[] = [
  { value: 'all', label: 'All groups' },
  { value: 'room', label: 'With room' },
  { value: 'full', label: 'Full' },
  { value: 'under-floor', label: 'Under their floor' },
  { value: 'empty', label: 'Empty' },
  { value: 'own', label: 'Mine to look after' },
]
const ORDER: { value: Look['order']; label: string }[] = [
  { value: 'written', label: 'as on the sheet' },
  { value: 'title', label: 'by title' },
  { value: 'fewest', label: 'fewest people first' },
  { value: 'most-free', label: 'most free seats first' },
]

/** Which groups the field shows, and in which order. */
export function LookBar({ look, onLook }: { look: Look; onLook: (look: Look) => void }) {
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm text-soft">
      <label className="flex items-center gap-1.5">
        <span className="sr-only">Groups shown</span>
        <Choice value={look.only} onValue={(value) => onLook({ ...look, only: value as Look['only'] })}>
          {ONLY.map(({ value, label }) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </Choice>
      </label>
      <label className="flex items-center gap-1.5">
        <span className="sr-only">Order of the topics</span>
        <Choice value={look.order} onValue={(value) => onLook({ ...look, order: value as Look['order'] })}>
          {ORDER.map(({ value, label }) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </Choice>
      </label>
    </div>
  )
}

import { useId, useState } from 'react'
import { bySurname, matches } from '../../../core/names.ts'
import { BOX } from '../../kit/Field.tsx'

/** Finds a person by typing a name: arrows and Enter, or a click, pick one. */
export function PersonPick({
  label,
  people,
  onPick,
}: {
  label: string
  /** Those without a group are offered first. */
  people: readonly { key: string; name: string; listed?: string; seated?: boolean }[]
  onPick: (person: string) => void
}) {
  const [typed, setTyped] = useState('')
  const [at, setAt] = useState(0)
  const id = useId()
  const [open, setOpen] = useState(false)
  const found = open
    ? people
        .filter(({ name }) => matches(typed, name))
        .sort(
          (a, b) =>
            Number(a.seated ?? false) - Number(b.seated ?? false) ||
            bySurname(a.listed ?? a.name, b.listed ?? b.name),
        )
        .slice(0, 8)
    : []
  const pick = (person: string | undefined) => {
    if (!person) return
    onPick(person)
    setTyped('')
    setAt(0)
  }
  return (
    <div className="relative">
      <input
        role="combobox"
        aria-label={label}
        aria-expanded={found.length > 0}
        aria-controls={id}
        aria-activedescendant={found[at] ? `${id}-${at}` : undefined}
        placeholder={label}
        value={typed}
        onFocus={() => setOpen(true)}
        onBlur={() => setOpen(false)}
        onChange={({ target }) => {
          setOpen(true)
          setTyped(target.value)
          setAt(0)
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') setAt(Math.min(found.length - 1, at + 1))
          else if (event.key === 'ArrowUp') setAt(Math.max(0, at - 1))
          else if (event.key === 'Enter') pick(found[at]?.key)
          else if (event.key === 'Escape' && (open || typed !== '')) {
            setTyped('')
            setOpen(false)
          } else return
          event.preventDefault()
        }}
        className={`${BOX} min-h-9`}
      />
      <div
        id={id}
        role="listbox"
        aria-label={label}
        hidden={!open}
        className="absolute inset-x-0 top-full z-20 mt-1 max-h-64 overflow-auto rounded-field border border-line-strong bg-surface p-1 shadow-lg"
      >
        {found.map(({ key, name, seated }, i) => (
          <div
            key={key}
            id={`${id}-${i}`}
            role="option"
            tabIndex={-1}
            aria-selected={i === at}
            onMouseDown={(event) => {
              event.preventDefault()
              pick(key)
            }}
            className={`cursor-pointer rounded px-2 py-1 ${i === at ? 'bg-seat-soft' : ''}`}
          >
            {name}
            {seated === false && <span className="ml-2 text-sm text-ember">no group yet</span>}
          </div>
        ))}
        {found.length === 0 && <p className="px-2 py-1 text-soft">Nobody is called that.</p>}
      </div>
    </div>
  )
}

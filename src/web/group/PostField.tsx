import { type KeyboardEvent, useId, useRef, useState } from 'react'
import { nameBegun } from '../../core/talk.ts'
import { BOX } from '../kit/Field.tsx'

/** Most names offered at once. */
const MOST = 6

/** A field for a post. After an `@` it offers the names of those who can be named; Tab or Enter takes one. */
export function PostField({
  label,
  value,
  onValue,
  people,
  rows = 3,
}: {
  label: string
  value: string
  onValue: (text: string) => void
  people: readonly { code: string; name: string }[]
  rows?: number
}) {
  const id = useId()
  const field = useRef<HTMLTextAreaElement>(null)
  const [begun, setBegun] = useState<string | null>(null)
  const [at, setAt] = useState(0)
  const offered =
    begun === null
      ? []
      : people.filter(({ name }) => name.toLowerCase().includes(begun.toLowerCase())).slice(0, MOST)
  const look = (text: string, caret: number) => {
    setBegun(nameBegun(text.slice(0, caret)))
    setAt(0)
  }
  const take = (name: string) => {
    const caret = field.current?.selectionStart ?? value.length
    const before = value.slice(0, caret)
    const start = before.lastIndexOf('@')
    const next = `${before.slice(0, start)}@${name} `
    onValue(next + value.slice(caret))
    setBegun(null)
    requestAnimationFrame(() => {
      field.current?.focus()
      field.current?.setSelectionRange(next.length, next.length)
    })
  }
  const onKeyDown = (event: KeyboardEvent) => {
    const person = offered[at]
    if (!person) return
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault()
      const step = event.key === 'ArrowDown' ? 1 : offered.length - 1
      setAt((at + step) % offered.length)
    } else if (event.key === 'Enter' || event.key === 'Tab') {
      event.preventDefault()
      take(person.name)
    } else if (event.key === 'Escape') {
      event.stopPropagation()
      setBegun(null)
    }
  }
  return (
    <div className="flex flex-col gap-1">
      <label htmlFor={id} className="text-sm font-semibold text-soft">
        {label}
      </label>
      <textarea
        ref={field}
        id={id}
        rows={rows}
        value={value}
        aria-controls={`${id}-names`}
        aria-autocomplete="list"
        aria-activedescendant={offered.length > 0 ? `${id}-${at}` : undefined}
        aria-describedby={`${id}-hint`}
        onChange={({ target }) => {
          onValue(target.value)
          look(target.value, target.selectionStart)
        }}
        onKeyDown={onKeyDown}
        onBlur={() => setTimeout(() => setBegun(null), 150)}
        className={BOX}
      />
      <div
        id={`${id}-names`}
        role="listbox"
        aria-label="Whom to name"
        className="flex flex-wrap gap-1 empty:hidden"
      >
        {offered.map(({ code, name }, i) => (
          <button
            key={code}
            id={`${id}-${i}`}
            type="button"
            role="option"
            aria-selected={i === at}
            tabIndex={-1}
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => take(name)}
            className={`min-h-9 rounded-field border px-2.5 text-sm ${i === at ? 'border-seat bg-seat-soft font-semibold' : 'border-line-strong bg-surface'}`}
          >
            {name}
          </button>
        ))}
      </div>
      <output className="sr-only">
        {offered.length > 0 &&
          `${offered.length === 1 ? '1 name fits' : `${offered.length} names fit`}; arrows choose, Enter takes one`}
      </output>
      <span id={`${id}-hint`} className="text-sm text-faint">
        Markdown is read.{people.length > 0 && ' @ and a name tells that person by mail.'}
      </span>
    </div>
  )
}

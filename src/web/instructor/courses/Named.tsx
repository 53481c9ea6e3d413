import { useEffect, useId, useState } from 'react'
import type { Fault } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'

/** A name that keeps itself when its field is left or Enter is pressed, with an undo. Escape takes back what is typed. */
export function Named<Answer>({
  label,
  value,
  most,
  field,
  rename,
  put,
  said,
  className = '',
}: {
  label: string
  value: string
  most: number
  /** Its name in the request, beside which a refusal stands. */
  field: string
  rename: (to: string) => Promise<Answer>
  put: () => void
  said: (to: string) => string
  className?: string
}) {
  const [typed, setTyped] = useState(value)
  const [refused, setRefused] = useState<Fault | null>(null)
  const id = useId()
  const act = useAct()
  // Somebody else may rename it, and an undo does.
  useEffect(() => setTyped(value), [value])
  const keep = async () => {
    const to = typed.trim()
    if (to === value || act.busy) return
    const { fault } = await act.do({
      work: () => rename(to),
      undo: () => rename(value),
      put,
      said: said(to),
      beside: true,
    })
    setRefused(fault)
  }
  return (
    <>
      <input
        aria-label={label}
        aria-invalid={refused !== null}
        aria-describedby={refused ? id : undefined}
        value={typed}
        maxLength={most}
        onChange={({ target }) => setTyped(target.value)}
        onBlur={() => void keep()}
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur()
          if (event.key !== 'Escape') return
          setTyped(value)
          setRefused(null)
        }}
        className={`min-h-8 rounded-field border border-line-strong bg-surface px-2 font-semibold aria-invalid:border-ember pointer-coarse:min-h-11 ${className}`}
      />
      {refused && (
        <span id={id} role="alert" className="block text-sm text-ember">
          {refused.field(field) ?? refused.message}
        </span>
      )}
    </>
  )
}

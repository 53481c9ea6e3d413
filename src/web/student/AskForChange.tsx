import { useState } from 'react'
import type { StudentGroup } from '../../contract/seats.ts'
import { LIMITS } from '../../core/limits.ts'
import type { Fault } from '../data/call.ts'
import { useUnsent } from '../data/useDraft.ts'
import { Ask } from '../kit/Ask.tsx'
import { Choice } from '../kit/Choice.tsx'
import { Area } from '../kit/Field.tsx'

/** Asks the instructor for a change of seats, with a reason. */
export function AskForChange({
  sheet,
  to,
  from,
  titleOf,
  onSend,
  onClose,
}: {
  /** The sheet's code. */
  sheet: string
  /** The group wanted; null asks to be taken out. */
  to: StudentGroup | null
  from: string[]
  titleOf: (code: string) => string
  onSend: (from: string, reason: string) => Promise<Fault | null>
  onClose: () => void
}) {
  const [leaving, setLeaving] = useState(from[0] ?? '')
  // Half written, it is there again when this is opened anew.
  const unsent = useUnsent(`why ${sheet} ${to?.code ?? ''}`, '')
  const reason = unsent.value
  const [fault, setFault] = useState<Fault | null>(null)
  const [busy, setBusy] = useState(false)
  const send = async () => {
    setBusy(true)
    const refused = await onSend(leaving, reason)
    setFault(refused)
    if (!refused) unsent.drop()
    setBusy(false)
  }
  return (
    <Ask
      open
      title={to ? `Ask to move to ${to.title}` : `Ask to give up your seat at ${titleOf(leaving)}`}
      yes="Send request"
      busy={busy}
      onYes={() => void send()}
      onNo={onClose}
    >
      {from.length > 1 && (
        <label className="flex items-center gap-2">
          From
          <Choice value={leaving} onValue={setLeaving}>
            {from.map((code) => (
              <option key={code} value={code}>
                {titleOf(code)}
              </option>
            ))}
          </Choice>
        </label>
      )}
      <p>You keep your seat until your instructor has decided.</p>
      <Area
        label="Why?"
        rows={3}
        maxLength={LIMITS.reason}
        value={reason}
        onChange={(event) => unsent.write(event.target.value)}
        fault={fault?.field('reason') ?? fault?.message}
      />
    </Ask>
  )
}

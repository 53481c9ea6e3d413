import { useState } from 'react'
import { toast } from 'sonner'
import type { StudentGroup, StudentSheet } from '../../contract/seats.ts'
import { LIMITS } from '../../core/limits.ts'
import { sayInstant } from '../../core/zone.ts'
import type { Fault } from '../data/call.ts'
import { Ask } from '../kit/Ask.tsx'
import { Button } from '../kit/Button.tsx'
import { Area } from '../kit/Field.tsx'

/** Asks the instructor for a change of seats, with a reason. */
export function AskForChange({
  to,
  from,
  titleOf,
  onSend,
  onClose,
}: {
  /** The group wanted; null asks to be taken out. */
  to: StudentGroup | null
  from: string[]
  titleOf: (code: string) => string
  onSend: (from: string, reason: string) => Promise<Fault | null>
  onClose: () => void
}) {
  const [leaving, setLeaving] = useState(from[0] ?? '')
  const [reason, setReason] = useState('')
  const [fault, setFault] = useState<Fault | null>(null)
  const [busy, setBusy] = useState(false)
  const send = async () => {
    setBusy(true)
    setFault(await onSend(leaving, reason))
    setBusy(false)
  }
  return (
    <Ask
      open
      title={to ? `Ask to move to ${to.title}` : `Ask to give up your seat at ${titleOf(leaving)}`}
      yes="Send the request"
      no="Not now"
      busy={busy}
      onYes={() => void send()}
      onNo={onClose}
    >
      {from.length > 1 && (
        <label className="flex items-center gap-2">
          From
          <select
            value={leaving}
            onChange={(event) => setLeaving(event.target.value)}
            className="min-h-11 rounded-field border border-line-strong bg-surface px-2 text-ink"
          >
            {from.map((code) => (
              <option key={code} value={code}>
                {titleOf(code)}
              </option>
            ))}
          </select>
        </label>
      )}
      <p>You keep your seat until your instructor has decided.</p>
      <Area
        label="Why?"
        rows={3}
        maxLength={LIMITS.reason}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
        fault={fault?.field('reason') ?? fault?.message}
      />
    </Ask>
  )
}

/** How the student's newest request stands. */
export function RequestNote({
  view,
  titleOf,
  onWithdraw,
}: {
  view: StudentSheet
  titleOf: (code: string) => string
  onWithdraw: () => Promise<Fault | null>
}) {
  const { request } = view
  if (!request) return null
  const wish =
    request.to === null ? `to give up ${titleOf(request.from)}` : `to move to ${titleOf(request.to)}`
  const when = sayInstant(request.answeredAt ?? request.madeAt, view.course.zone)
  const withdraw = async () => {
    const fault = await onWithdraw()
    if (fault) toast.error(fault.message)
  }
  return (
    <div
      className={`flex flex-wrap items-center justify-between gap-2 rounded-card px-4 py-2 ${
        request.state === 'granted'
          ? 'bg-moss-soft'
          : request.state === 'declined'
            ? 'bg-ember-soft'
            : 'bg-sun-soft'
      }`}
    >
      <p>
        {request.state === 'open' && `You asked ${wish}, ${when}. Your instructor has not answered yet.`}
        {request.state === 'granted' && `Your request ${wish} was granted, ${when}.`}
        {request.state === 'declined' && `Your request ${wish} was declined, ${when}.`}
      </p>
      {request.state === 'open' && (
        <Button size="touch" onClick={() => void withdraw()}>
          Take it back
        </Button>
      )}
    </div>
  )
}

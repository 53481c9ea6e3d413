import { useState } from 'react'
import type { StudentSheet } from '../../contract/seats.ts'
import { Button } from '../kit/Button.tsx'
import { toast } from '../kit/toast.ts'
import type { SheetSource } from './source.ts'

/** Invitations that wait for the student's answer. */
export function Received({
  view,
  titleOf,
  invitations,
}: {
  view: StudentSheet
  titleOf: (code: string) => string
  invitations: SheetSource['invitations']
}) {
  const [busy, setBusy] = useState<string | null>(null)
  if (view.received.length === 0) return null
  const answer = async (code: string, accepted: boolean, words: string) => {
    setBusy(code)
    const fault = await invitations.answer(code, accepted)
    setBusy(null)
    if (fault) toast.error(fault.message, { duration: 8_000 })
    else toast.success(words)
  }
  return (
    <ul className="flex flex-col gap-2">
      {view.received.map(({ code, from, group }) => (
        <li key={code} className="rounded-card border border-seat bg-seat-soft">
          <p className="px-4 py-2.5">
            {from === null ? (
              'You are invited'
            ) : (
              <>
                <strong>{from}</strong> invites you
              </>
            )}{' '}
            to <strong>{titleOf(group)}</strong>. The seat is not kept for you.
          </p>
          <div className="flex flex-wrap justify-end gap-2 border-t tear px-4 py-2">
            <Button
              size="touch"
              disabled={busy !== null}
              onClick={() =>
                void answer(
                  code,
                  false,
                  from === null ? 'You declined the invitation.' : `You declined ${from}’s invitation.`,
                )
              }
            >
              Decline
            </Button>
            <Button
              size="touch"
              look="main"
              busy={busy === code}
              disabled={busy !== null}
              onClick={() => void answer(code, true, `You sit at ${titleOf(group)}.`)}
            >
              Accept
            </Button>
          </div>
        </li>
      ))}
    </ul>
  )
}

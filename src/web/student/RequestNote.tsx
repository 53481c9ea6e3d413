import type { StudentSheet } from '../../contract/seats.ts'
import { sayInstant } from '../../core/zone.ts'
import type { Fault } from '../data/call.ts'
import { Button } from '../kit/Button.tsx'
import { toast } from '../kit/toast.ts'

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
          Withdraw request
        </Button>
      )}
    </div>
  )
}

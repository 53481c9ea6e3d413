import { useState } from 'react'
import type { StudentSheet } from '../../../contract/seats.ts'
import type { OwnSwaps } from '../../../contract/swaps.ts'
import { counted } from '../../../core/counted.ts'
import { sayInstant } from '../../../core/zone.ts'
import { Fault } from '../../data/call.ts'
import { Button } from '../../kit/Button.tsx'
import { keepFocus } from '../../kit/focus.ts'
import { toast } from '../../kit/toast.ts'
import type { SheetSource } from '../source.ts'

/** The heading below which it is said how a swap ended. */
export const SWAP_SEAT = 'swap-seat'

/** A swap that waits for answers. */
export function SwapOffer({
  view,
  seat,
  offer: { code, to: group, people, accepted, mine, until },
  onAnswer,
}: {
  view: StudentSheet
  /** The group in which the student sits. */
  seat: string
  offer: NonNullable<OwnSwaps['offer']>
  onAnswer: SheetSource['swap']['answer']
}) {
  const titleOf = (code: string) => view.groups.find((one) => one.code === code)?.title ?? 'another group'
  const [from, to, zone] = [titleOf(seat), titleOf(group), view.course.zone]
  const [busy, setBusy] = useState<'yes' | 'no' | null>(null)
  const answer = async (yes: boolean) => {
    setBusy(yes ? 'yes' : 'no')
    const answer = await onAnswer(code, yes)
    setBusy(null)
    // What was pressed is gone, and mostly the offer with it.
    keepFocus(`#${SWAP_SEAT}`)
    if (answer instanceof Fault) toast.error(answer.message, { duration: 8_000 })
    else if (!yes) toast.success('You declined the swap.')
    else if (answer.last?.ending === 'made') toast.success(`You sit at ${to} now.`)
    else if (answer.offer) toast.success('You accepted the swap. It is made once all have.')
    else toast.error('The swap cannot be made any more. You sit where you did.', { duration: 8_000 })
  }
  const last = !mine && accepted === people - 1
  return (
    <section aria-label={`A swap to ${to}`} className="rounded-card border border-seat bg-seat-soft">
      <p className="px-4 pt-2.5">
        You could have <strong>{to}</strong> for {from}.
      </p>
      <p className="figures px-4 pb-2.5 text-soft">
        {counted(people, 'person is', 'people are')} in it,{' '}
        {accepted === 0 ? 'none has' : accepted === 1 ? '1 has' : `${accepted} have`} accepted
        {mine ? ', you among them. ' : '. '}
        {last
          ? 'All the others have: once you accept, it is made.'
          : 'It is made once all have; until then nothing changes.'}{' '}
        It stands until {sayInstant(until, zone)}.
      </p>
      <div className="flex flex-wrap justify-end gap-2 border-t tear px-4 py-2">
        <Button size="touch" busy={busy === 'no'} disabled={busy !== null} onClick={() => void answer(false)}>
          Decline
        </Button>
        {!mine && (
          <Button
            size="touch"
            look="main"
            busy={busy === 'yes'}
            disabled={busy !== null}
            onClick={() => void answer(true)}
          >
            Accept
          </Button>
        )}
      </div>
    </section>
  )
}

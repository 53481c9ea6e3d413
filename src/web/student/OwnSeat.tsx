import { useState } from 'react'
import { Link } from 'react-router'
import { seatCalendar } from '../../contract/calendar.ts'
import type { OwnSeat as Seat, StudentGroup, StudentSheet } from '../../contract/seats.ts'
import type { SheetState } from '../../core/window.ts'
import { address } from '../data/base.ts'
import { CopyAddresses, mailToAll } from '../kit/Addresses.tsx'
import { Button } from '../kit/Button.tsx'
import { part } from '../kit/part.tsx'
import { toast } from '../kit/toast.ts'
import type { SheetSource } from './source.ts'

const InviteAsk = part(async () => (await import('./InviteAsk.tsx')).InviteAsk)

const LINK =
  'inline-flex min-h-11 items-center rounded-field border border-line-strong bg-surface px-3.5 font-semibold text-ink hover:border-open'

/** What goes with a seat of one's own: who else is there, how to reach them, where to meet, whom to invite. */
export function OwnSeat({
  group,
  seat,
  view,
  state,
  invitations,
}: {
  group: StudentGroup
  seat: Seat
  view: StudentSheet
  state: SheetState
  invitations: SheetSource['invitations']
}) {
  const { names, taken, convener } = group
  const mates = seat.mates ?? []
  return (
    <div className="flex w-full flex-col gap-2 text-soft">
      {names && names.length > 0 && (
        <p>
          With you: <strong className="text-ink">{names.join(', ')}</strong>
        </p>
      )}
      {names?.length === 0 && <p>{taken <= 1 ? 'You are the first here.' : 'Nobody else sits here.'}</p>}
      {names === null && taken > 1 && <p>{taken - 1} more sit here.</p>}
      {(seat.convener || convener) && (
        <p className="text-sm">
          {seat.convener ? 'You answer for this group.' : `${convener} answers for this group.`}
        </p>
      )}
      <div className="flex flex-wrap gap-2 empty:hidden">
        <Link className={LINK} to={`/sheets/${view.code}/groups/${group.code}`}>
          Your group’s page
          {seat.unread > 0 && (
            <span className="ml-2 rounded bg-ember-soft px-1.5 text-sm text-ember">{seat.unread} new</span>
          )}
        </Link>
        {mates.length > 0 && (
          <a className={LINK} href={mailToAll(mates, `${view.title}: ${group.title}`)}>
            Mail to all
          </a>
        )}
        {mates.length > 0 && <CopyAddresses people={mates} />}
        {group.startsAt && (
          <a
            className={LINK}
            href={address(seatCalendar.path, { sheet: view.code, group: group.code })}
            download="seat.ics"
          >
            Calendar file
          </a>
        )}
        {seat.link && (
          <a className={LINK} href={seat.link} target="_blank" rel="noreferrer">
            Meet online
          </a>
        )}
      </div>
      {seat.convener && state === 'open' && view.rules.invitations === 'convener' && (
        <Inviting group={group} seat={seat} view={view} invitations={invitations} />
      )}
    </div>
  )
}

function Inviting({
  group,
  seat,
  view,
  invitations,
}: {
  group: StudentGroup
  seat: Seat
  view: StudentSheet
  invitations: NonNullable<SheetSource['invitations']>
}) {
  const [choosing, setChoosing] = useState(false)
  const sent = view.sent.filter((one) => one.group === group.code)
  const takeBack = async (code: string) => {
    const fault = await invitations.takeBack(code)
    if (fault) toast.error(fault.message)
  }
  return (
    <div className="flex flex-col gap-2 border-t tear pt-2">
      {sent.length > 0 && (
        <ul className="flex flex-col gap-1">
          {sent.map(({ code, name, state }) => (
            <li key={code} className="flex flex-wrap items-center justify-between gap-2">
              <span>
                {state === 'open' ? (
                  <>
                    <strong className="text-ink">{name}</strong> is invited and has not answered yet.
                  </>
                ) : (
                  `${name} declined.`
                )}
              </span>
              {state === 'open' && (
                <Button size="touch" onClick={() => void takeBack(code)}>
                  Withdraw<span className="sr-only"> the invitation of {name}</span>
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
      {seat.toOffer > 0 ? (
        <Button size="touch" className="self-start" onClick={() => setChoosing(true)}>
          Invite somebody
        </Button>
      ) : (
        <p className="text-sm">
          {sent.some(({ state }) => state === 'open')
            ? 'Every free seat here is offered to somebody.'
            : 'There is no free seat to invite somebody to.'}
        </p>
      )}
      {choosing && (
        <InviteAsk
          sheet={view.code}
          group={group}
          onInvite={(person) => invitations.invite(group.code, person)}
          onClose={() => setChoosing(false)}
        />
      )}
    </div>
  )
}

import { Dialog } from 'radix-ui'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { answerLeaving, dropLeaveAsk, seatable, seatMember, takeOutMember } from '../../contract/conveners.ts'
import type { GroupPage } from '../../contract/groups.ts'
import { FIRST_DAYS } from '../../core/convening.ts'
import { matches } from '../../core/names.ts'
import { useAnswer } from '../data/answers.ts'
import { call } from '../data/call.ts'
import { useAct } from '../kit/Acting.tsx'
import { Ask } from '../kit/Ask.tsx'
import { Button } from '../kit/Button.tsx'
import { DialogBox } from '../kit/DialogBox.tsx'
import { FormFault } from '../kit/FormFault.tsx'
import { SearchBox } from '../kit/SearchBox.tsx'
import { Loading, Trouble } from '../kit/Waiting.tsx'

/** The convener's way to seat somebody who has no group. */
export function SeatSomebody({ page, put }: { page: GroupPage; put: (page: GroupPage) => void }) {
  const [open, setOpen] = useState(false)
  return (
    <>
      <Button size="touch" onClick={() => setOpen(true)}>
        Seat somebody
      </Button>
      {open && (
        <Dialog.Root open onOpenChange={(on) => !on && setOpen(false)}>
          <DialogBox title="Who has no group yet">
            <Seatables page={page} put={put} onSeated={() => setOpen(false)} />
          </DialogBox>
        </Dialog.Root>
      )}
    </>
  )
}

function Seatables({
  page,
  put,
  onSeated,
}: {
  page: GroupPage
  put: (page: GroupPage) => void
  onSeated: () => void
}) {
  const params = { sheet: page.sheet.code, group: page.code }
  const { data, error, mutate } = useAnswer(seatable, params)
  const [typed, setTyped] = useState('')
  const act = useAct()
  if (!data)
    return error ? (
      <Trouble fault={error} retry={() => void mutate()} />
    ) : (
      <Loading what="those without a group" />
    )
  const found = data.people.filter(({ name }) => matches(typed, name))
  const seat = async (code: string, name: string) => {
    const done = await act.do({
      work: () => call(seatMember, params, { person: code }),
      put,
      said: `${name} sits here, and is told by mail.`,
      beside: true,
    })
    if (done.fault) void mutate()
    else onSeated()
  }
  return (
    <div className="flex flex-col gap-2">
      <p className="text-soft">
        They are seated at once and told by mail; while the sheet is open they can move.
      </p>
      {data.people.length > 8 && (
        <SearchBox label="Search those without a group" value={typed} onValue={setTyped} />
      )}
      <FormFault fault={act.fault} fields={[]} />
      <ul className="max-h-72 overflow-auto">
        {found.map(({ code, name }) => (
          <li key={code} className="flex items-center justify-between gap-3 border-b tear py-1 last:border-0">
            <span className="min-w-0 wrap-anywhere">{name}</span>
            <Button size="touch" busy={act.busy} onClick={() => void seat(code, name)}>
              Seat here<span className="sr-only"> {name}</span>
            </Button>
          </li>
        ))}
      </ul>
      {found.length === 0 && (
        <p className="text-soft">
          {data.people.length === 0 ? 'Everybody of your section has a group.' : 'Nobody is called that.'}
        </p>
      )}
    </div>
  )
}

/** The convener's way to take one member out: at once in the first days, later by asking. */
export function TakeOut({
  page,
  person,
  put,
}: {
  page: GroupPage
  person: { code: string; name: string }
  put: (page: GroupPage) => void
}) {
  const [asking, setAsking] = useState(false)
  const act = useAct()
  const how = page.convening?.out[person.code]
  if (!how) return null
  const params = { sheet: page.sheet.code, group: page.code }
  const { name } = person
  if (how === 'asked')
    return (
      <span className="flex flex-wrap items-center gap-x-2 text-sm text-soft">
        asked to leave
        <Button
          size="small"
          look="quiet"
          busy={act.busy}
          onClick={() =>
            void act.do({
              work: () => call(dropLeaveAsk, params, { person: person.code }),
              put,
              said: `${name} is not asked any more.`,
            })
          }
        >
          Withdraw<span className="sr-only"> what {name} was asked</span>
        </Button>
      </span>
    )
  const out = async () => {
    await act.do({
      work: () => call(takeOutMember, params, { person: person.code }),
      put,
      said: how === 'now' ? `${name} no longer sits here, and is told by mail.` : `${name} is asked by mail.`,
    })
    setAsking(false)
  }
  return (
    <>
      <Button size="small" look="quiet" onClick={() => setAsking(true)}>
        {how === 'now' ? 'Take out' : 'Ask to leave'}
        <span className="sr-only"> {name}</span>
      </Button>
      <Ask
        open={asking}
        title={how === 'now' ? `Take ${name} out of the group?` : `Ask ${name} to leave?`}
        yes={how === 'now' ? 'Take out' : 'Ask to leave'}
        busy={act.busy}
        onNo={() => setAsking(false)}
        onYes={() => void out()}
      >
        <p>
          {how === 'now'
            ? `They sit here for less than ${FIRST_DAYS} days, so it is done at once. They are told by mail, and your instructors can undo it.`
            : 'They are asked by mail and on this page, and stay unless they agree.'}
        </p>
      </Ask>
    </>
  )
}

/** What a member is asked by their convener. */
export function AskedToLeave({ page, refetch }: { page: GroupPage; refetch: () => void }) {
  const act = useAct()
  const navigate = useNavigate()
  if (!page.askedToLeave) return null
  const params = { sheet: page.sheet.code, group: page.code }
  const answer = async (agreed: boolean) => {
    const done = await act.do({
      work: () => call(answerLeaving, params, { agreed }),
      said: agreed ? 'You have left the group.' : 'You stay.',
    })
    if (done.fault || !agreed) refetch()
    else navigate(`/sheets/${page.sheet.code}`)
  }
  return (
    <section
      aria-label="You are asked to leave"
      className="flex flex-col gap-2 rounded-card border border-sun bg-sun-soft px-4 py-3"
    >
      <p className="text-sun-ink">
        Whoever answers for this group asks you to leave it. You stay unless you agree.
      </p>
      <div className="flex flex-wrap gap-2">
        <Button size="touch" busy={act.busy} onClick={() => void answer(false)}>
          Stay in the group
        </Button>
        <Button size="touch" busy={act.busy} onClick={() => void answer(true)}>
          Leave the group
        </Button>
      </div>
    </section>
  )
}

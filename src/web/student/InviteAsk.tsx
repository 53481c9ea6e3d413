import { useState } from 'react'
import { invitable } from '../../contract/invitations.ts'
import type { StudentGroup } from '../../contract/seats.ts'
import { matches } from '../../core/names.ts'
import { useAnswer } from '../data/answers.ts'
import type { Fault } from '../data/call.ts'
import { Ask } from '../kit/Ask.tsx'
import { Field } from '../kit/Field.tsx'
import { toast } from '../kit/toast.ts'

/** Above this number of names there is a field to search them. */
const MANY = 8

/** Chooses whom to invite, from those of the section who have no group. */
export function InviteAsk({
  sheet,
  group,
  onInvite,
  onClose,
}: {
  sheet: string
  group: StudentGroup
  onInvite: (person: string) => Promise<Fault | null>
  onClose: () => void
}) {
  const { data, error } = useAnswer(invitable, { sheet, group: group.code })
  const [typed, setTyped] = useState('')
  const [person, setPerson] = useState('')
  const [fault, setFault] = useState<Fault | null>(null)
  const [busy, setBusy] = useState(false)
  const people = data?.people ?? []
  const found = people.filter(({ name }) => matches(typed, name))
  const chosen = people.find(({ code }) => code === person)
  const invite = async () => {
    if (!chosen) return
    setBusy(true)
    const refused = await onInvite(chosen.code)
    setBusy(false)
    setFault(refused)
    if (refused) return
    toast.success(`${chosen.name} is invited, and told by mail.`)
    onClose()
  }
  return (
    <Ask
      open
      title={`Invite somebody to ${group.title}`}
      yes={chosen ? `Invite ${chosen.name}` : 'Invite'}
      busy={busy}
      ready={chosen !== undefined}
      onYes={() => void invite()}
      onNo={onClose}
    >
      <p>The seat is not kept: whoever takes it first has it.</p>
      {!data && !error && <output>Fetching those without a group…</output>}
      {(error ?? fault) && (
        <p role="alert" className="text-ember">
          {(error ?? fault)?.message}
        </p>
      )}
      {data && people.length === 0 && <p>Everybody of your section has a group.</p>}
      {people.length > MANY && (
        <Field
          label="Search"
          type="search"
          value={typed}
          className="min-h-11"
          onChange={({ target }) => setTyped(target.value)}
        />
      )}
      {people.length > 0 && (
        <fieldset className="max-h-64 overflow-auto rounded-field border border-line-strong">
          <legend className="sr-only">Those without a group</legend>
          {found.map(({ code, name }) => (
            <label key={code} className="flex min-h-11 items-center gap-2 px-3 text-ink hover:bg-seat-soft">
              <input
                type="radio"
                name="person"
                checked={person === code}
                onChange={() => setPerson(code)}
                className="size-4 accent-seat"
              />
              {name}
            </label>
          ))}
          {found.length === 0 && <p className="p-3">Nobody of that name is without a group.</p>}
        </fieldset>
      )}
    </Ask>
  )
}

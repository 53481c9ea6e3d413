import { X } from 'lucide-react'
import { type FormEvent, useId, useState } from 'react'
import { run } from '../../../contract/seats.ts'
import { freeSeat, holdSeat } from '../../../contract/topics.ts'
import type { GroupView } from '../../../contract/topicViews.ts'
import { useAnswer } from '../../data/answers.ts'
import { call, type Fault } from '../../data/call.ts'
import { Button } from '../../kit/Button.tsx'
import { SMALL } from './cells.tsx'
import type { Composing } from './useComposing.ts'

/** Seats kept free in a group: what for, and a way to keep one more. */
export function HeldSeats({
  group,
  sheet,
  mayEdit,
  label,
  composing,
}: {
  group: GroupView
  sheet: string
  mayEdit: boolean
  label: string
  composing: Composing
}) {
  const [adding, setAdding] = useState(false)
  const free = (held: string) =>
    void composing.do({ work: () => call(freeSeat, { sheet, group: group.code, held }) })
  return (
    <span className="flex flex-wrap items-center gap-1">
      {group.held.map(({ code, name, note }) => (
        <span key={code} className="inline-flex items-center gap-1 rounded bg-seat-soft px-1.5 text-seat">
          {name ?? note}
          {mayEdit && (
            <button
              type="button"
              aria-label={`Let anybody have the seat kept for ${name ?? note}`}
              onClick={() => free(code)}
            >
              <X size={13} aria-hidden="true" />
            </button>
          )}
        </span>
      ))}
      {mayEdit && !adding && (
        <Button size="small" look="quiet" aria-label={`Hold seat: ${label}`} onClick={() => setAdding(true)}>
          Hold seat
        </Button>
      )}
      {adding && (
        <HeldForm
          group={group}
          sheet={sheet}
          label={label}
          composing={composing}
          onDone={() => setAdding(false)}
        />
      )}
    </span>
  )
}

/** Keeps a seat for a person of the section, by name, or for a use in words. */
function HeldForm({
  group,
  sheet,
  label,
  composing,
  onDone,
}: {
  group: GroupView
  sheet: string
  label: string
  composing: Composing
  onDone: () => void
}) {
  const { data } = useAnswer(run, { sheet })
  const [typed, setTyped] = useState('')
  const [fault, setFault] = useState<Fault | null>(null)
  const names = useId()
  const people =
    data?.people.filter(({ section }) => group.section === null || section === group.section) ?? []
  const keep = async (event: FormEvent) => {
    event.preventDefault()
    const person = people.find(({ name }) => name.toLowerCase() === typed.trim().toLowerCase())
    const body = person ? { person: person.code } : { note: typed }
    const { fault: refused } = await composing.do({
      work: () => call(holdSeat, { sheet, group: group.code }, body),
      beside: true,
    })
    setFault(refused)
    if (!refused) onDone()
  }
  return (
    <form onSubmit={(event) => void keep(event)} className="flex flex-wrap gap-1">
      <input
        aria-label={`For whom or what: ${label}`}
        placeholder="For whom or what"
        list={names}
        // biome-ignore lint/a11y/noAutofocus: it appears because its button was pressed
        autoFocus
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && onDone()}
        className={`${SMALL} w-32`}
      />
      <datalist id={names}>
        {people.map(({ code, name }) => (
          <option key={code} value={name} />
        ))}
      </datalist>
      <Button size="small" type="submit">
        Keep
      </Button>
      {fault && (
        <span role="alert" className="w-full text-ember">
          {fault.field('note') ?? fault.field('person') ?? fault.message}
        </span>
      )}
    </form>
  )
}

import { useState } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import { useSWRConfig } from 'swr'
import { type DoorPerson, door, enter } from '../../contract/demo.ts'
import { counted } from '../../core/counted.ts'
import { matches } from '../../core/names.ts'
import { useAnswer } from '../data/answers.ts'
import { call, type Fault, faultOf } from '../data/call.ts'
import { Field } from '../kit/Field.tsx'
import { Loading, Trouble } from '../kit/Waiting.tsx'
import { Plain } from './Plain.tsx'
import { safeNext } from './SignInPage.tsx'

/** The demo's door: one click enters as any person of the sample. */
export function DoorPage() {
  const { data, error, mutate } = useAnswer(door, {})
  const [typed, setTyped] = useState('')
  if (!data)
    return error ? (
      <Trouble fault={error} retry={() => void mutate()} />
    ) : (
      <Loading what="the sample’s people" />
    )
  const found = data.people.filter(({ name, email, roles }) => matches(typed, name, email, roles))
  const shown = typed === '' ? found.filter(({ featured }) => featured) : found.slice(0, 40)
  return (
    <Plain>
      <title>The door · Haplon</title>
      <div>
        <h1 className="text-xl">The door</h1>
        <p className="mt-1 text-soft">
          Enter as anybody of the sample. Two windows, two people: watch one while the other acts.
        </p>
      </div>
      <Field
        label={`Find one of ${counted(data.people.length, 'person', 'people')}`}
        type="search"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
      />
      <ul className="flex flex-col gap-2">
        {shown.map((person) => (
          <li key={person.email}>
            <EnterAs person={person} />
          </li>
        ))}
      </ul>
      {shown.length === 0 && <p className="text-soft">Nobody of the sample is called that.</p>}
    </Plain>
  )
}

function EnterAs({ person }: { person: DoorPerson }) {
  const navigate = useNavigate()
  const [params] = useSearchParams()
  const { mutate } = useSWRConfig()
  const [fault, setFault] = useState<Fault | null>(null)
  const go = async () => {
    try {
      await call(enter, {}, { email: person.email })
      await mutate(() => true, undefined, { revalidate: false })
      navigate(safeNext(params.get('next')))
    } catch (error) {
      setFault(faultOf(error))
    }
  }
  return (
    <>
      <button
        type="button"
        onClick={() => void go()}
        className="flex min-h-12 w-full flex-col rounded-card border border-line bg-surface px-4 py-2 text-left hover:border-open"
      >
        <span className="font-semibold">{person.name}</span>
        <span className="text-sm text-soft">{person.roles}</span>
      </button>
      {fault && (
        <p role="alert" className="text-sm text-ember">
          {fault.message}
        </p>
      )}
    </>
  )
}

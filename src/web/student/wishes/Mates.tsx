import { X } from 'lucide-react'
import { type FormEvent, useId, useState } from 'react'
import { isEmail, normalEmail } from '../../../core/email.ts'
import type { Fault } from '../../data/call.ts'
import { Button } from '../../kit/Button.tsx'
import { BOX } from '../../kit/Field.tsx'
import { IconButton } from '../../kit/IconButton.tsx'
import { Pip } from '../../kit/Pip.tsx'
import type { Order } from './useOrder.ts'

/** With whom a student would sit: named by address, and it counts once all of them have named each other. */
export function Mates({
  mates,
  agreed,
  most,
  open,
  fault,
  onMates,
}: {
  mates: Order['mates']
  /** Names of the mates, once it counts. */
  agreed: readonly string[] | null
  most: number
  open: boolean
  fault: Fault | null
  onMates: (mates: Order['mates'], words: string) => void
}) {
  const [typed, setTyped] = useState('')
  const [wrong, setWrong] = useState('')
  const heading = useId()
  const { people, first } = mates
  if (!open && people.length === 0) return null
  const name = (event: FormEvent) => {
    event.preventDefault()
    const address = normalEmail(typed)
    if (!isEmail(address)) return setWrong('That is no mail address: one @ and a domain are needed.')
    if (people.includes(address)) return setWrong('You have named them already.')
    setWrong('')
    setTyped('')
    onMates({ first, people: [...people, address] }, `${address} is named.`)
  }
  const refused =
    people.flatMap((_, i) => fault?.field(`mates.people[${i}]`) ?? [])[0] ?? fault?.field('mates.people')
  return (
    <section aria-labelledby={heading} className="flex flex-col gap-2 border-t tear pt-3">
      <h2 id={heading} className="text-lg">
        Together with
      </h2>
      {agreed ? (
        <p className="flex items-center gap-2 rounded-field bg-moss-soft px-3 py-2 text-moss">
          <Pip kind="taken" />
          <span>
            Together with <strong>{agreed.join(', ')}</strong>, who named you too
          </span>
        </p>
      ) : (
        <p className="text-sm text-soft">
          {people.length === 0
            ? `You may name ${most === 1 ? 'one mate' : `up to ${most} mates`} by mail address. It counts once each of you has named the others.`
            : 'It does not count yet: each of you has to name all the others, and nobody else. They are not told.'}
        </p>
      )}
      {people.length > 0 && (
        <ul className="flex flex-col">
          {people.map((address) => (
            <li
              key={address}
              className="flex min-h-11 items-center justify-between gap-2 border-b border-line"
            >
              <span className="min-w-0 wrap-anywhere">{address}</span>
              {open && (
                <IconButton
                  icon={X}
                  name={`Do not name ${address}`}
                  className="size-11"
                  onClick={() =>
                    onMates(
                      { first, people: people.filter((one) => one !== address) },
                      `${address} is not named any more.`,
                    )
                  }
                />
              )}
            </li>
          ))}
        </ul>
      )}
      {open && people.length < most && (
        <form className="flex flex-wrap items-start gap-2" onSubmit={name}>
          <input
            inputMode="email"
            autoComplete="off"
            aria-label="Mail address of a mate"
            placeholder="their mail address"
            aria-invalid={wrong !== '' || undefined}
            className={`${BOX} min-h-11 min-w-0 flex-1 basis-52`}
            value={typed}
            onChange={({ target }) => setTyped(target.value)}
          />
          <Button size="touch" type="submit" disabled={typed.trim() === ''}>
            Name them
          </Button>
        </form>
      )}
      {(wrong || refused) && (
        <p role="alert" className="text-sm text-ember">
          {wrong || refused}
        </p>
      )}
      {people.length > 0 && (
        <fieldset className="flex flex-col" disabled={!open}>
          <legend className="text-sm text-soft">If both cannot be, what comes first?</legend>
          {[
            { value: true, words: 'being together, even with a topic that we like less' },
            { value: false, words: 'our topics; together only where it costs none of us anything' },
          ].map(({ value, words }) => (
            <label key={words} className="flex min-h-11 items-center gap-2.5">
              <input
                type="radio"
                name="mates-first"
                className="size-4 accent-seat"
                checked={first === value}
                onChange={() => onMates({ people, first: value }, `First come ${words}.`)}
              />
              {words}
            </label>
          ))}
          <p className="text-sm text-faint">Being together comes first only if all of you say so.</p>
        </fieldset>
      )}
    </section>
  )
}

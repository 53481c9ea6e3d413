import { Link } from 'react-router'
import type { Fault } from '../data/call.ts'
import { Button } from './Button.tsx'

/** Stands where something is being fetched. Silent for a moment, so that quick answers do not flicker. */
export function Loading({ what }: { what: string }) {
  return (
    <output className="block animate-[pulse_1.6s_ease-in-out_infinite] p-8 text-center text-soft">
      Fetching {what}…
    </output>
  )
}

/** Stands where something could not be fetched, says why, and offers what can be done. */
export function Trouble({ fault, retry }: { fault: Fault; retry?: () => void }) {
  const { problem } = fault
  return (
    <div role="alert" className="mx-auto my-10 flex max-w-lg flex-col items-start gap-3 px-5">
      <h1 className="text-xl">{problem.title}</h1>
      <p className="text-soft">{problem.detail}</p>
      {problem.contacts && problem.contacts.length > 0 && (
        <ul className="flex flex-col gap-1">
          {problem.contacts.map(({ name, email }) => (
            <li key={email}>
              {name}:{' '}
              <a
                className="font-semibold wrap-anywhere text-seat underline underline-offset-2"
                href={`mailto:${email}`}
              >
                {email}
              </a>
            </li>
          ))}
        </ul>
      )}
      <div className="flex gap-3">
        {retry && problem.status !== 404 && problem.status !== 403 && (
          <Button onClick={retry}>Try again</Button>
        )}
        <Link className="self-center font-semibold text-seat underline underline-offset-2" to="/">
          Go to the first page
        </Link>
      </div>
    </div>
  )
}

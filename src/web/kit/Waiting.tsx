import { useEffect, useRef } from 'react'
import { Link } from 'react-router'
import type { Fault } from '../data/call.ts'
import { Button } from './Button.tsx'

/** Stands where something is being fetched. Silent for a moment, so that quick answers do not flicker. */
export function Loading({ what }: { what: string }) {
  return (
    <output className="block animate-[pulse_1.6s_ease-in-out_infinite] motion-reduce:animate-none p-8 text-center text-soft">
      Fetching {what}…
    </output>
  )
}

/** Milliseconds after which something that was not heard of is asked for again: at first, and at the most. */
const AGAIN = 2_000
const LONGEST = 15_000

/** Asks again by itself, seldomer each time, and at once when the network is back. */
function useAgain(retry: (() => void) | undefined, wanted: boolean): void {
  const newest = useRef(retry)
  useEffect(() => {
    newest.current = retry
  })
  useEffect(() => {
    if (!wanted) return
    let pause = AGAIN
    let timer: ReturnType<typeof setTimeout>
    const again = () => {
      newest.current?.()
      pause = Math.min(LONGEST, pause * 2)
      timer = setTimeout(again, pause)
    }
    timer = setTimeout(again, pause)
    const now = () => newest.current?.()
    addEventListener('online', now)
    return () => {
      clearTimeout(timer)
      removeEventListener('online', now)
    }
  }, [wanted])
}

/** Stands where something could not be fetched, says why, and offers what can be done. */
export function Trouble({
  fault,
  retry,
  wasThere = false,
}: {
  fault: Fault
  retry?: () => void
  /** Whether it was there before: what was removed may be restored, and then the page shows it again by itself. */
  wasThere?: boolean
}) {
  const { problem } = fault
  const passing = problem.status === 0 || problem.status >= 500
  useAgain(retry, passing || wasThere)
  return (
    <div role="alert" className="mx-auto my-10 flex max-w-lg flex-col items-start gap-3 px-5">
      <h1 className="text-xl">{problem.title}</h1>
      <p className="text-soft">
        {problem.detail}
        {passing && retry && ' It is tried again by itself.'}
      </p>
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

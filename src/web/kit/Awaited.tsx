import { type ReactNode, useEffect } from 'react'
import { Navigate } from 'react-router'
import type { Fault } from '../data/call.ts'
import { pageStands } from '../data/quiet.ts'
import { Frame } from './Frame.tsx'
import { Loading, Trouble } from './Waiting.tsx'

/** Something that is asked of the server: what it answered, what stood in the way, and how it is asked again. */
export interface Asked<Answer> {
  data: Answer | undefined
  error: Fault | undefined
  mutate: () => unknown
}

/** True where the server says that this is not, or no longer, for the reader: what was shown before is gone too. */
const taken = ({ problem }: Fault) => problem.status === 403 || problem.status === 404

/**
 * A page's answer: a sign while it is awaited, its refusal in words, and what it shows once it is there. What the
 * reader may no longer see goes from an open page too.
 */
export function Awaited<Answer>({
  of: { data, error, mutate },
  what,
  elsewhere,
  bare = false,
  children,
}: {
  of: Asked<Answer>
  /** What is awaited, in words: `the seats`. */
  what: string
  /** Where a reader is led who may not see this page. */
  elsewhere?: string
  /** Whether it stands in a frame of its own already. */
  bare?: boolean
  children: (answer: Answer) => ReactNode
}) {
  const stands = data !== undefined || error !== undefined
  useEffect(() => {
    if (stands) pageStands()
  }, [stands])
  if (error?.code === 'not-allowed' && elsewhere) return <Navigate replace to={elsewhere} />
  if (data !== undefined && !(error && taken(error))) return children(data)
  const inside = error ? (
    <Trouble fault={error} retry={() => void mutate()} wasThere={data !== undefined} />
  ) : (
    <Loading what={what} />
  )
  return bare ? inside : <Frame title={error?.problem.title ?? ''}>{inside}</Frame>
}

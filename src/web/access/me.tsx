import { createContext, type ReactNode, useContext } from 'react'
import { Navigate, useLocation } from 'react-router'
import { about, type Me, me } from '../../contract/session.ts'
import { useAnswer } from '../data/answers.ts'
import { draftsOf } from '../data/useDraft.ts'
import { answersOf, forgetAnswers, useKeptAnswer } from '../data/useKeptAnswer.ts'
import { Loading, Trouble } from '../kit/Waiting.tsx'

const MeContext = createContext<Me | null>(null)

/** Who is signed in. Only below `SignedIn`. */
export function useMe(): Me {
  const known = useContext(MeContext)
  if (!known) throw new Error('useMe stands outside SignedIn')
  return known
}

/** True in the demo, where a door and an outbox page exist. */
export function useDemo(): boolean {
  return useAnswer(about, {}, { revalidateOnFocus: false }).data?.demo ?? false
}

/** Shows its children to those who are signed in; leads all others through sign-in and back to where they were. */
export function SignedIn({ children }: { children: ReactNode }) {
  const { pathname, search } = useLocation()
  const { data, error, mutate } = useKeptAnswer(me, {}, { shouldRetryOnError: false })
  if (error?.code === 'not-signed-in') {
    forgetAnswers()
    const next = `${pathname}${search}`
    return <Navigate replace to={next === '/' ? '/sign-in' : `/sign-in?next=${encodeURIComponent(next)}`} />
  }
  if (!data)
    return error ? <Trouble fault={error} retry={() => void mutate()} /> : <Loading what="your courses" />
  // What somebody else left in this tab is not taken up.
  draftsOf(data.email)
  answersOf(data.email)
  return <MeContext value={data}>{children}</MeContext>
}

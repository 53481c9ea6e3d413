import { createContext, type ReactNode, useContext, useEffect, useState } from 'react'
import { Navigate, useLocation } from 'react-router'
import { useSWRConfig } from 'swr'
import { about, type Me, me } from '../../contract/session.ts'
import { keyOf, useAnswer } from '../data/answers.ts'
import { pagesOf } from '../data/useDraft.ts'
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
  return (
    <Pages key={data.email} of={data}>
      {children}
    </Pages>
  )
}

/** One person's pages. What somebody else left in this tab is not taken up, and nothing of theirs is shown. */
function Pages({ of, children }: { of: Me; children: ReactNode }) {
  const { mutate } = useSWRConfig()
  const [others] = useState(() => {
    answersOf(of.email)
    return pagesOf(of.email)
  })
  useEffect(() => {
    if (others) void mutate((key) => key !== keyOf(me, {}), undefined)
  }, [others, mutate])
  return <MeContext value={of}>{children}</MeContext>
}

import { useEffect, useRef, useState } from 'react'
import { Link, useLocation, useSearchParams } from 'react-router'
import { type LinkLook, lookAtLink, signInByLink } from '../../contract/access.ts'
import { call, type Fault, faultOf } from '../data/call.ts'
import { Button } from '../kit/Button.tsx'
import { Loading } from '../kit/Waiting.tsx'
import { Plain } from './Plain.tsx'
import { safeNext } from './SignInPage.tsx'
import { useLetIn } from './useLetIn.ts'

/**
 * Where the link of a mail leads. In the browser that asked it signs in at once; anywhere else it asks first, so that
 * nobody is signed in somewhere by a link that somebody else asked for, or by a mail program that looks ahead.
 */
export function EnterPage() {
  const [params] = useSearchParams()
  const { hash } = useLocation()
  const token = useRef(hash.slice(1))
  const next = safeNext(params.get('next'))
  const letIn = useLetIn()
  const [look, setLook] = useState<LinkLook | null>(null)
  const [fault, setFault] = useState<Fault | null>(null)
  const [busy, setBusy] = useState(false)

  const enter = async () => {
    setBusy(true)
    try {
      await letIn(await call(signInByLink, {}, { token: token.current }), next)
    } catch (error) {
      setFault(faultOf(error))
    } finally {
      setBusy(false)
    }
  }
  // biome-ignore lint/correctness/useExhaustiveDependencies: the link is followed once, when the page comes up
  useEffect(() => {
    // A token that was read has no business in the history.
    window.history.replaceState(window.history.state, '', `${location.pathname}${location.search}`)
    let gone = false
    call(lookAtLink, {}, { token: token.current || 'none' }).then(
      (found) => {
        if (gone) return
        setLook(found)
        if (found.here) void enter()
      },
      (error: unknown) => {
        if (!gone) setFault(faultOf(error))
      },
    )
    return () => {
      gone = true
    }
  }, [])

  if (!fault && (!look || look.here)) return <Loading what="your sign-in" />
  return (
    <Plain>
      <title>Sign in · Haplon</title>
      <div className="rounded-card border border-line bg-surface">
        <div className="flex flex-col gap-1 p-5">
          <h1 className="text-xl">{fault ? 'The link does not work' : 'Sign in here?'}</h1>
          {fault ? (
            <p role="alert" className="text-soft">
              {fault.message}
            </p>
          ) : (
            <p className="text-soft">
              This mail was asked for in another browser. To be signed in there, type its code there. To be
              signed in here as <strong className="font-semibold text-ink">{look?.email}</strong>, go on.
            </p>
          )}
        </div>
        <div className="flex flex-wrap gap-2 border-t tear p-5">
          {!fault && (
            <Button look="main" size="touch" busy={busy} onClick={() => void enter()}>
              Sign in here
            </Button>
          )}
          <Link
            to={`/sign-in${params.size > 0 ? `?next=${encodeURIComponent(next)}` : ''}`}
            className="inline-flex min-h-11 items-center px-2 font-semibold first:pl-0 text-seat underline underline-offset-2"
          >
            Ask for another mail
          </Link>
        </div>
      </div>
    </Plain>
  )
}

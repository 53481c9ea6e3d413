import '../../contract/wording.ts'
import { yupResolver } from '@hookform/resolvers/yup'
import { useState } from 'react'
import { useForm } from 'react-hook-form'
import { Link, useSearchParams } from 'react-router'
import { askCode, type CodeAsked, codeAsk, codeEntry, signIn } from '../../contract/access.ts'
import { MINUTE } from '../../core/instant.ts'
import { call, faultOf } from '../data/call.ts'
import { useUnsent } from '../data/useDraft.ts'
import { Button } from '../kit/Button.tsx'
import { Field } from '../kit/Field.tsx'
import { useDemo } from './me.tsx'
import { Plain } from './Plain.tsx'
import { enterByPasskey, passkeysPossible } from './passkeys.ts'
import { useLetIn } from './useLetIn.ts'

/** Where to go after signing in: a path of ours, never another site. */
export function safeNext(next: string | null): string {
  return next !== null && /^\/(?![/\\])/.test(next) ? next : '/'
}

/** Where a mail with a code was asked for, so that the page can be loaded anew while it is read. */
type Asked = CodeAsked & { at: number }

/** Signing in: an address, then the code that was sent there. */
export function SignInPage() {
  const [params] = useSearchParams()
  const kept = useUnsent<Asked | null>('sign-in', null)
  const demo = useDemo()
  const next = safeNext(params.get('next'))
  const asked = kept.value && Date.now() - kept.value.at < kept.value.minutes * MINUTE ? kept.value : null
  const ask = (answer: CodeAsked) => kept.write({ ...answer, at: Date.now() })
  return (
    <Plain>
      <title>Sign in · Haplon</title>
      <div className="rounded-card border border-line bg-surface">
        <div className="flex flex-col gap-1 p-5">
          <h1 className="text-xl">
            {asked === null ? 'Sign in' : asked.withCode ? 'Type the code' : 'Open the link'}
          </h1>
          <p className="text-soft">
            {asked === null
              ? 'We send a code and a link to the address that your course has of you. There is no password.'
              : mailWords(asked)}
          </p>
        </div>
        <div className="border-t tear p-5">
          {asked === null ? (
            <>
              <AddressForm next={next} onSent={ask} />
              {passkeysPossible() && <ByPasskey next={next} />}
            </>
          ) : (
            <CodeForm
              email={asked.sentTo}
              next={next}
              onAsked={ask}
              onDone={() => kept.drop()}
              onBack={() => kept.drop()}
            />
          )}
        </div>
      </div>
      {demo && (
        <p className="text-soft">
          This is the demo.{' '}
          <Link
            className="font-semibold text-seat underline underline-offset-2"
            to={`/door?next=${encodeURIComponent(next)}`}
          >
            Enter through the door
          </Link>{' '}
          as anybody of the sample, or read the code in the{' '}
          <Link className="font-semibold text-seat underline underline-offset-2" to="/outbox" target="_blank">
            outbox
          </Link>
          .
        </p>
      )}
    </Plain>
  )
}

/** Whether a mail is on its way, as far as may be said. */
function mailWords({ sentTo, minutes, nextAt, withCode }: CodeAsked): string {
  const holds = withCode ? 'six digits and a link' : 'a link'
  return nextAt === null
    ? `If ${sentTo} is on a roster, a mail with ${holds} is on its way. ${withCode ? 'Either works' : 'It works'} for ${minutes} minutes.`
    : `No further mail is sent to ${sentTo} before ${new Date(nextAt).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}: it was asked for too often. What came last works for ${minutes} minutes.`
}

function AddressForm({ next, onSent }: { next: string; onSent: (asked: CodeAsked) => void }) {
  const { register, handleSubmit, formState, setError } = useForm({
    resolver: yupResolver(codeAsk),
    defaultValues: { email: '', next },
  })
  const send = handleSubmit(async (typed) => {
    try {
      onSent(await call(askCode, {}, typed))
    } catch (error) {
      setError('email', { message: faultOf(error).message })
    }
  })
  return (
    <form onSubmit={(event) => void send(event)} noValidate className="flex flex-col gap-4">
      <Field
        label="Email address"
        type="email"
        autoComplete="email"
        autoFocus
        {...register('email')}
        fault={formState.errors.email?.message}
        className="min-h-11"
      />
      <Button type="submit" look="main" size="touch" busy={formState.isSubmitting}>
        Send me a code
      </Button>
    </form>
  )
}

/** The other way in, for who has set it up. */
function ByPasskey({ next }: { next: string }) {
  const letIn = useLetIn()
  const [busy, setBusy] = useState(false)
  const [fault, setFault] = useState<string | null>(null)
  const enter = async () => {
    setBusy(true)
    setFault(null)
    try {
      const person = await enterByPasskey()
      if (person) await letIn(person, next)
    } catch (error) {
      setFault(faultOf(error).message)
    } finally {
      setBusy(false)
    }
  }
  return (
    <div className="mt-2 flex flex-col gap-2">
      <Button look="quiet" size="touch" busy={busy} onClick={() => void enter()}>
        Sign in with a passkey
      </Button>
      {fault && (
        <p role="alert" className="text-sm text-ember">
          {fault}
        </p>
      )}
    </div>
  )
}

function CodeForm({
  email,
  next,
  onAsked,
  onDone,
  onBack,
}: {
  email: string
  next: string
  onAsked: (asked: CodeAsked) => void
  onDone: () => void
  onBack: () => void
}) {
  const letIn = useLetIn()
  const [again, setAgain] = useState<string | null>(null)
  const { register, handleSubmit, formState, setError } = useForm({
    resolver: yupResolver(codeEntry),
    defaultValues: { email, code: '' },
  })
  const enter = handleSubmit(async (typed) => {
    try {
      const person = await call(signIn, {}, typed)
      onDone()
      await letIn(person, next)
    } catch (error) {
      setError('code', { message: faultOf(error).message })
    }
  })
  const resend = async () => {
    try {
      const asked = await call(askCode, {}, { email, next })
      onAsked(asked)
      setAgain(asked.nextAt === null ? 'Only the newest code works.' : '')
    } catch (error) {
      setAgain(faultOf(error).message)
    }
  }
  return (
    <form onSubmit={(event) => void enter(event)} noValidate className="flex flex-col gap-4">
      <Field
        label="Code from the mail"
        inputMode="numeric"
        autoComplete="one-time-code"
        autoFocus
        {...register('code')}
        fault={formState.errors.code?.message}
        className="figures min-h-11 text-xl tracking-[0.3em]"
      />
      <Button type="submit" look="main" size="touch" busy={formState.isSubmitting}>
        Sign in
      </Button>
      <div className="flex flex-wrap gap-1">
        <Button look="quiet" size="touch" onClick={() => void resend()}>
          Send another code
        </Button>
        <Button look="quiet" size="touch" onClick={onBack}>
          Use another address
        </Button>
      </div>
      <output className="text-sm text-soft">{again}</output>
    </form>
  )
}

import '../../contract/wording.ts'
import { yupResolver } from '@hookform/resolvers/yup'
import { useState } from 'react'
import { useForm } from 'react-hook-form'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { useSWRConfig } from 'swr'
import { askCode, type CodeAsked, codeAsk, codeEntry, signIn } from '../../contract/access.ts'
import { me } from '../../contract/session.ts'
import { MINUTE } from '../../core/instant.ts'
import { keyOf } from '../data/answers.ts'
import { call, faultOf } from '../data/call.ts'
import { useUnsent } from '../data/useDraft.ts'
import { Button } from '../kit/Button.tsx'
import { Field } from '../kit/Field.tsx'
import { useDemo } from './me.tsx'
import { Plain } from './Plain.tsx'

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
          <h1 className="text-xl">{asked === null ? 'Sign in' : 'Type the code'}</h1>
          <p className="text-soft">
            {asked === null
              ? 'We send a code to the address that your course has of you. There is no password.'
              : mailWords(asked)}
          </p>
        </div>
        <div className="border-t tear p-5">
          {asked === null ? (
            <AddressForm onSent={ask} />
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
function mailWords({ sentTo, minutes, nextAt }: CodeAsked): string {
  return nextAt === null
    ? `If ${sentTo} is on a roster, a mail with six digits is on its way. The code works for ${minutes} minutes.`
    : `No further mail is sent to ${sentTo} before ${new Date(nextAt).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}: it was asked for too often. The newest code that came works for ${minutes} minutes.`
}

function AddressForm({ onSent }: { onSent: (asked: CodeAsked) => void }) {
  const { register, handleSubmit, formState, setError } = useForm({ resolver: yupResolver(codeAsk) })
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
  const navigate = useNavigate()
  const { mutate } = useSWRConfig()
  const [again, setAgain] = useState<string | null>(null)
  const { register, handleSubmit, formState, setError } = useForm({
    resolver: yupResolver(codeEntry),
    defaultValues: { email, code: '' },
  })
  const enter = handleSubmit(async (typed) => {
    try {
      const person = await call(signIn, {}, typed)
      onDone()
      await mutate(() => true, undefined, { revalidate: false })
      await mutate(keyOf(me, {}), person, { revalidate: false })
      navigate(next, { replace: true })
    } catch (error) {
      setError('code', { message: faultOf(error).message })
    }
  })
  const resend = async () => {
    try {
      const asked = await call(askCode, {}, { email })
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

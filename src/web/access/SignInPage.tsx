import '../../contract/wording.ts'
import { yupResolver } from '@hookform/resolvers/yup'
import { useEffect, useState } from 'react'
import { useForm } from 'react-hook-form'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { useSWRConfig } from 'swr'
import { askCode, codeAsk, codeEntry, me, signIn } from '../../contract/access.ts'
import { keyOf } from '../data/answers.ts'
import { call, faultOf } from '../data/call.ts'
import { Button } from '../kit/Button.tsx'
import { Field } from '../kit/Field.tsx'
import { useDemo } from './me.tsx'
import { Plain } from './Plain.tsx'

/** Where to go after signing in: a path of ours, never another site. */
export function safeNext(next: string | null): string {
  return next !== null && /^\/(?![/\\])/.test(next) ? next : '/'
}

/** Signing in: an address, then the code that was sent there. */
export function SignInPage() {
  const [params] = useSearchParams()
  const [sentTo, setSentTo] = useState<string | null>(null)
  const demo = useDemo()
  const next = safeNext(params.get('next'))
  useEffect(() => {
    document.title = 'Sign in · Haplon'
  }, [])
  return (
    <Plain>
      <div className="rounded-card border border-line bg-surface">
        <div className="flex flex-col gap-1 p-5">
          <h1 className="text-xl">{sentTo === null ? 'Sign in' : 'Type the code'}</h1>
          <p className="text-soft">
            {sentTo === null
              ? 'We send a code to the address that your course has of you. There is no password.'
              : `If ${sentTo} is on a roster, a mail with six digits is on its way. The code works for ten minutes.`}
          </p>
        </div>
        <div className="border-t tear p-5">
          {sentTo === null ? (
            <AddressForm onSent={setSentTo} />
          ) : (
            <CodeForm email={sentTo} next={next} onBack={() => setSentTo(null)} />
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

function AddressForm({ onSent }: { onSent: (email: string) => void }) {
  const { register, handleSubmit, formState, setError } = useForm({ resolver: yupResolver(codeAsk) })
  const send = handleSubmit(async (typed) => {
    try {
      onSent((await call(askCode, {}, typed)).sentTo)
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

function CodeForm({ email, next, onBack }: { email: string; next: string; onBack: () => void }) {
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
      await mutate(() => true, undefined, { revalidate: false })
      await mutate(keyOf(me, {}), person, { revalidate: false })
      navigate(next, { replace: true })
    } catch (error) {
      setError('code', { message: faultOf(error).message })
    }
  })
  const resend = async () => {
    try {
      await call(askCode, {}, { email })
      setAgain('Another mail is on its way. Only the newest code works.')
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
        maxLength={9}
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

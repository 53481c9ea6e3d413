import { useState } from 'react'
import { endSession, endSessions, removePasskey, type SignIns, signIns } from '../../contract/signIns.ts'
import { sayInstant } from '../../core/zone.ts'
import { useAnswer } from '../data/answers.ts'
import { call } from '../data/call.ts'
import { drafts } from '../data/useDraft.ts'
import { useAct } from '../kit/Acting.tsx'
import { Ask } from '../kit/Ask.tsx'
import { Awaited } from '../kit/Awaited.tsx'
import { Button } from '../kit/Button.tsx'
import { Card } from '../kit/Card.tsx'
import { Field } from '../kit/Field.tsx'
import { FormBox } from '../kit/FormBox.tsx'
import { Frame } from '../kit/Frame.tsx'
import { makePasskey, passkeysPossible } from './passkeys.ts'
import { useEndVisit } from './useEndVisit.ts'

const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone
const when = (instant: string) => sayInstant(instant, HERE)

type Put = (answer: SignIns) => void

/** Where one is signed in, the way out of all of it, and one's passkeys. */
export function SignInsPage() {
  const answer = useAnswer(signIns, {})
  return (
    <Frame title="Where you are signed in" crumbs={[{ label: 'Where you are signed in' }]}>
      <Awaited bare of={answer} what="where you are signed in">
        {(data) => (
          <div className="mx-auto flex w-full max-w-2xl flex-col gap-4 px-4 py-6">
            <h1 className="text-[1.625rem]">Where you are signed in</h1>
            <Sessions data={data} put={(next) => void answer.mutate(next, { revalidate: false })} />
            <Passkeys data={data} put={(next) => void answer.mutate(next, { revalidate: false })} />
          </div>
        )}
      </Awaited>
    </Frame>
  )
}

function Sessions({ data: { sessions }, put }: { data: SignIns; put: Put }) {
  const act = useAct()
  const endVisit = useEndVisit()
  const [asking, setAsking] = useState(false)
  const end = (code: string, device: string) =>
    act.do({
      work: () => call(endSession, { session: code }),
      put,
      said: `${device} is signed out.`,
    })
  const endAll = async () => {
    await drafts.flushEvery()
    const done = await act.do({ work: () => call(endSessions, {}) })
    setAsking(false)
    if (done.fault) return
    await endVisit()
  }
  return (
    <Card title="Browsers">
      <ul className="flex flex-col">
        {sessions.map(({ code, device, begunAt, usedAt, here }) => (
          <li
            key={code}
            className="flex min-h-14 flex-wrap items-center gap-x-4 border-t tear py-2 first:border-t-0"
          >
            <div className="min-w-0 flex-1">
              <div className="font-semibold">
                {device || 'A browser'}
                {here && <span className="ml-2 font-normal text-soft">this one</span>}
              </div>
              <div className="text-sm text-soft">
                since {when(begunAt)}
                {!here && `, last used ${when(usedAt)}`}
              </div>
            </div>
            {!here && (
              <Button
                size="touch"
                look="quiet"
                busy={act.busy}
                aria-label={`Sign out ${device || 'a browser'}, signed in since ${when(begunAt)}`}
                onClick={() => void end(code, device || 'A browser')}
              >
                Sign out
              </Button>
            )}
          </li>
        ))}
      </ul>
      <p className="text-sm text-soft">
        A browser is signed out by itself after 14 days without use, and after 90 days in any case.
      </p>
      <Button size="touch" className="mt-3" onClick={() => setAsking(true)}>
        Sign out everywhere
      </Button>
      {asking && (
        <Ask
          open
          title="Sign out everywhere?"
          yes="Sign out everywhere"
          busy={act.busy}
          onNo={() => setAsking(false)}
          onYes={() => void endAll()}
        >
          <p>Every browser in the list is signed out at once, this one too.</p>
        </Ask>
      )}
    </Card>
  )
}

function Passkeys({ data: { passkeys, passkeysPossible: served }, put }: { data: SignIns; put: Put }) {
  const act = useAct()
  const [naming, setNaming] = useState(false)
  const [going, setGoing] = useState<SignIns['passkeys'][number] | null>(null)
  const possible = served && passkeysPossible()
  const remove = async ({ code, name }: SignIns['passkeys'][number]) => {
    await act.do({ work: () => call(removePasskey, { passkey: code }), put, said: `“${name}” is deleted.` })
    setGoing(null)
  }
  return (
    <Card title="Passkeys">
      <p className="text-soft">
        With a passkey you sign in by your phone’s or computer’s lock, without waiting for a mail. Signing in
        by mail goes on working.
      </p>
      {passkeys.length > 0 && (
        <ul className="flex flex-col">
          {passkeys.map((passkey) => (
            <li
              key={passkey.code}
              className="flex min-h-14 flex-wrap items-center gap-x-4 border-t tear py-2 first:border-t-0"
            >
              <div className="min-w-0 flex-1">
                <div className="font-semibold break-words">{passkey.name}</div>
                <div className="text-sm text-soft">
                  added {when(passkey.addedAt)}
                  {passkey.usedAt ? `, last used ${when(passkey.usedAt)}` : ', not used yet'}
                </div>
              </div>
              <Button
                size="touch"
                look="quiet"
                aria-label={`Delete ${passkey.name}`}
                onClick={() => setGoing(passkey)}
              >
                Delete
              </Button>
            </li>
          ))}
        </ul>
      )}
      {possible ? (
        <Button size="touch" className="mt-3" onClick={() => setNaming(true)}>
          Add a passkey
        </Button>
      ) : (
        <p className="text-sm text-soft">
          {served
            ? 'This browser cannot make passkeys here.'
            : 'Passkeys need an address with a name; this server is reached by a bare number.'}
        </p>
      )}
      {naming && <NewPasskey put={put} onClose={() => setNaming(false)} />}
      {going && (
        <Ask
          open
          title={`Delete “${going.name}”?`}
          yes="Delete passkey"
          busy={act.busy}
          onNo={() => setGoing(null)}
          onYes={() => void remove(going)}
        >
          <p>
            It lets nobody in any more. Delete it where it is kept too, in your browser’s or phone’s settings.
          </p>
        </Ask>
      )}
    </Card>
  )
}

function NewPasskey({ put, onClose }: { put: Put; onClose: () => void }) {
  const act = useAct()
  const [name, setName] = useState('')
  const [missing, setMissing] = useState(false)
  const make = async () => {
    if (name.trim() === '') return setMissing(true)
    const done = await act.do({
      work: () => makePasskey(name.trim()),
      put: (next) => next && put(next),
      said: (next) => (next ? 'You can sign in with the passkey from now on.' : 'No passkey was made.'),
      beside: true,
    })
    if (!done.fault && done.answer) onClose()
  }
  return (
    <FormBox
      title="Add a passkey"
      onClose={onClose}
      onSubmit={(event) => {
        event.preventDefault()
        void make()
      }}
    >
      <Field
        label="Name"
        value={name}
        maxLength={80}
        autoFocus
        hint="By which you know it again, such as: my phone"
        fault={act.fault?.message ?? (missing ? 'Give it a name, by which you know it again.' : undefined)}
        onChange={({ target }) => {
          setName(target.value)
          setMissing(false)
        }}
      />
      <Button type="submit" look="main" size="touch" busy={act.busy}>
        Add passkey
      </Button>
    </FormBox>
  )
}

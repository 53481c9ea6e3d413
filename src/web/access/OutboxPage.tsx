import { type OutboxMail, outbox } from '../../contract/demo.ts'
import { useAnswer } from '../data/answers.ts'
import { Awaited } from '../kit/Awaited.tsx'
import { Plain } from './Plain.tsx'

/** The mails that the demo sent, newest first. */
export function OutboxPage() {
  const answer = useAnswer(outbox, {}, { refreshInterval: 2_000 })
  return (
    <Awaited bare of={answer} what="the outbox">
      {(data) => <Outbox data={data} />}
    </Awaited>
  )
}

function Outbox({ data }: { data: { mails: OutboxMail[] } }) {
  return (
    <Plain>
      <title>Outbox · Haplon</title>
      <div>
        <h1 className="text-xl">Outbox</h1>
        <p className="mt-1 text-soft">Mail that the demo would have sent. Nothing leaves this machine.</p>
      </div>
      {data.mails.length === 0 && (
        <p className="text-soft">No mail yet. Ask for a sign-in code and it lands here.</p>
      )}
      <ul className="flex flex-col gap-3">
        {data.mails.map(({ code, to, subject, text, at, heldUntil }) => (
          <li key={code} className="rounded-card border border-line bg-surface">
            <div className="px-4 py-3">
              <h2 className="text-base">{subject}</h2>
              <p className="text-sm text-soft">
                to {to}, <time dateTime={at}>{new Date(at).toLocaleTimeString('en-GB')}</time>
                {heldUntil && (
                  <span className="text-sun-ink">
                    , held until{' '}
                    <time dateTime={heldUntil}>{new Date(heldUntil).toLocaleTimeString('en-GB')}</time>,
                    unless it is undone
                  </span>
                )}
              </p>
            </div>
            <p className="border-t tear px-4 py-3 whitespace-pre-line">{text}</p>
          </li>
        ))}
      </ul>
    </Plain>
  )
}

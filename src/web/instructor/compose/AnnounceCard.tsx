import { useState } from 'react'
import {
  type AnnouncementsView,
  type AnnounceWhen,
  announce,
  announcements,
  sendAgain,
  withdrawAnnouncement,
} from '../../../contract/announcements.ts'
import type { ComposeView } from '../../../contract/sheets.ts'
import { counted } from '../../../core/counted.ts'
import { LIMITS } from '../../../core/limits.ts'
import { sayInstant } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'
import { call } from '../../data/call.ts'
import { useNow } from '../../data/clock.ts'
import { stateAt } from '../../data/state.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { Card } from '../../kit/Card.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { Area } from '../../kit/Field.tsx'
import { useDo } from '../../kit/useDo.ts'

/** Announces a published sheet by mail to the students of the course, now or at opening. */
export function AnnounceCard({ view }: { view: ComposeView }) {
  const { zone } = view.course
  const state = stateAt(view, useNow(5_000))
  const { data, mutate } = useAnswer(
    announcements,
    { sheet: view.code },
    { refreshInterval: state === 'scheduled' ? 15_000 : 0 },
  )
  // Half written, it is there again after a look elsewhere.
  const unsent = useUnsent<string | null>(`announcement ${view.code}`, null)
  const text = unsent.value
  const setText = unsent.write
  const put = (next: AnnouncementsView) => void mutate(next, { revalidate: false })
  const [when, setWhen] = useState<AnnounceWhen>('now')
  const act = useAct()
  const { fault, busy } = act
  useDo({ announce: () => setText(text ?? firstText(view, zone)) })
  const students = data?.students ?? view.students
  const later = state === 'scheduled'
  const send = async () => {
    const done = await act.do({
      work: () => call(announce, { sheet: view.code }, { text: text ?? '', when: later ? when : 'now' }),
      put,
      said:
        later && when === 'opening'
          ? 'It goes out when the sheet opens.'
          : `Sent to ${counted(students, 'student')}.`,
      beside: true,
    })
    if (!done.fault) unsent.drop()
  }
  const withdraw = (announcement: string) =>
    act.do({
      work: () => call(withdrawAnnouncement, { sheet: view.code, announcement }),
      put,
      refetch: () => void mutate(),
      said: 'The announcement is withdrawn.',
    })
  return (
    <Card title="Announce by mail">
      {data?.mailAwaySince && (
        <p className="mb-2 border-s-4 border-ember ps-2 text-sm">
          The mail server has taken no mail since {sayInstant(data.mailAwaySince, zone)}. What is sent now
          goes once it does again; whoever runs Haplon finds why in its log.
        </p>
      )}
      {data && data.failed.length > 0 && <FailedMails view={view} failed={data.failed} put={put} />}
      {data && data.announcements.length > 0 && (
        <ul className="mb-2 flex flex-col gap-1 text-sm">
          {data.announcements.map(({ code, text, sentAt, recipients }) => (
            <li key={code} className="flex items-baseline justify-between gap-2">
              <span className="min-w-0 truncate">{text}</span>
              <span className="figures shrink-0 text-soft">
                {sentAt ? `to ${recipients}, ${sayInstant(sentAt, zone)}` : 'waits for the opening '}
                {!sentAt && (
                  <button
                    type="button"
                    className="font-semibold text-seat underline"
                    onClick={() => void withdraw(code)}
                  >
                    Delete
                  </button>
                )}
              </span>
            </li>
          ))}
        </ul>
      )}
      {text === null ? (
        <Button size="small" onClick={() => setText(firstText(view, zone))}>
          Write to the {counted(students, 'student')}
        </Button>
      ) : (
        <div className="flex flex-col gap-2">
          <Area
            label="What they read; the link stands below it"
            rows={5}
            autoFocus
            maxLength={LIMITS.brief}
            value={text}
            onChange={(event) => setText(event.target.value)}
            fault={fault?.field('text') ?? fault?.message}
          />
          {later && (
            <label className="flex items-center gap-2">
              It goes out
              <Choice value={when} onValue={(value) => setWhen(value as AnnounceWhen)}>
                <option value="now">now</option>
                <option value="opening">when the sheet opens</option>
              </Choice>
            </label>
          )}
          <div className="flex gap-2">
            <Button size="small" look="main" busy={busy} onClick={() => void send()}>
              {later && when === 'opening' ? `Send to ${students} at opening` : `Send to ${students} now`}
            </Button>
            <Button size="small" look="quiet" onClick={() => setText(null)}>
              Cancel
            </Button>
          </div>
        </div>
      )}
    </Card>
  )
}

/** Mails of the sheet that the mail server refused: to whom, why, and the way to send them again. */
function FailedMails({
  view: { code: sheet, course },
  failed,
  put,
}: {
  view: ComposeView
  failed: AnnouncementsView['failed']
  put: (next: AnnouncementsView) => void
}) {
  const act = useAct()
  const again = () =>
    act.do({
      work: () => call(sendAgain, { sheet }, { mails: failed.map(({ code }) => code) }),
      put,
      said:
        failed.length === 1
          ? 'The mail is on its way again.'
          : `${failed.length} mails are on their way again.`,
    })
  return (
    <details className="mb-2 border-s-4 border-ember ps-2 text-sm">
      <summary className="cursor-pointer font-semibold">
        {failed.length === 1
          ? 'One mail of this sheet was refused'
          : `${failed.length} mails of this sheet were refused`}
      </summary>
      <ul className="my-2 flex max-h-56 flex-col gap-2 overflow-auto">
        {failed.map(({ code, to, subject, at, fault }) => (
          <li key={code} className="min-w-0 break-words">
            <div>
              <strong className="font-semibold">{to}</strong>, {sayInstant(at, course.zone)}
            </div>
            <div className="text-soft">{subject}</div>
            <div className="text-ember">{fault}</div>
          </li>
        ))}
      </ul>
      <Button size="small" busy={act.busy} onClick={() => void again()}>
        Send again
      </Button>
    </details>
  )
}

function firstText({ title, course, opensAt, closesAt }: ComposeView, zone: string): string {
  const from = opensAt ? ` from ${sayInstant(opensAt, zone)}` : ''
  const until = closesAt ? ` until ${sayInstant(closesAt, zone)}` : ''
  return `Please choose your group for “${title}” in ${course.courseCode} ${course.title}${from}${until}.`
}

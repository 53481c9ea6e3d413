import { dropNudge, type NudgesView, type NudgeView } from '../../../contract/nudges.ts'
import type { RunView } from '../../../contract/seats.ts'
import { fillFields } from '../../../core/nudge.ts'
import { sayInstant } from '../../../core/zone.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'

const STATES = {
  kept: 'in the outbox',
  waiting: 'on its way',
  sent: 'taken by the mail server',
  failed: 'not delivered',
} as const

/** A subject with what is the same for everybody filled in; what differs stays named. */
function filled(subject: string, { title, course, closesAt, link }: RunView): string {
  return fillFields(subject, {
    sheet: title,
    course: course.courseCode,
    closes: closesAt === null ? '{closes}' : sayInstant(closesAt, course.zone),
    link,
    name: '{name}',
    'first name': '{first name}',
    'time left': '{time left}',
    group: '{group}',
  })
}

/** Nudges with whom they went to, how their mail stands, and who has a group by now. */
export function NudgeHistory({
  view,
  data,
  put,
  onAgain,
  empty = 'Nobody was written to yet.',
}: {
  view: RunView
  data: NudgesView
  put: (view: NudgesView) => void
  /** Takes a nudge's texts up again; left out where that makes no sense. */
  onAgain?: (texts: { subject: string; text: string }) => void
  empty?: string
}) {
  const { zone } = view.course
  const act = useAct()
  const drop = (nudge: NudgeView) =>
    act.do({
      work: () => call(dropNudge, { sheet: view.code, nudge: nudge.code }),
      put,
      said: 'The nudge is deleted; it does not go out.',
    })
  if (data.nudges.length === 0) return <p className="text-soft">{empty}</p>
  return (
    <ul className="flex flex-col gap-2">
      {data.nudges.map((nudge) => {
        const { recipients, sentAt, dueAt } = nudge
        const still = recipients.filter(({ seatedNow }) => !seatedNow).length
        const failed = recipients.filter(({ state }) => state === 'failed')
        return (
          <li key={nudge.code} className="rounded-card border border-line px-4 py-2.5">
            <div className="flex flex-wrap items-start justify-between gap-2">
              <div className="min-w-0">
                <h3 className="truncate text-base">{filled(nudge.subject, view)}</h3>
                <p className="figures text-sm text-soft">
                  {sentAt === null
                    ? dueAt === null
                      ? 'goes once the sheet has a closing time'
                      : `goes ${sayInstant(dueAt, zone)}`
                    : `sent ${sayInstant(sentAt, zone)} to ${recipients.length}: ${recipients.length - still} have a group by now, ${still} still none`}
                </p>
              </div>
              {sentAt === null
                ? view.mayEdit && (
                    <Button size="small" onClick={() => void drop(nudge)}>
                      Delete nudge
                    </Button>
                  )
                : onAgain &&
                  still > 0 &&
                  view.mayEdit && (
                    <Button size="small" onClick={() => onAgain(nudge)}>
                      Again to those with no group
                    </Button>
                  )}
            </div>
            {failed.length > 0 && (
              <p className="mt-1 text-sm text-ember">
                Not delivered to{' '}
                {failed.map(({ name, fault }) => `${name} (${fault ?? 'no reason given'})`).join('; ')}.
              </p>
            )}
            {sentAt !== null && (
              <details className="mt-1 text-sm">
                <summary className="cursor-pointer text-soft">Who got it</summary>
                <ul className="mt-1 grid max-h-40 gap-x-6 overflow-auto sm:grid-cols-2">
                  {recipients.map(({ person, name, state, seatedNow }) => (
                    <li key={person} className="flex justify-between gap-2">
                      <span className="truncate">{name}</span>
                      <span className="text-soft">
                        {STATES[state]}
                        {seatedNow && ', seated'}
                      </span>
                    </li>
                  ))}
                </ul>
              </details>
            )}
          </li>
        )
      })}
    </ul>
  )
}

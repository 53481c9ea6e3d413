import { useState } from 'react'
import { zoneMoves } from '../../../contract/coursePage.ts'
import { type CourseView, changeCourse } from '../../../contract/courses.ts'
import { sayInstant } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Ask } from '../../kit/Ask.tsx'

/** Rows that are shown of what moves; the rest is counted. */
const MOST_SHOWN = 12

/** Asks whether times to come keep the clock or the moment when a course gets another zone, and says what moves. */
export function ZoneAsk({
  course,
  zone,
  onChanged,
  onClose,
}: {
  course: CourseView
  zone: string
  onChanged: () => void
  onClose: () => void
}) {
  const [chosen, setKeeps] = useState<'clock' | 'moment'>('clock')
  const answer = useAnswer(zoneMoves, { course: course.code, zone })
  // Where the clock cannot stay, the answer says why.
  const keeps = answer.error ? 'moment' : chosen
  const act = useAct()
  const moves = answer.data?.moves ?? []
  const change = () => {
    onClose()
    const send = (to: string) => () =>
      call(changeCourse, { course: course.code }, { zone: to, zoneKeeps: keeps })
    return act.do({
      work: send(zone),
      undo: send(course.zone),
      put: onChanged,
      said: `The course goes by the clocks of ${zone} now.`,
    })
  }
  return (
    <Ask
      open
      title={`The clocks of ${zone}`}
      yes="Change zone"
      ready={answer.data !== undefined || answer.error !== undefined}
      onNo={onClose}
      onYes={() => void change()}
    >
      {!answer.data && !answer.error && <p>Looking for what moves…</p>}
      {answer.error && <p role="alert">{answer.error.message}</p>}
      {answer.data && moves.length === 0 && <p>No time of the course is still to come, so nothing moves.</p>}
      {(moves.length > 0 || answer.error) && (
        <fieldset className="flex flex-col gap-1.5">
          <legend className="sr-only">What stays</legend>
          <label className="flex items-start gap-2">
            <input
              type="radio"
              name="keeps"
              className="mt-1"
              checked={keeps === 'clock'}
              disabled={answer.error !== undefined}
              onChange={() => setKeeps('clock')}
            />
            <span>
              <strong className="text-ink">The clock stays</strong>: what closes at 17:00 closes at 17:00
              there, at another moment.
            </span>
          </label>
          <label className="flex items-start gap-2">
            <input
              type="radio"
              name="keeps"
              className="mt-1"
              checked={keeps === 'moment'}
              onChange={() => setKeeps('moment')}
            />
            <span>
              <strong className="text-ink">The moment stays</strong>: nothing closes earlier or later; the
              clock shows another time.
            </span>
          </label>
        </fieldset>
      )}
      {moves.length > 0 && (
        <table className="figures w-full text-left text-sm">
          <thead>
            <tr>
              <th className="pr-3 font-semibold">To come</th>
              <th className="pr-3 font-semibold">Now</th>
              <th className="font-semibold">Then</th>
            </tr>
          </thead>
          <tbody>
            {moves.slice(0, MOST_SHOWN).map(({ sheet, what, at, moved }) => (
              <tr key={`${sheet}${what}${at}`} className="border-t tear align-top">
                <td className="py-1 pr-3">
                  {sheet}: {what}
                </td>
                <td className="py-1 pr-3">{sayInstant(at, course.zone)}</td>
                <td className="py-1">{sayInstant(keeps === 'clock' ? moved : at, zone)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {moves.length > MOST_SHOWN && <p>and {moves.length - MOST_SHOWN} more.</p>}
    </Ask>
  )
}

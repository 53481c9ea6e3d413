import { Fragment, useState } from 'react'
import { type ComposeView, publishSheet, withdrawSheet } from '../../../contract/sheets.ts'
import { counted } from '../../../core/counted.ts'
import { seatsCheck } from '../../../core/supply.ts'
import { sayInstant } from '../../../core/zone.ts'
import { call, type Fault } from '../../data/call.ts'
import { serverNow } from '../../data/clock.ts'
import { drafts } from '../../data/useDraft.ts'
import { EXTRA_WORDS } from '../../group/extraWords.ts'
import { Ask } from '../../kit/Ask.tsx'
import { Check } from '../../kit/Check.tsx'
import { toast } from '../../kit/toast.ts'
import { RULES } from '../record/rules.ts'
import { notReady, sameTitles } from './notReady.ts'
import { sectionName, supplyOf } from './supply.ts'
import type { Composing } from './useComposing.ts'
import { windowDoubts } from './windowDoubts.ts'

/** The rules that the question names, each under a word. */
const SAID = new Map<string, string>([
  ['road', 'Groups'],
  ['aim', 'What comes first'],
  ['wishWorth', 'Students see'],
  ['swaps', 'Seats given'],
  ['names', 'Names'],
  ['changing', 'Changes'],
  ['offers', 'Offered to'],
  ['fullGroups', 'When full'],
  ['otherLines', 'Lines'],
  ['convener', 'Convener'],
  ['invitations', 'Invitations'],
  ['convenerMay', 'Conveners besides'],
  ['atClose', 'At the close'],
  ['late', 'Latecomers'],
])

/** Which tasks students find as soon as they see the sheet, and which wait. */
function taskWords({ tasks }: Pick<ComposeView, 'tasks'>): string {
  const titles = (out: boolean) =>
    tasks
      .filter((task) => task.out === out)
      .map(({ title }) => title)
      .join(', ')
  return [
    ...(titles(true) ? [`out with the sheet: ${titles(true)}`] : []),
    ...(titles(false) ? [`not shown yet: ${titles(false)}`] : []),
  ].join('; ')
}

/** Says what is about to be created, who will see it and when, marks what is doubtful, then publishes. */
export function PublishAsk({
  view,
  open,
  composing,
  onClose,
}: {
  view: ComposeView
  open: boolean
  composing: Composing
  onClose: () => void
}) {
  const [busy, setBusy] = useState(false)
  const [tell, setTell] = useState(false)
  const [fault, setFault] = useState<Fault | null>(null)
  const { opensAt, closesAt, course } = view
  const made = view.rules.road === 'made'
  const input = supplyOf(view)
  const { groups } = input
  const supply = seatsCheck(input)
  const now = serverNow()
  const later = opensAt !== null && opensAt > now
  const wrong = notReady(view, now)
  const doubts = [
    ...(view.students === 0 ? ['Nobody is on the roster yet.'] : []),
    ...sameTitles(view).map((title) => `Two topics are called “${title}”.`),
    ...supply
      .filter(({ spare }) => spare < 0)
      .map(({ key, spare }) => `${sectionName(view, key)}: ${counted(-spare, 'seat')} short.`),
    ...(!made && closesAt !== null && closesAt > now ? windowDoubts(view, now) : []),
  ]
  const seated = view.topics.reduce(
    (sum, topic) => sum + topic.groups.reduce((own, { taken }) => own + taken, 0),
    0,
  )
  const publish = async () => {
    setBusy(true)
    // What was written a moment ago goes out with it.
    const kept = await drafts.flushEvery()
    if (!kept) toast.error('Something on this page is not saved yet. Look at it, then publish again.')
    else {
      const { fault: refused } = await composing.do({
        work: () => call(publishSheet, { sheet: view.code }, { tell: tell && seated > 0 }),
        undo: () => call(withdrawSheet, { sheet: view.code }, { confirmed: true }),
        said: made
          ? 'The groups are out: students see theirs.'
          : later
            ? 'The sheet is published. It opens by itself.'
            : 'The sheet is out. Hand out its link.',
        saidUndone: () => 'The sheet is a draft again.',
        beside: true,
      })
      setFault(refused)
      if (!refused) onClose()
    }
    setBusy(false)
  }
  const close = () => {
    setFault(null)
    onClose()
  }
  return (
    <Ask
      open={open}
      title={`Publish ${view.title}?`}
      yes="Publish"
      busy={busy}
      ready={wrong.length === 0}
      onYes={() => void publish()}
      onNo={close}
    >
      <dl className="grid grid-cols-[5.5rem_1fr] gap-x-3 gap-y-2">
        <dt>Made</dt>
        <dd className="text-ink">
          {groups.length} {groups.length === 1 ? 'group' : 'groups'} on {view.topics.length} topics
        </dd>
        <dt>Seats</dt>
        <dd className="text-ink">
          {supply.map(({ key, seats, students }) => (
            <span key={key ?? ''} className="figures block">
              {sectionName(view, key)}:{' '}
              {Number.isFinite(seats) ? `${seats} for ${students}` : `no limit for ${students}`}
            </span>
          ))}
        </dd>
        <dt>Seen</dt>
        <dd className="text-ink">
          {later && !view.visibleBefore
            ? `by students only once it opens`
            : view.whom.kind === 'course'
              ? 'by every student of the course, at once'
              : `at once, by the ${counted(view.students, 'student')} for whom the sheet is; nobody else learns of it`}
        </dd>
        <dt>Chosen</dt>
        <dd className="figures text-ink">
          {made
            ? 'by nobody: they see their group'
            : `${later && opensAt ? `from ${sayInstant(opensAt, course.zone)}` : 'at once'}${closesAt ? `, until ${sayInstant(closesAt, course.zone)}` : ''}`}
        </dd>
        {RULES.filter(({ rule, asked }) => SAID.has(rule) && (asked?.(view.rules) ?? true)).map(
          ({ rule, label, choices }) => {
            const choice = choices.find(({ value }) => value === view.rules[rule])
            return (
              <Fragment key={rule}>
                <dt>{SAID.get(rule)}</dt>
                <dd className="text-ink">
                  {choice ? `${label} ${choice.label}. ${choice.notice}` : `${label}: ${view.rules[rule]}.`}
                </dd>
              </Fragment>
            )
          },
        )}
        <dt>Each student</dt>
        <dd className="text-ink">
          {view.rules.seatsEach === 1 ? 'has one seat' : `has up to ${view.rules.seatsEach} seats`}
        </dd>
        <dt>Group pages</dt>
        <dd className="text-ink">
          {view.extras.length === 0
            ? 'show members and tasks'
            : `show members and tasks, with ${view.extras.map((extra) => EXTRA_WORDS[extra].toLowerCase()).join(', ')}`}
        </dd>
        <dt>Tasks</dt>
        <dd className="text-ink">{view.tasks.length === 0 ? 'none yet' : taskWords(view)}</dd>
      </dl>
      {seated > 0 && (
        <Check checked={tell} onValue={setTell}>
          Tell the {seated} who have a seat by mail where they sit. It is held for a minute: an undo within it
          recalls it.
        </Check>
      )}
      {wrong.length > 0 && (
        <div role="alert" className="rounded-field bg-ember-soft px-3 py-2">
          <p className="font-semibold text-ember">It cannot be published yet:</p>
          <ul className="list-disc pl-5">
            {wrong.map((what) => (
              <li key={what}>{what}</li>
            ))}
          </ul>
        </div>
      )}
      {doubts.length > 0 && (
        <ul className="rounded-field bg-sun-soft px-3 py-2 text-sun-ink">
          {doubts.map((doubt) => (
            <li key={doubt}>{doubt}</li>
          ))}
        </ul>
      )}
      {fault && (
        <p role="alert" className="font-semibold text-ember">
          {fault.message}
        </p>
      )}
    </Ask>
  )
}

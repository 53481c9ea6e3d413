import { useState } from 'react'
import { toast } from 'sonner'
import { type ComposeView, publishSheet } from '../../../contract/sheets.ts'
import { seatsCheck } from '../../../core/supply.ts'
import { sayInstant } from '../../../core/zone.ts'
import { call, type Fault } from '../../data/call.ts'
import { serverNow } from '../../data/clock.ts'
import { Ask } from '../../kit/Ask.tsx'
import { RULES } from './rules.ts'
import { sectionName, supplyOf } from './supply.ts'
import type { SendEdit } from './useEdits.ts'
import { windowDoubts } from './windowDoubts.ts'

/** Says what is about to be created, who will see it and when, marks what is doubtful, then publishes. */
export function PublishAsk({
  view,
  open,
  edit,
  onClose,
}: {
  view: ComposeView
  open: boolean
  edit: SendEdit
  onClose: () => void
}) {
  const [busy, setBusy] = useState(false)
  const [fault, setFault] = useState<Fault | null>(null)
  const { opensAt, closesAt, course } = view
  const { sections, groups } = supplyOf(view)
  const supply = seatsCheck({ sections, groups })
  const now = serverNow()
  const later = opensAt !== null && opensAt > now
  const notices = RULES.filter(({ rule }) => rule === 'names' || rule === 'changing').map(
    ({ rule, choices }) => choices.find(({ value }) => value === view.rules[rule])?.notice,
  )
  const doubts = [
    ...(view.topics.length === 0 ? ['There is no topic yet.'] : []),
    ...(closesAt === null ? ['There is no closing time yet.'] : []),
    ...(view.students === 0 ? ['Nobody is on the roster yet.'] : []),
    ...supply
      .filter(({ spare }) => spare < 0)
      .map(({ key, spare }) => `${sectionName(view, key)}: ${-spare} seats short.`),
    ...windowDoubts(view, now),
  ]
  const publish = async () => {
    setBusy(true)
    const refused = await edit(() => call(publishSheet, { sheet: view.code }))
    setBusy(false)
    setFault(refused)
    if (refused) return
    toast.success(
      later ? 'The sheet is published. It opens by itself.' : 'The sheet is out. Hand out its link.',
    )
    onClose()
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
            : 'by every student of the course, at once'}
        </dd>
        <dt>Chosen</dt>
        <dd className="figures text-ink">
          {later && opensAt ? `from ${sayInstant(opensAt, course.zone)}` : 'at once'}
          {closesAt && `, until ${sayInstant(closesAt, course.zone)}`}
        </dd>
        <dt>Rules</dt>
        <dd className="text-ink">{notices.join(' ')}</dd>
        <dt>At the close</dt>
        <dd className="text-ink">It is left as it is; those without a group stay listed on Run.</dd>
      </dl>
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

import { useState } from 'react'
import { toast } from 'sonner'
import { type ComposeView, publishSheet } from '../../../contract/sheets.ts'
import { seatsCheck } from '../../../core/supply.ts'
import { sayInstant } from '../../../core/zone.ts'
import { call, type Fault } from '../../data/call.ts'
import { serverNow } from '../../data/clock.ts'
import { Ask } from '../../kit/Ask.tsx'
import type { Edit } from './useEdits.ts'

/** Says what is about to be created and who will see it, then publishes. */
export function PublishAsk({
  view,
  open,
  edit,
  onClose,
}: {
  view: ComposeView
  open: boolean
  edit: (work: Edit) => Promise<Fault | null>
  onClose: () => void
}) {
  const [busy, setBusy] = useState(false)
  const [fault, setFault] = useState<Fault | null>(null)
  const { opensAt, closesAt, course } = view
  const groups = view.topics.reduce((sum, topic) => sum + topic.groups.length, 0)
  const supply = seatsCheck({
    sections:
      view.sections.length > 0
        ? view.sections.map(({ code, students }) => ({ key: code, students }))
        : [{ key: null, students: view.students }],
    groups: view.topics.flatMap(({ seats, groups }) =>
      groups.map(({ section }) => ({ section, seats: seats ?? view.seats })),
    ),
  })
  const names = new Map(view.sections.map(({ code, name }) => [code, name]))
  const later = opensAt !== null && opensAt > serverNow()
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
      no="Not yet"
      busy={busy}
      onYes={() => void publish()}
      onNo={close}
    >
      <ul className="flex flex-col gap-1.5 text-ink">
        <li>
          {groups} {groups === 1 ? 'group' : 'groups'} on {view.topics.length} topics.
        </li>
        {supply.map(({ key, seats, students, spare }) => (
          <li key={key ?? ''} className={spare < 0 ? 'font-semibold text-ember' : ''}>
            {key === null ? 'Everybody' : names.get(key)}: {seats} seats for {students} students
            {spare < 0 && `, ${-spare} short`}.
          </li>
        ))}
        <li>
          {later
            ? `Students see it now and can choose from ${sayInstant(opensAt, course.zone)}`
            : 'Students can choose at once'}
          {closesAt && `, until ${sayInstant(closesAt, course.zone)}`}.
        </li>
        <li>Names are shown to group mates only.</li>
      </ul>
      {fault && (
        <p role="alert" className="font-semibold text-ember">
          {fault.message}
        </p>
      )}
    </Ask>
  )
}

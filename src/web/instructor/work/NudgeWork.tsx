import { Dialog } from 'radix-ui'
import { type FormEvent, useState } from 'react'
import { nudge } from '../../../contract/nudges.ts'
import type { OwnerWork, TaskView, WorkView } from '../../../contract/tasks.ts'
import { sayInstant } from '../../../core/zone.ts'
import { call } from '../../data/call.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { FormBox } from '../../kit/FormBox.tsx'
import { FormFault } from '../../kit/FormFault.tsx'
import { TextFields, type Texts } from '../run/NudgeTexts.tsx'

/** Writes to everybody whose work for a task nobody has begun. */
export function NudgeWork({
  view,
  task,
  idle,
  onClose,
}: {
  view: WorkView
  task: TaskView
  idle: readonly OwnerWork[]
  onClose: () => void
}) {
  const known = new Set(view.people.map(({ code }) => code))
  const people = [...new Set(idle.flatMap(({ members }) => members))].filter((code) => known.has(code))
  const [first] = useState<Texts>(() => ({
    subject: `“${task.title}” waits`,
    text: `Dear {first name},\n\nfor “${task.title}” nothing is written or brought yet${task.dueAt && task.differences.length === 0 ? `; it is due ${sayInstant(task.dueAt, view.course.zone)}` : ''}. It stands under Tasks:\n{link}\n\nIf something keeps you from it, answer this mail.`,
  }))
  const unsent = useUnsent<Texts>(`nudge work ${task.code}`, first)
  const act = useAct()
  const send = async (event: FormEvent) => {
    event.preventDefault()
    const done = await act.do({
      work: () => call(nudge, { sheet: view.code }, { ...unsent.value, people }),
      said: ({ sent, skipped }) =>
        skipped.length === 0
          ? `Sent to ${sent}.`
          : `Sent to ${sent}. Left out, with as many as a day allows: ${skipped.slice(0, 5).join(', ')}${skipped.length > 5 ? ' and more' : ''}.`,
      beside: true,
    })
    if (done.fault) return
    unsent.drop()
    onClose()
  }
  return (
    <FormBox
      title={`Nudge ${people.length} ${people.length === 1 ? 'person' : 'people'}`}
      words="Everybody whose work nobody has begun. What was sent stands on Run, with who got it."
      onClose={onClose}
      onSubmit={send}
    >
      <TextFields draft={unsent.value} setDraft={unsent.write} fault={act.fault} />
      <FormFault fault={act.fault} fields={['subject', 'text']} />
      <div className="flex justify-end gap-2 border-t tear pt-4">
        <Dialog.Close asChild>
          <Button>Cancel</Button>
        </Dialog.Close>
        <Button type="submit" look="main" busy={act.busy} disabled={people.length === 0}>
          Send to {people.length}
        </Button>
      </div>
    </FormBox>
  )
}

import { Dialog } from 'radix-ui'
import type { FormEvent } from 'react'
import { type GroupPage, sendMessage } from '../../contract/groups.ts'
import { call } from '../data/call.ts'
import { useUnsent } from '../data/useDraft.ts'
import { useAct } from '../kit/Acting.tsx'
import { Button } from '../kit/Button.tsx'
import { DialogBox } from '../kit/DialogBox.tsx'
import { Area, Field } from '../kit/Field.tsx'
import { FormFault } from '../kit/FormFault.tsx'

/** Writes to everybody of a group: by mail, and kept on its page. */
export function MessageAsk({
  page,
  put,
  onClose,
}: {
  page: GroupPage
  put: (page: GroupPage) => void
  onClose: () => void
}) {
  const unsent = useUnsent(`message ${page.code}`, { subject: '', text: '' })
  const { subject, text } = unsent.value
  const act = useAct()
  const { busy, fault } = act
  const submit = async (event: FormEvent) => {
    event.preventDefault()
    const done = await act.do({
      work: () => call(sendMessage, { sheet: page.sheet.code, group: page.code }, { subject, text }),
      put,
      said: 'Sent to everybody of the group, and kept on this page.',
      beside: true,
    })
    if (done.fault) return
    unsent.drop()
    onClose()
  }
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <DialogBox title="Write to everybody of the group" width="medium">
        <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
          <p className="text-soft">
            It reaches every member and tutor by mail, in your name, and is kept on this page.
          </p>
          <Field
            label="Subject"
            value={subject}
            onChange={({ target }) => unsent.write({ subject: target.value, text })}
            fault={fault?.field('subject')}
          />
          <Area
            label="Message"
            rows={6}
            value={text}
            onChange={({ target }) => unsent.write({ subject, text: target.value })}
            fault={fault?.field('text')}
          />
          <FormFault fault={fault} fields={['subject', 'text']} />
          <div>
            <Button type="submit" look="main" size="touch" busy={busy}>
              Send message
            </Button>
          </div>
        </form>
      </DialogBox>
    </Dialog.Root>
  )
}

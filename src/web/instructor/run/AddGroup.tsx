import { Dialog } from 'radix-ui'
import { useState } from 'react'
import { addTopic, removeTopic } from '../../../contract/topics.ts'
import { call } from '../../data/call.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { Field } from '../../kit/Field.tsx'
import { FormBox } from '../../kit/FormBox.tsx'

/** Adds a topic with its groups from Run, with the common limit. */
export function AddGroup({ sheet, onAdded }: { sheet: string; onAdded: () => void }) {
  const [open, setOpen] = useState(false)
  const unsent = useUnsent(`new group ${sheet}`, '')
  const title = unsent.value
  const act = useAct()
  const { fault, busy } = act
  const add = async () => {
    let added = ''
    const done = await act.do({
      work: async () => {
        const view = await call(addTopic, { sheet }, { title })
        added = view.topics.at(-1)?.code ?? ''
        return view
      },
      undo: (confirmed) => call(removeTopic, { sheet, topic: added }, { confirmed }),
      put: onAdded,
      said: `${title} is on the sheet, at the end.`,
      beside: true,
    })
    if (done.fault) return
    setOpen(false)
    unsent.drop()
  }
  return (
    <>
      <Button size="small" look="quiet" onClick={() => setOpen(true)}>
        Add a group
      </Button>
      {open && (
        <FormBox
          title="Add a group"
          words="A topic comes at the end of the sheet, with a group in every section and the common limit. Exceptions are set in Compose, or on the group itself."
          onClose={() => setOpen(false)}
          onSubmit={(event) => {
            event.preventDefault()
            void add()
          }}
        >
          <Field
            label="Title"
            value={title}
            onChange={(event) => unsent.write(event.target.value)}
            fault={fault ? (fault.field('title') ?? fault.message) : undefined}
          />
          <div className="flex justify-end gap-2 border-t tear pt-4">
            <Dialog.Close asChild>
              <Button>Cancel</Button>
            </Dialog.Close>
            <Button type="submit" look="main" busy={busy}>
              Add group
            </Button>
          </div>
        </FormBox>
      )}
    </>
  )
}

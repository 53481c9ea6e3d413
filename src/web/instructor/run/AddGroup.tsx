import { Dialog } from 'radix-ui'
import { useState } from 'react'
import { addTopic, removeTopic } from '../../../contract/topics.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { Field } from '../../kit/Field.tsx'

/** Adds a topic with its groups from Run, with the common limit. */
export function AddGroup({ sheet, onAdded }: { sheet: string; onAdded: () => void }) {
  const [open, setOpen] = useState(false)
  const [title, setTitle] = useState('')
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
    setTitle('')
  }
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger asChild>
        <Button size="small" look="quiet">
          Add a group
        </Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#161222]/45" />
        <Dialog.Content className="fixed top-1/2 left-1/2 z-50 w-[min(26rem,calc(100vw-2rem))] -translate-x-1/2 -translate-y-1/2 rounded-card border border-line bg-surface p-5 shadow-xl">
          <Dialog.Title className="text-lg">Add a group</Dialog.Title>
          <Dialog.Description className="mt-1 text-soft">
            A topic comes at the end of the sheet, with a group in every section and the common limit.
            Exceptions are set in Compose, or on the group itself.
          </Dialog.Description>
          <form
            className="mt-3 flex flex-col gap-3"
            onSubmit={(event) => {
              event.preventDefault()
              void add()
            }}
          >
            <Field
              label="Title"
              value={title}
              autoFocus
              onChange={(event) => setTitle(event.target.value)}
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
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

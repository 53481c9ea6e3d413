import { Dialog } from 'radix-ui'
import { type FormEvent, useState } from 'react'
import type { GroupsView } from '../../../contract/groups.ts'
import { startShared } from '../../../contract/talk.ts'
import { counted } from '../../../core/counted.ts'
import { call } from '../../data/call.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { DialogBox } from '../../kit/DialogBox.tsx'
import { Area, Field } from '../../kit/Field.tsx'
import { FormFault } from '../../kit/FormFault.tsx'

/** Opens one subject in several groups at once: in all, or in those that the list shows. */
export function StartShared({
  view,
  shown,
  onClose,
}: {
  view: GroupsView
  /** Groups that the list shows, by code. */
  shown: readonly string[]
  onClose: (started: boolean) => void
}) {
  const all = view.groups.length
  const [only, setOnly] = useState(shown.length < all)
  // Half written, it is there again when this is opened anew.
  const unsent = useUnsent(`shared ${view.code}`, { title: '', text: '' })
  const { title, text } = unsent.value
  const setTitle = (next: string) => unsent.write({ title: next, text })
  const setText = (next: string) => unsent.write({ title, text: next })
  const act = useAct()
  const { busy, fault } = act
  const start = async (event: FormEvent) => {
    event.preventDefault()
    const groups = only ? [...shown] : null
    const done = await act.do({
      work: () => call(startShared, { sheet: view.code }, { title, text, groups }),
      said: (opened) => `Opened in ${counted(opened.groups, 'group')}.`,
      beside: true,
    })
    if (done.fault) return
    unsent.drop()
    onClose(true)
  }
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose(false)}>
      <DialogBox title="Open one subject in several groups" width="medium">
        <form className="flex flex-col gap-3" onSubmit={(event) => void start(event)}>
          <p className="text-soft">Each group talks about it for itself; nobody reads the others.</p>
          {shown.length < all && (
            <fieldset className="flex flex-wrap gap-x-5">
              <legend className="sr-only">Where</legend>
              {[
                { value: true, label: `in the ${shown.length} that the list shows` },
                { value: false, label: `in all ${all}` },
              ].map(({ value, label }) => (
                <label key={label} className="flex min-h-9 items-center gap-2">
                  <input
                    type="radio"
                    name="where"
                    className="accent-seat"
                    checked={only === value}
                    onChange={() => setOnly(value)}
                  />
                  {label}
                </label>
              ))}
            </fieldset>
          )}
          <Field
            label="Subject"
            value={title}
            onChange={({ target }) => setTitle(target.value)}
            fault={fault?.field('title')}
          />
          <Area
            label="What you want to say"
            hint="Markdown is read."
            rows={5}
            value={text}
            onChange={({ target }) => setText(target.value)}
            fault={fault?.field('text')}
          />
          <FormFault fault={fault} fields={['title', 'text']} />
          <div>
            <Button type="submit" look="main" busy={busy}>
              Open subject in {only ? shown.length : all} groups
            </Button>
          </div>
        </form>
      </DialogBox>
    </Dialog.Root>
  )
}

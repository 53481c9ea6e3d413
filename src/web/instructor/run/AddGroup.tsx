import { Dialog } from 'radix-ui'
import { useState } from 'react'
import type { RunView } from '../../../contract/seats.ts'
import { addTopic, removeTopic } from '../../../contract/topics.ts'
import { call } from '../../data/call.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { Field, FieldFrame } from '../../kit/Field.tsx'
import { FormBox } from '../../kit/FormBox.tsx'
import { typedLimit } from '../record/limits.ts'

const EMPTY = { title: '', section: '', seats: '' }

/** Adds a topic from Run, with its groups or one in a single section, with the common limit or its own. */
export function AddGroup({ view, onAdded }: { view: RunView; onAdded: () => void }) {
  const { code: sheet, sections } = view
  const [open, setOpen] = useState(false)
  const unsent = useUnsent(`further group ${sheet}`, EMPTY)
  const { title, section, seats } = unsent.value
  const set = (more: Partial<typeof EMPTY>) => unsent.write({ ...unsent.value, ...more })
  const act = useAct()
  const { fault, busy } = act
  const add = async () => {
    let added = ''
    const done = await act.do({
      work: async () => {
        const own = seats.trim() === '' ? null : typedLimit(seats)
        const body = { title, seats: own, ...(section !== '' && { only: section }) }
        const answer = await call(addTopic, { sheet }, body)
        added = answer.topics.at(-1)?.code ?? ''
        return answer
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
          words="A topic comes at the end of the sheet. Its groups get the subjects and tasks that all groups have."
          onClose={() => setOpen(false)}
          onSubmit={(event) => {
            event.preventDefault()
            void add()
          }}
        >
          <Field
            label="Title"
            value={title}
            onChange={({ target }) => set({ title: target.value })}
            fault={
              fault ? (fault.field('title') ?? (fault.problem.errors ? undefined : fault.message)) : undefined
            }
          />
          <div className="grid grid-cols-2 gap-3 max-sm:grid-cols-1">
            {sections.length > 0 && (
              <FieldFrame label="Where" fault={fault?.field('only')}>
                {(ids) => (
                  <Choice {...ids} value={section} onValue={(value) => set({ section: value })}>
                    <option value="">as the sheet has it</option>
                    {sections.map(({ code, name }) => (
                      <option key={code} value={code}>
                        one group in {name}
                      </option>
                    ))}
                  </Choice>
                )}
              </FieldFrame>
            )}
            <Field
              label="Seats"
              hint="Empty: as on the sheet"
              value={seats}
              onChange={({ target }) => set({ seats: target.value })}
              fault={fault?.field('seats')}
            />
          </div>
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

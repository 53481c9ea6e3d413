import { Dialog } from 'radix-ui'
import { type FormEvent, useState } from 'react'
import { type GroupPage, setPlace } from '../../contract/groups.ts'
import { EMBLEMS } from '../../core/extras.ts'
import { call } from '../data/call.ts'
import { useUnsent } from '../data/useDraft.ts'
import { useAct } from '../kit/Acting.tsx'
import { Button } from '../kit/Button.tsx'
import { DialogBox } from '../kit/DialogBox.tsx'
import { Field } from '../kit/Field.tsx'
import { FormFault } from '../kit/FormFault.tsx'
import { Emblem } from './Emblem.tsx'

/** Gives a group its name, emblem and meeting link, as far as the reader may. */
export function PlaceAsk({
  page,
  put,
  onClose,
}: {
  page: GroupPage
  put: (page: GroupPage) => void
  onClose: () => void
}) {
  const [first] = useState(() => ({ name: page.name, emblem: page.emblem, meeting: page.meeting }))
  // Half typed, it is there again when this is opened anew; what was changed meanwhile begins anew.
  const unsent = useUnsent(`place ${page.code} ${JSON.stringify(first)}`, first)
  const { name, emblem, meeting } = unsent.value
  const set = (more: Partial<typeof first>) => unsent.write({ ...unsent.value, ...more })
  const act = useAct()
  const { busy, fault } = act
  const save = async (event: FormEvent) => {
    event.preventDefault()
    const params = { sheet: page.sheet.code, group: page.code }
    const own = (what: Pick<GroupPage, 'name' | 'emblem' | 'meeting'>) => ({
      ...(page.may.name && { name: what.name, emblem: what.emblem }),
      ...(page.may.meeting && { meeting: what.meeting }),
    })
    const done = await act.do({
      work: () => call(setPlace, params, own({ name, emblem, meeting })),
      undo: () => call(setPlace, params, own(page)),
      put,
      said: 'Saved.',
      beside: true,
    })
    if (done.fault) return
    unsent.drop()
    onClose()
  }
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <DialogBox title="What is this group’s own">
        <form className="flex flex-col gap-3" onSubmit={(event) => void save(event)}>
          {page.may.name && (
            <>
              <Field
                label="Name"
                hint="Empty is the topic’s title."
                value={name}
                onChange={({ target }) => set({ name: target.value })}
                fault={fault?.field('name')}
              />
              <fieldset>
                <legend className="text-sm font-semibold text-soft">Emblem</legend>
                <div className="mt-1 grid grid-cols-7 gap-1.5 max-sm:grid-cols-6">
                  {['', ...EMBLEMS].map((one) => (
                    <label
                      key={one}
                      title={one || 'none'}
                      className={`flex h-14 cursor-pointer items-center justify-center rounded-field border has-focus-visible:outline-2 ${one === emblem ? 'border-seat bg-seat-soft' : 'border-line'}`}
                    >
                      <input
                        type="radio"
                        name="emblem"
                        value={one}
                        checked={one === emblem}
                        onChange={() => set({ emblem: one })}
                        className="sr-only"
                      />
                      <span className="sr-only">{one || 'none'}</span>
                      {one ? (
                        <Emblem name={one} />
                      ) : (
                        <span aria-hidden="true" className="text-sm text-soft">
                          none
                        </span>
                      )}
                    </label>
                  ))}
                </div>
              </fieldset>
            </>
          )}
          {page.may.meeting && (
            <Field
              label="Meeting link"
              type="url"
              placeholder="https://"
              value={meeting}
              onChange={({ target }) => set({ meeting: target.value })}
              fault={fault?.field('meeting')}
            />
          )}
          <FormFault fault={fault} fields={['name', 'meeting', 'emblem']} />
          <div>
            <Button type="submit" look="main" size="touch" busy={busy}>
              Save changes
            </Button>
          </div>
        </form>
      </DialogBox>
    </Dialog.Root>
  )
}

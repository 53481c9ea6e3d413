import { Dialog } from 'radix-ui'
import { type FormEvent, useState } from 'react'
import { type GroupPage, setOwnExtras } from '../../contract/groups.ts'
import { EXTRAS, type Extra } from '../../core/extras.ts'
import { call } from '../data/call.ts'
import { useUnsent } from '../data/useDraft.ts'
import { useAct } from '../kit/Acting.tsx'
import { Button } from '../kit/Button.tsx'
import { Check } from '../kit/Check.tsx'
import { FormBox } from '../kit/FormBox.tsx'
import { FormFault } from '../kit/FormFault.tsx'
import { EXTRA_WORDS } from './extraWords.ts'

type Chosen = Record<Extra, boolean>

/** Chooses what this one group gets; where it is the same as for all, it goes on with them. */
export function OwnExtrasAsk({
  page,
  put,
  onClose,
}: {
  page: GroupPage
  put: (page: GroupPage) => void
  onClose: () => void
}) {
  const [first] = useState(() => Object.fromEntries(EXTRAS.map((one) => [one, page.extras[one]])) as Chosen)
  const unsent = useUnsent<Chosen>(`own extras ${page.code} ${JSON.stringify(first)}`, first)
  const act = useAct()
  const params = { sheet: page.sheet.code, group: page.code }
  const send = async (own: Partial<Chosen>, said: string) => {
    const before = page.extrasDiffer ? first : {}
    const done = await act.do({
      work: () => call(setOwnExtras, params, own),
      undo: () => call(setOwnExtras, params, before),
      put,
      said,
      beside: true,
    })
    if (done.fault) return
    unsent.drop()
    onClose()
  }
  const save = (event: FormEvent) => {
    event.preventDefault()
    return send(unsent.value, 'Saved for this group.')
  }
  return (
    <FormBox
      title="What this group gets"
      words="It differs for this group alone; what you leave as it is goes on with all groups of the sheet. What is turned off is hidden and kept."
      onClose={onClose}
      onSubmit={save}
    >
      <ul>
        {EXTRAS.map((extra) => (
          <li key={extra}>
            <Check
              checked={unsent.value[extra]}
              onValue={(on) => unsent.write({ ...unsent.value, [extra]: on })}
            >
              {EXTRA_WORDS[extra]}
            </Check>
          </li>
        ))}
      </ul>
      <FormFault fault={act.fault} fields={[]} />
      <div className="flex flex-wrap justify-end gap-2 border-t tear pt-4">
        {page.extrasDiffer && (
          <Button busy={act.busy} onClick={() => void send({}, 'It has what all groups have.')}>
            Use what all groups get
          </Button>
        )}
        <Dialog.Close asChild>
          <Button>Cancel</Button>
        </Dialog.Close>
        <Button type="submit" look="main" busy={act.busy}>
          Save for this group
        </Button>
      </div>
    </FormBox>
  )
}

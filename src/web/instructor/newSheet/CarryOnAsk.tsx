import { useState } from 'react'
import { useNavigate } from 'react-router'
import { copySheet, deleteSheet, publishSheet, withdrawSheet } from '../../../contract/sheets.ts'
import { saySizes } from '../../../core/supply.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Ask } from '../../kit/Ask.tsx'
import { Check } from '../../kit/Check.tsx'
import { toast } from '../../kit/toast.ts'
import type { Earlier } from './SentenceForm.tsx'

/** Asks before the same groups go on with a new sheet, and says what comes into being. */
export function CarryOnAsk({
  course,
  title,
  sheet,
  onClose,
  onOut,
}: {
  course: string
  title: string
  sheet: Earlier
  onClose: () => void
  onOut: () => void
}) {
  const navigate = useNavigate()
  const act = useAct()
  const [tell, setTell] = useState(false)
  const [tasks, setTasks] = useState(false)
  const sizes = sheet.groups.map(({ taken }) => taken).filter((taken) => taken > 0)
  const out = async () => {
    let made = ''
    const done = await act.do({
      work: async () => {
        const wanted = { course, title, opensAt: null, people: true, tasks, road: 'made' as const }
        // What was made and could not be published is published by the next press, and not made twice.
        made ||= (await call(copySheet, { sheet: sheet.code }, wanted)).code
        return call(publishSheet, { sheet: made }, { tell })
      },
      beside: true,
    })
    if (done.fault) {
      if (made) await call(deleteSheet, { sheet: made }).catch(() => {})
      return
    }
    onOut()
    const takeBack = async () => {
      const back = await call(withdrawSheet, { sheet: made }, { confirmed: true })
        .then(() => call(deleteSheet, { sheet: made }))
        .then(
          () => true,
          () => false,
        )
      if (!back) return void toast.error('It could not be taken back. Delete it in its menu, in Compose.')
      navigate('/')
    }
    toast(`“${title}” is out, with the same groups.`, {
      duration: 10_000,
      action: { label: 'Undo', onClick: () => void takeBack() },
    })
    navigate(`/sheets/${made}/run`)
  }
  return (
    <Ask
      open
      title={`Publish ${title}?`}
      yes="Publish"
      busy={act.busy}
      onYes={() => void out()}
      onNo={onClose}
    >
      <dl className="grid grid-cols-[5.5rem_1fr] gap-x-3 gap-y-2">
        <dt>Groups</dt>
        <dd className="text-ink">
          those of “{sheet.title}”: {saySizes(sizes.toSorted((a, b) => b - a))}
        </dd>
        <dt>Seen</dt>
        <dd className="text-ink">at once by the students for whom it is; each sees their own group</dd>
        <dt>Chosen</dt>
        <dd className="text-ink">by nobody: students cannot take, move or give up a seat</dd>
      </dl>
      <Check checked={tasks} onValue={setTasks}>
        Bring its tasks along, with their criteria and files; each waits under Work for its date
      </Check>
      <Check checked={tell} onValue={setTell}>
        Tell them by mail where they sit. It is held for a minute: an undo within it recalls it.
      </Check>
      {act.fault && (
        <p role="alert" className="font-semibold text-ember">
          {act.fault.message}
        </p>
      )}
    </Ask>
  )
}

import { useState } from 'react'
import { addAutomaticNudge, type NudgesView } from '../../../contract/nudges.ts'
import type { RunView } from '../../../contract/seats.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { NudgeHistory } from './NudgeHistory.tsx'
import { TextFields, type Texts } from './NudgeTexts.tsx'

const HOURS = [
  { value: 72, label: '3 days' },
  { value: 48, label: '2 days' },
  { value: 24, label: '1 day' },
  { value: 12, label: '12 hours' },
  { value: 3, label: '3 hours' },
  { value: 1, label: '1 hour' },
]

/** Nudges that go by themselves, and setting another. */
export function NudgeLater({
  view,
  data,
  draft,
  setDraft,
  put,
}: {
  view: RunView
  data: NudgesView
  draft: Texts
  setDraft: (texts: Texts) => void
  put: (view: NudgesView) => void
}) {
  const [hours, setHours] = useState(48)
  const act = useAct()
  const { fault, busy } = act
  const waiting = data.nudges.filter(({ sentAt }) => sentAt === null)
  const add = async () => {
    await act.do({
      work: () => call(addAutomaticNudge, { sheet: view.code }, { ...draft, hours }),
      put,
      said: 'It will go by itself, to those who have no group then.',
      beside: true,
    })
  }
  return (
    <div className="flex flex-col gap-3">
      <p className="text-soft">
        Goes by itself before the close, to those who have no group at that moment; whoever has sat down by
        then is left alone.
      </p>
      <NudgeHistory view={view} data={{ ...data, nudges: waiting }} put={put} empty="None is set." />
      {view.mayEdit && (
        <>
          <label className="flex items-center gap-2 text-sm font-semibold text-soft">
            Before the close
            <Choice value={hours} onValue={(value) => setHours(Number(value))}>
              {HOURS.map(({ value, label }) => (
                <option key={value} value={value}>
                  {label}
                </option>
              ))}
            </Choice>
          </label>
          <TextFields draft={draft} setDraft={setDraft} fault={fault} />
          {fault && !fault.field('text') && !fault.field('subject') && (
            <p role="alert" className="text-ember">
              {fault.field('hours') ?? fault.message}
            </p>
          )}
          <div>
            <Button look="main" busy={busy} onClick={() => void add()}>
              Schedule nudge
            </Button>
          </div>
        </>
      )}
    </div>
  )
}

import type { ReactNode } from 'react'
import type { LateHandIn } from '../../../core/task.ts'
import type { Fault } from '../../data/call.ts'
import { Check } from '../../kit/Check.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { Field } from '../../kit/Field.tsx'
import { TimeField } from '../../kit/TimeField.tsx'
import type { TermsDraft } from './termsDraft.ts'

interface Parts {
  draft: TermsDraft
  set: (more: Partial<TermsDraft>) => void
  fault: Fault | null
}

/** What is wrong with one of them: those of a difference are told below `fields`. */
const faultIn = (fault: Fault | null) => (path: string) =>
  fault?.field(path) ?? fault?.field(`fields.${path}`)

/** When a task is there, when it is due, and whether late work is taken. */
export function DateFields({ draft, set, fault: whole }: Parts) {
  const { datedBy, late, handsIn } = draft
  const own = datedBy === 'group'
  const fault = faultIn(whole)
  return (
    <>
      <div className="grid gap-3 sm:grid-cols-3">
        <TimeField
          label="There from"
          usual="08:00"
          value={draft.from}
          onValue={(from) => set({ from })}
          fault={fault('availableFrom')}
        />
        <div className="flex flex-col gap-1">
          {own ? (
            <p className="text-sm text-soft">
              <span className="block font-semibold">{handsIn ? 'Due' : 'Takes place'}</span>
              on each group’s own date
            </p>
          ) : (
            <TimeField
              label={handsIn ? 'Due' : 'Takes place'}
              usual={handsIn ? '23:59' : '10:00'}
              value={draft.due}
              onValue={(due) => set({ due })}
              fault={fault('dueAt')}
            />
          )}
          <Check checked={own} onValue={(on) => set({ datedBy: on ? 'group' : 'task' })} className="text-sm">
            each group’s own date
          </Check>
        </div>
        {handsIn && (
          <Labelled label="Late work">
            <Choice value={late} onValue={(value) => set({ late: value as LateHandIn })}>
              <option value="no">is not taken</option>
              {!own && <option value="until">is taken until</option>}
              <option value="always">is always taken</option>
            </Choice>
          </Labelled>
        )}
      </div>
      {handsIn && !own && late === 'until' && (
        <TimeField
          label="Late work is taken until"
          usual="23:59"
          value={draft.until}
          onValue={(until) => set({ until })}
          fault={fault('lateUntil')}
        />
      )}
    </>
  )
}

/** What is handed in, or that nothing is. */
export function FormFields({ draft, set, fault: whole }: Parts) {
  const { handsIn, takesText, takesLinks, takesFiles } = draft
  const fault = faultIn(whole)
  const wrong = fault('takesText') ?? fault('handsIn')
  return (
    <fieldset className="flex flex-col gap-1">
      <legend className="text-sm font-semibold text-soft">What is handed in</legend>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
        <Check checked={!handsIn} onValue={(on) => set({ handsIn: !on })}>
          nothing: it takes place, such as a talk
        </Check>
        {handsIn && (
          <>
            <Check checked={takesText} onValue={(on) => set({ takesText: on })}>
              text
            </Check>
            <Check checked={takesLinks} onValue={(on) => set({ takesLinks: on })}>
              links
            </Check>
            <Check checked={takesFiles} onValue={(on) => set({ takesFiles: on })}>
              files
            </Check>
          </>
        )}
      </div>
      {wrong && (
        <span role="alert" className="text-sm text-ember">
          {wrong}
        </span>
      )}
      {handsIn && takesText && (
        <Field
          label="Words at most"
          hint="Empty for as many as they like."
          inputMode="numeric"
          value={draft.words}
          onChange={({ target }) => set({ words: target.value })}
          fault={fault('mostWords')}
          className="max-w-24"
        />
      )}
    </fieldset>
  )
}

/** A control under its words. */
export function Labelled({ label, children }: { label: string; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noLabelWithoutControl: the control is what it is given
    <label className="flex flex-col gap-1 text-sm font-semibold text-soft">
      {label}
      {children}
    </label>
  )
}

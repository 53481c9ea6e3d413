import { NUDGE_FIELDS } from '../../../core/nudge.ts'
import type { Fault } from '../../data/call.ts'
import { Area, Field } from '../../kit/Field.tsx'

/** What a nudge says, fields in braces. */
export interface Texts {
  subject: string
  text: string
}

/** The text with its fields. A field is put where the cursor stands. */
export function TextFields({
  draft,
  setDraft,
  fault,
}: {
  draft: Texts
  setDraft: (texts: Texts) => void
  fault: Fault | null
}) {
  return (
    <>
      <Field
        label="Subject"
        value={draft.subject}
        fault={fault?.field('subject')}
        onChange={(event) => setDraft({ ...draft, subject: event.target.value })}
      />
      <Area
        label="Text"
        rows={8}
        value={draft.text}
        fault={fault?.field('text')}
        onChange={(event) => setDraft({ ...draft, text: event.target.value })}
      />
      <p className="flex flex-wrap items-center gap-1.5 text-sm text-soft">
        Fields:
        {NUDGE_FIELDS.map((field) => (
          <button
            key={field}
            type="button"
            onClick={() => setDraft({ ...draft, text: `${draft.text}{${field}}` })}
            className="min-h-6 rounded border border-line-strong px-1.5 hover:border-open"
          >
            {`{${field}}`}
          </button>
        ))}
      </p>
    </>
  )
}

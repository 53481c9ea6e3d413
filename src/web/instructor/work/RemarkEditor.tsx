import { type FormEvent, type KeyboardEvent, useEffect, useId, useRef } from 'react'
import type { RemarkView } from '../../../contract/remarks.ts'
import type { TaskView } from '../../../contract/tasks.ts'
import { phrasesLike } from '../../../core/marks.ts'
import { MOST_REMARK } from '../../../core/remarks.ts'
import { Button } from '../../kit/Button.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { BOX } from '../../kit/Field.tsx'
import { FormFault } from '../../kit/FormFault.tsx'
import { type Remarks, typedPoints } from './useRemarks.ts'

const FIELDS = ['words', 'criterion', 'points']

/** Writes a remark: words with phrases from before, and points to a criterion. */
export function RemarkEditor({ task, remarks }: { task: TaskView; remarks: Remarks }) {
  const id = useId()
  const { draft, begun, fault, busy, data } = remarks
  const field = useRef<HTMLTextAreaElement>(null)
  // Whoever has marked a place writes next, also where another is marked for it.
  useEffect(() => {
    if (begun === 0) return
    field.current?.focus({ preventScroll: true })
    field.current?.form?.scrollIntoView({ block: 'nearest' })
  }, [begun])
  if (!draft) return null
  const set = (more: Partial<typeof draft>) => remarks.write({ ...draft, ...more })
  const noNumber = Number.isNaN(typedPoints(draft.points))
  const save = () => {
    if (!noNumber) void remarks.save()
  }
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault()
      save()
    }
    if (event.key === 'Escape') {
      event.stopPropagation()
      remarks.write(null)
    }
  }
  const phrases = phrasesLike(draft.words, data?.phrases ?? [], 4)
  const meanwhile = meanwhileOf(remarks) !== null
  const said = [
    ...(noNumber ? ['Points are a number, such as −0.5.'] : []),
    ...FIELDS.flatMap((path) => fault?.field(path) ?? []),
  ]
  return (
    <form
      aria-label={draft.changes ? 'The remark' : 'A new remark'}
      className="flex flex-col gap-2 rounded-field border-2 border-ember bg-surface px-2.5 py-2"
      onSubmit={(event: FormEvent) => {
        event.preventDefault()
        save()
      }}
      onKeyDown={onKeyDown}
    >
      <textarea
        ref={field}
        aria-label="Remark"
        rows={3}
        maxLength={MOST_REMARK}
        value={draft.words}
        placeholder="What they should know here"
        aria-describedby={said.length > 0 ? `${id}-fault` : undefined}
        aria-invalid={said.length > 0 || undefined}
        onChange={({ target }) => set({ words: target.value })}
        className={BOX}
      />
      {phrases.length > 0 && (
        <ul aria-label="Phrases used before" className="flex flex-col gap-1">
          {phrases.map((phrase) => (
            <li key={phrase}>
              <button
                type="button"
                className="rounded bg-seat-soft px-2 text-left text-sm text-seat hover:underline pointer-coarse:min-h-11"
                onClick={() => {
                  const begun = draft.words.split(/(?<=[.!?])\s+/)
                  set({ words: [...begun.slice(0, -1), phrase].join(' ') })
                  field.current?.focus()
                }}
              >
                {phrase}
              </button>
            </li>
          ))}
        </ul>
      )}
      <div className="flex items-center gap-2 text-sm">
        {task.criteria.length > 0 && (
          <Choice
            aria-label="Criterion"
            value={draft.criterion ?? ''}
            onValue={(value) => set({ criterion: value || null })}
            className="flex-1 text-sm"
          >
            <option value="">no criterion</option>
            {task.criteria.map((one) => (
              <option key={one.id} value={one.id}>
                {one.title}
              </option>
            ))}
          </Choice>
        )}
        <label className="flex shrink-0 items-center gap-1.5">
          <input
            inputMode="decimal"
            aria-label="Points, with a minus for points lost"
            value={draft.points}
            placeholder="−1"
            onChange={({ target }) => set({ points: target.value })}
            className={`${BOX} figures min-h-9 w-14! px-1 text-center pointer-coarse:min-h-11`}
          />
          points
        </label>
      </div>
      {said.length > 0 && (
        <p id={`${id}-fault`} role="alert" className="text-sm text-ember">
          {said.join(' ')}
        </p>
      )}
      <Meanwhile remarks={remarks} />
      <FormFault fault={meanwhile ? null : fault} fields={FIELDS} />
      <div className="flex flex-wrap gap-2">
        <Button type="submit" look="main" busy={busy} disabled={noNumber} className="pointer-coarse:min-h-11">
          {draft.changes ? 'Save remark' : 'Remark'}
        </Button>
        <Button className="pointer-coarse:min-h-11" onClick={() => remarks.write(null)}>
          Cancel
        </Button>
      </div>
    </form>
  )
}

/** What somebody else made of the remark that is being changed: null for nothing, else as it reads now, or gone. */
function meanwhileOf({ draft, data }: Remarks): RemarkView | 'gone' | null {
  if (!draft?.changes || !data) return null
  const { code, edition } = draft.changes
  const now = data.remarks.find((one) => one.code === code)
  if (!now) return 'gone'
  return now.edition === edition ? null : now
}

/** Says that somebody else changed or removed the remark meanwhile, with both ways on. */
function Meanwhile({ remarks }: { remarks: Remarks }) {
  const { draft, write } = remarks
  const now = meanwhileOf(remarks)
  if (!draft || now === null) return null
  if (now === 'gone') {
    return (
      <div
        role="alert"
        className="flex flex-col gap-2 rounded-field bg-sun-soft px-2 py-1.5 text-sm text-sun-ink"
      >
        Somebody removed this remark meanwhile.
        <Button
          size="small"
          onClick={() => write({ ...draft, key: crypto.randomUUID(), changes: null, moved: false })}
        >
          Save as a new remark
        </Button>
      </div>
    )
  }
  return (
    <div
      role="alert"
      className="flex flex-col gap-2 rounded-field bg-sun-soft px-2 py-1.5 text-sm text-sun-ink"
    >
      <p className="wrap-anywhere">
        It was changed meanwhile, and reads now: “{now.words}”
        {now.points !== null && `, ${now.points} points`}
      </p>
      <div className="flex flex-wrap gap-2">
        <Button
          size="small"
          onClick={() => write({ ...draft, changes: { code: now.code, edition: now.edition } })}
        >
          Keep what I write
        </Button>
        <Button size="small" onClick={() => write(null)}>
          Take theirs
        </Button>
      </div>
    </div>
  )
}

import { Dialog } from 'radix-ui'
import { useState } from 'react'
import {
  addDifference,
  changeDifference,
  type DifferenceView,
  removeDifference,
  type TaskView,
  type WorkView,
} from '../../../contract/tasks.ts'
import { counted } from '../../../core/counted.ts'
import { call } from '../../data/call.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { Check } from '../../kit/Check.tsx'
import { DialogBox } from '../../kit/DialogBox.tsx'
import { Area, Field } from '../../kit/Field.tsx'
import { Picks } from '../../kit/Picks.tsx'
import { type DifferenceDraft, differenceBodyOf, differenceDraftOf, differsWords } from './differenceDraft.ts'
import { DateFields, FormFields } from './TermsFields.tsx'
import { WhichGroups } from './WhichGroups.tsx'

/** What is otherwise in a task for some: the list of it, and a form for one. The others never learn of it. */
export function DifferencesAsk({
  view,
  task,
  put,
  onClose,
}: {
  view: WorkView
  task: TaskView
  put: (view: WorkView) => void
  onClose: () => void
}) {
  const [editing, setEditing] = useState<DifferenceView | 'new' | null>(
    task.differences.length === 0 ? 'new' : null,
  )
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <DialogBox title={`What differs in “${task.title}”`} width="large">
        <p className="text-soft">
          Whoever it is not for never learns of it, on no page and in no mail. Marks lie in one column.
        </p>
        {editing === null ? (
          <Known view={view} task={task} put={put} onEdit={setEditing} />
        ) : (
          <DifferenceForm
            key={editing === 'new' ? 'new' : editing.code}
            view={view}
            task={task}
            difference={editing === 'new' ? null : editing}
            put={put}
            onDone={() => setEditing(null)}
            {...(task.differences.length > 0 && { onBack: () => setEditing(null) })}
          />
        )}
      </DialogBox>
    </Dialog.Root>
  )
}

function Known({
  view,
  task,
  put,
  onEdit,
}: {
  view: WorkView
  task: TaskView
  put: (view: WorkView) => void
  onEdit: (difference: DifferenceView | 'new') => void
}) {
  const act = useAct()
  const params = { sheet: view.code, task: task.code }
  const end = (difference: DifferenceView) =>
    act.do({
      work: () => call(removeDifference, { ...params, difference: difference.code }),
      undo: () =>
        call(addDifference, params, {
          ...differenceBodyOf(differenceDraftOf(task, difference, view.course.zone)),
          confirmed: true,
        }),
      put,
      said: 'They have the task as it is for everybody again.',
    })
  return (
    <>
      {task.differences.length === 0 ? (
        <p className="rounded-card border tear p-4 text-center text-soft">
          The task is the same for everybody.
        </p>
      ) : (
        <ul className="rounded-card border border-line">
          {task.differences.map((one) => (
            <li
              key={one.code}
              className="flex flex-wrap items-center justify-between gap-3 border-b tear px-3 py-2 last:border-0"
            >
              <div className="min-w-0">
                <p className="font-semibold wrap-anywhere">{whomWords(one, view)}</p>
                <p className="text-soft wrap-anywhere">{differsWords(one, view.course.zone)}</p>
                {one.note && <p className="text-sm text-soft wrap-anywhere">Note: {one.note}</p>}
              </div>
              <div className="flex gap-2">
                <Button size="small" onClick={() => onEdit(one)}>
                  Change<span className="sr-only"> what differs for {whomWords(one, view)}</span>
                </Button>
                <Button size="small" look="quiet" onClick={() => void end(one)}>
                  End<span className="sr-only"> what differs for {whomWords(one, view)}</span>
                </Button>
              </div>
            </li>
          ))}
        </ul>
      )}
      <div>
        <Button look="main" onClick={() => onEdit('new')}>
          Let it differ for others…
        </Button>
      </div>
    </>
  )
}

function DifferenceForm({
  view,
  task,
  difference,
  put,
  onDone,
  onBack,
}: {
  view: WorkView
  task: TaskView
  difference: DifferenceView | null
  put: (view: WorkView) => void
  onDone: () => void
  onBack?: () => void
}) {
  const { zone } = view.course
  const [first] = useState(() => differenceDraftOf(task, difference, zone))
  const unsent = useUnsent<DifferenceDraft>(
    `difference ${task.code} ${difference ? `${difference.code} ${JSON.stringify(first)}` : ''}`,
    first,
  )
  const draft = unsent.value
  const set = (more: Partial<DifferenceDraft>) => unsent.write({ ...draft, ...more })
  const act = useAct()
  const { fault, busy } = act
  const params = { sheet: view.code, task: task.code }
  const alone = task.forWhom === 'students'
  const nobody = draft.groups.length + draft.lists.length + draft.students.length === 0
  const nothing = !draft.dates && !draft.text && !draft.form
  const known = new Set(task.differences.map(({ code }) => code))
  const save = async () => {
    const body = differenceBodyOf(draft)
    let made = difference?.code ?? ''
    const done = await act.do({
      work: async (confirmed) => {
        if (difference)
          return call(changeDifference, { ...params, difference: difference.code }, { ...body, confirmed })
        const next = await call(addDifference, params, { ...body, confirmed })
        const now = next.tasks.find(({ code }) => code === task.code)?.differences ?? []
        made = now.find(({ code }) => !known.has(code))?.code ?? ''
        return next
      },
      undo: () =>
        difference
          ? call(
              changeDifference,
              { ...params, difference: difference.code },
              { ...differenceBodyOf(first), confirmed: true },
            )
          : call(removeDifference, { ...params, difference: made }),
      put,
      said: 'The task differs for them; nobody else sees that.',
      beside: true,
    })
    if (done.fault) return
    unsent.drop()
    onDone()
  }
  const inFields = [
    'availableFrom',
    'dueAt',
    'lateUntil',
    'takesText',
    'handsIn',
    'mostWords',
    'instructions',
  ]
  const besides = fault && !inFields.some((path) => fault.field(`fields.${path}`) ?? fault.field(path))
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        void save()
      }}
    >
      <WhichGroups
        label={alone ? 'Whoever sits in' : 'Groups'}
        view={view}
        groups={new Set(draft.groups)}
        onGroups={(groups) => set({ groups: [...groups] })}
      />
      {alone && view.lists.length > 0 && (
        <Picks
          label="Lists"
          all={view.lists.map(({ code, title, people }) => ({
            code,
            name: title,
            more: counted(people, 'person', 'people'),
          }))}
          picked={new Set(draft.lists)}
          onPicked={(lists) => set({ lists: [...lists] })}
        />
      )}
      {alone && (
        <Picks
          label="Students"
          all={view.people.map(({ code, name }) => ({ code, name }))}
          picked={new Set(draft.students)}
          onPicked={(students) => set({ students: [...students] })}
          nobody="Nobody is called that."
        />
      )}
      <fieldset className="flex flex-col gap-2">
        <legend className="text-sm font-semibold text-soft">What differs</legend>
        <Check checked={draft.dates} onValue={(dates) => set({ dates })}>
          other dates
        </Check>
        {draft.dates && <DateFields draft={draft} set={set} fault={fault} />}
        <Check checked={draft.text} onValue={(text) => set({ text })}>
          another text
        </Check>
        {draft.text && (
          <Area
            label="Instructions for them"
            rows={4}
            value={draft.instructions}
            onChange={({ target }) => set({ instructions: target.value })}
            fault={fault?.field('fields.instructions')}
          />
        )}
        <Check checked={draft.form} onValue={(form) => set({ form })}>
          another form or size
        </Check>
        {draft.form && <FormFields draft={draft} set={set} fault={fault} />}
      </fieldset>
      <Field
        label="Note for staff"
        maxLength={500}
        value={draft.note}
        onChange={({ target }) => set({ note: target.value })}
        fault={fault?.field('note')}
      />
      {besides && (
        <p role="alert" className="text-ember">
          {fault.message}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <Button type="submit" look="main" busy={busy} disabled={nobody || nothing}>
          Save the difference
        </Button>
        {onBack && <Button onClick={onBack}>Back to the list</Button>}
        {(nobody || nothing) && (
          <p className="self-center text-sm text-soft">
            {nobody ? 'Tick for whom it differs.' : 'Tick what differs.'}
          </p>
        )}
      </div>
    </form>
  )
}

/** For whom a difference is, in words. */
function whomWords({ groups, lists, students }: DifferenceView, view: WorkView): string {
  const titles = new Map(view.topics.map(({ code, title }) => [code, title]))
  const sections = new Map(view.sections.map(({ code, name }) => [code, name]))
  const words = [
    ...groups.map((code) => {
      const group = view.groups.find((one) => one.code === code)
      const words = [titles.get(group?.topic ?? ''), sections.get(group?.section ?? '')]
        .filter(Boolean)
        .join(', ')
      return group?.onSheet === false ? `${words} (off the sheet)` : words
    }),
    ...lists.map((code) => `the list “${view.lists.find((one) => one.code === code)?.title ?? 'removed'}”`),
    ...students.map((code) => view.people.find((one) => one.code === code)?.name ?? 'somebody who left'),
  ]
  return words.length > 0 ? words.join('; ') : 'nobody who is still there'
}

import { Dialog } from 'radix-ui'
import { type ReactNode, useState } from 'react'
import { addTask, changeTask, removeTask, type TaskView, type WorkView } from '../../../contract/tasks.ts'
import type { LateHandIn, TaskFor, WithoutGroup } from '../../../core/task.ts'
import { call } from '../../data/call.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { Check } from '../../kit/Check.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { DialogBox } from '../../kit/DialogBox.tsx'
import { Area, Field } from '../../kit/Field.tsx'
import { TimeField } from '../../kit/TimeField.tsx'
import { CriteriaFields } from './CriteriaFields.tsx'
import { TaskFiles } from './TaskFiles.tsx'
import { bodyOf, draftOf, type TaskDraft } from './taskDraft.ts'
import { WhichGroups } from './WhichGroups.tsx'

/** Sets a task, or changes one. Times are those of the course's zone. */
export function TaskAsk({
  view,
  task,
  put,
  onClose,
}: {
  view: WorkView
  task: TaskView | null
  put: (view: WorkView) => void
  onClose: () => void
}) {
  const { zone } = view.course
  const [first] = useState(() => draftOf(task, zone))
  // Half written, it is there again when this is opened anew.
  const unsent = useUnsent(`task ${view.code} ${task ? `${task.code} ${JSON.stringify(first)}` : ''}`, first)
  const draft = unsent.value
  const set = (more: Partial<TaskDraft>) => unsent.write({ ...draft, ...more })
  const { title, from, late, forWhom, criteria, out } = draft
  const act = useAct()
  const { fault, busy } = act
  const known = new Set(view.tasks.map(({ code }) => code))
  const fixed = task?.handedIn === true
  const others = view.tasks.filter(({ code, criteria }) => code !== task?.code && criteria.length > 0)
  const save = async () => {
    const body = bodyOf(draft, fixed)
    let set = task?.code ?? ''
    const done = await act.do({
      work: async (confirmed) => {
        if (task) return call(changeTask, { sheet: view.code, task: task.code }, { ...body, confirmed })
        const next = await call(addTask, { sheet: view.code }, body)
        set = next.tasks.find(({ code }) => !known.has(code))?.code ?? ''
        return next
      },
      // Changed, it becomes what it was when this was opened; set, it goes.
      undo: () =>
        task
          ? call(changeTask, { sheet: view.code, task: task.code }, before(task))
          : call(removeTask, { sheet: view.code, task: set }),
      put,
      ask: { title: 'Marks were given already', yes: 'Save changes all the same' },
      said: task
        ? `“${title}” is changed.`
        : out
          ? 'The task is set; students see it.'
          : 'The task is saved; students do not see it yet.',
      beside: true,
    })
    if (done.fault) return
    unsent.drop()
    onClose()
  }
  /** A task as it was; what was handed in meanwhile keeps it out. */
  const before = (was: TaskView) => {
    const { out, ...body } = bodyOf(draftOf(was, zone), fixed)
    return { ...body, ...(out && { out }), confirmed: true }
  }
  const shown = ['title', 'dueAt', 'lateUntil', 'availableFrom', 'takesText', 'points', 'forWhom']
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <DialogBox title={task ? 'Change the task' : 'Set a task'} width="large">
        <form
          className="flex flex-col gap-3"
          onSubmit={(event) => {
            event.preventDefault()
            void save()
          }}
        >
          <Field
            label="Title"
            value={title}
            onChange={({ target }) => set({ title: target.value })}
            fault={fault?.field('title')}
          />
          <Area
            label="Instructions"
            hint="Markdown is read."
            rows={4}
            value={draft.instructions}
            onChange={({ target }) => set({ instructions: target.value })}
          />
          <div className="grid gap-3 sm:grid-cols-2">
            <Labelled label="For">
              <Choice
                value={forWhom}
                disabled={fixed}
                onValue={(value) => set({ forWhom: value as TaskFor })}
              >
                <option value="groups">every group: one hands in for all</option>
                <option value="some-groups">certain groups</option>
                <option value="students">each student alone</option>
              </Choice>
            </Labelled>
            <Labelled label="Somebody without a group">
              <Choice value={draft.without} onValue={(value) => set({ without: value as WithoutGroup })}>
                <option value="locked">sees it locked, with the way to the sheet</option>
                <option value="hidden">does not see it</option>
                {forWhom === 'students' && <option value="open">can hand in all the same</option>}
              </Choice>
            </Labelled>
          </div>
          {fixed && (
            <p className="text-sm text-soft">
              Something was handed in, so whose the work is does not change any more.
            </p>
          )}
          {fault?.field('forWhom') && <p className="text-sm text-ember">{fault.field('forWhom')}</p>}
          {forWhom === 'some-groups' && !fixed && (
            <WhichGroups view={view} groups={draft.groups} onGroups={(groups) => set({ groups })} />
          )}
          <div className="grid gap-3 sm:grid-cols-3">
            <TimeField
              label="There from"
              usual="08:00"
              value={from}
              onValue={(from) => set({ from })}
              fault={fault?.field('availableFrom')}
            />
            <TimeField
              label="Due"
              usual="23:59"
              value={draft.due}
              onValue={(due) => set({ due })}
              fault={fault?.field('dueAt')}
            />
            <Labelled label="Late work">
              <Choice value={late} onValue={(value) => set({ late: value as LateHandIn })}>
                <option value="no">is not taken</option>
                <option value="until">is taken until</option>
                <option value="always">is always taken</option>
              </Choice>
            </Labelled>
          </div>
          {late === 'until' && (
            <TimeField
              label="Late work is taken until"
              usual="23:59"
              value={draft.until}
              onValue={(until) => set({ until })}
              fault={fault?.field('lateUntil')}
            />
          )}
          <fieldset className="flex flex-wrap items-center gap-x-5 gap-y-1">
            <legend className="text-sm font-semibold text-soft">What is handed in</legend>
            <Check checked={draft.takesText} onValue={(on) => set({ takesText: on })}>
              text
            </Check>
            <Check checked={draft.takesLinks} onValue={(on) => set({ takesLinks: on })}>
              links
            </Check>
            <Check checked={draft.takesFiles} onValue={(on) => set({ takesFiles: on })}>
              files
            </Check>
            {fault?.field('takesText') && (
              <span className="text-sm text-ember">{fault.field('takesText')}</span>
            )}
          </fieldset>
          <TaskFiles view={view} task={task} put={put} />
          <CriteriaFields criteria={criteria} onCriteria={(criteria) => set({ criteria })} others={others} />
          {criteria.length === 0 && (
            <Field
              label="Points"
              inputMode="numeric"
              value={draft.points}
              onChange={({ target }) => set({ points: target.value })}
              fault={fault?.field('points')}
              className="max-w-24"
            />
          )}
          <Check checked={out} disabled={fixed} onValue={(on) => set({ out: on })}>
            Students see it{from && ', from that time on'}
          </Check>
          {fault && !shown.some((path) => fault.field(path)) && (
            <p role="alert" className="text-ember">
              {fault.message}
            </p>
          )}
          <div>
            <Button type="submit" look="main" busy={busy}>
              {task ? 'Save task' : 'Set the task'}
            </Button>
          </div>
        </form>
      </DialogBox>
    </Dialog.Root>
  )
}

function Labelled({ label, children }: { label: string; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noLabelWithoutControl: the control is what it is given
    <label className="flex flex-col gap-1 text-sm font-semibold text-soft">
      {label}
      {children}
    </label>
  )
}

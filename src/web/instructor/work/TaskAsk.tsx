import { Dialog } from 'radix-ui'
import { useState } from 'react'
import {
  addTask,
  changeTask,
  knownCriteria,
  removeTask,
  type TaskView,
  type WorkView,
} from '../../../contract/tasks.ts'
import type { SharesRule, TaskFor, WithoutGroup } from '../../../core/task.ts'
import { useAnswer } from '../../data/answers.ts'
import { call } from '../../data/call.ts'
import { changesBetween, type Over, rebase } from '../../data/rebased.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { Check } from '../../kit/Check.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { DialogBox } from '../../kit/DialogBox.tsx'
import { Area, Field } from '../../kit/Field.tsx'
import { ChangedMeanwhile } from './ChangedMeanwhile.tsx'
import { CriteriaFields } from './CriteriaFields.tsx'
import { TaskFiles } from './TaskFiles.tsx'
import { DateFields, FormFields, Labelled } from './TermsFields.tsx'
import { bodyOf, draftOf, FIELD_WORDS, type TaskDraft } from './taskDraft.ts'
import { WhichGroups } from './WhichGroups.tsx'

/** Sets a task, or changes one. Times are those of the course's zone. */
export function TaskAsk({
  view,
  task,
  put,
  refetch,
  onClose,
}: {
  view: WorkView
  /** The task as it is by now; null for a new one. */
  task: TaskView | null
  put: (view: WorkView) => void
  refetch: () => void
  onClose: () => void
}) {
  const { zone } = view.course
  const now = draftOf(task, zone)
  const [first] = useState<Over<TaskDraft>>(() => ({ base: now, draft: now }))
  // Half written, it is there again when this is opened anew, over what the task is by then.
  const unsent = useUnsent(`task ${view.code} ${task?.code ?? ''}`, first)
  const { over, met } = rebase(unsent.value, now)
  const { base, draft } = over
  const set = (more: Partial<TaskDraft>) => unsent.write({ base, draft: { ...draft, ...more } })
  const { title, from, forWhom, criteria, out } = draft
  const act = useAct()
  const { fault, busy } = act
  const known = new Set(view.tasks.map(({ code }) => code))
  const fixed = task?.begun === true
  const everywhere = useAnswer(knownCriteria, { course: view.course.code }, { revalidateOnFocus: false })
  const others = (everywhere.data ?? []).filter((one) => one.task !== task?.code)
  const close = () => {
    unsent.drop()
    onClose()
  }
  const save = async () => {
    const body = bodyOf(draft, fixed)
    // Each field goes with what it was made from: what a colleague changed meanwhile stays.
    const { changes, was } = changesBetween(bodyOf(base, fixed), body)
    if (task && Object.keys(changes).length === 0) return close()
    let set = task?.code ?? ''
    const done = await act.do({
      work: async (confirmed) => {
        if (task)
          return call(changeTask, { sheet: view.code, task: task.code }, { ...changes, was, confirmed })
        const next = await call(addTask, { sheet: view.code }, body)
        set = next.tasks.find(({ code }) => !known.has(code))?.code ?? ''
        return next
      },
      // Changed, what was changed of it becomes what it was; set, it goes.
      undo: () =>
        task
          ? call(changeTask, { sheet: view.code, task: task.code }, { ...was, was: changes, confirmed: true })
          : call(removeTask, { sheet: view.code, task: set }),
      put,
      refetch,
      ask: { title: 'Marks were given already', yes: 'Save changes all the same' },
      said: task
        ? `“${title}” is changed.`
        : out
          ? 'The task is set; students see it.'
          : 'The task is saved; students do not see it yet.',
      beside: true,
    })
    if (!done.fault) close()
  }
  const shown = [
    'title',
    'dueAt',
    'lateUntil',
    'availableFrom',
    'takesText',
    'handsIn',
    'mostWords',
    'points',
    'forWhom',
    'list',
  ]
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
                value={forWhom === 'students' && draft.list ? `list ${draft.list}` : forWhom}
                disabled={fixed}
                onValue={(value) => {
                  const list = value.startsWith('list ') ? value.slice(5) : ''
                  set({ forWhom: list ? 'students' : (value as TaskFor), list })
                }}
              >
                <option value="groups">
                  {draft.handsIn ? 'every group: one hands in for all' : 'every group'}
                </option>
                <option value="some-groups">certain groups</option>
                <option value="students">each student alone</option>
                {view.lists.map(({ code, title, people }) => (
                  <option key={code} value={`list ${code}`}>
                    each of the list “{title}” ({people}) alone
                  </option>
                ))}
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
              Something was {task.handedIn ? 'handed in' : 'marked'}, so whose the work is does not change any
              more.
            </p>
          )}
          {(fault?.field('forWhom') ?? fault?.field('list')) && (
            <p role="alert" className="text-sm text-ember">
              {fault?.field('forWhom') ?? fault?.field('list')}
            </p>
          )}
          {forWhom === 'some-groups' && !fixed && (
            <WhichGroups
              view={view}
              groups={new Set(draft.groups)}
              onGroups={(groups) => set({ groups: [...groups] })}
            />
          )}
          <DateFields draft={draft} set={set} fault={fault} />
          <FormFields draft={draft} set={set} fault={fault} />
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
          {forWhom !== 'students' && (
            <Labelled label="How the work was shared among them">
              <Choice value={draft.shares} onValue={(value) => set({ shares: value as SharesRule })}>
                <option value="no">is not asked</option>
                <option value="staff">is asked in private; staff alone see it</option>
                <option value="own">is asked in private; each sees their own average with the mark</option>
              </Choice>
            </Labelled>
          )}
          {draft.handsIn && (
            <Check checked={draft.answers} onValue={(on) => set({ answers: on })}>
              Each may answer every remark on their work once
            </Check>
          )}
          <Check checked={out} disabled={fixed} onValue={(on) => set({ out: on })}>
            Students see it{from && ', from that time on'}
          </Check>
          {met.map((field) => (
            <ChangedMeanwhile
              key={field}
              words={FIELD_WORDS[field]}
              theirs={now[field]}
              onMine={() => unsent.write({ base: { ...base, [field]: now[field] }, draft })}
              onTheirs={() =>
                unsent.write({
                  base: { ...base, [field]: now[field] },
                  draft: { ...draft, [field]: now[field] },
                })
              }
            />
          ))}
          {fault && fault.code !== 'changed-meanwhile' && !shown.some((path) => fault.field(path)) && (
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

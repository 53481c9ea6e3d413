import { Dialog } from 'radix-ui'
import { type ReactNode, useState } from 'react'
import { toast } from 'sonner'
import { addTask, changeTask, type TaskView, type WorkView } from '../../../contract/tasks.ts'
import type { Criterion } from '../../../core/marks.ts'
import type { LateHandIn, TaskFor, WithoutGroup } from '../../../core/task.ts'
import { localTimeOf } from '../../../core/zone.ts'
import { call, type Fault, faultOf } from '../../data/call.ts'
import { Ask } from '../../kit/Ask.tsx'
import { Button } from '../../kit/Button.tsx'
import { DialogBox } from '../../kit/DialogBox.tsx'
import { Area, BOX, Field } from '../../kit/Field.tsx'
import { CriteriaFields } from './CriteriaFields.tsx'
import { TaskFiles } from './TaskFiles.tsx'

const SELECT = `${BOX} min-h-9`

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
  const local = (instant: string | null | undefined) => (instant ? localTimeOf(instant, zone) : '')
  const [title, setTitle] = useState(task?.title ?? '')
  const [instructions, setInstructions] = useState(task?.instructions ?? '')
  const [takesText, setTakesText] = useState(task?.takesText ?? true)
  const [takesLinks, setTakesLinks] = useState(task?.takesLinks ?? true)
  const [takesFiles, setTakesFiles] = useState(task?.takesFiles ?? false)
  const [from, setFrom] = useState(local(task?.availableFrom))
  const [due, setDue] = useState(local(task?.dueAt))
  const [late, setLate] = useState<LateHandIn>(task?.late ?? 'no')
  const [until, setUntil] = useState(local(task?.lateUntil))
  const [forWhom, setForWhom] = useState<TaskFor>(task?.forWhom ?? 'groups')
  const [groups, setGroups] = useState<ReadonlySet<string>>(new Set(task?.groups ?? []))
  const [without, setWithout] = useState<WithoutGroup>(task?.withoutGroup ?? 'locked')
  const [points, setPoints] = useState(String(task?.points ?? 10))
  const [criteria, setCriteria] = useState<readonly Criterion[]>(task?.criteria ?? [])
  const [out, setOut] = useState(task ? task.outAt !== null : true)
  const [fault, setFault] = useState<Fault | null>(null)
  const [busy, setBusy] = useState(false)
  const [affected, setAffected] = useState('')
  const fixed = task?.handedIn === true
  const others = view.tasks.filter(({ code, criteria }) => code !== task?.code && criteria.length > 0)
  const save = async (confirmed = false) => {
    setBusy(true)
    const body = {
      title,
      instructions,
      takesText,
      takesLinks,
      takesFiles,
      availableFrom: from || null,
      dueAt: due || null,
      late,
      lateUntil: late === 'until' ? until || null : null,
      ...(!fixed && { forWhom, groups: forWhom === 'some-groups' ? [...groups] : [] }),
      withoutGroup: forWhom !== 'students' && without === 'open' ? ('locked' as const) : without,
      points: Number(points),
      criteria: [...criteria].map((one) => ({ ...one, levels: [...one.levels] })),
      out,
      ...(confirmed && { confirmed }),
    }
    try {
      put(
        task
          ? await call(changeTask, { sheet: view.code, task: task.code }, body)
          : await call(addTask, { sheet: view.code }, body),
      )
      if (task) {
        const action = { label: 'Undo', onClick: () => void undo(task) }
        toast.success(`“${title}” is changed.`, { duration: 10_000, action })
      } else
        toast.success(
          out ? 'The task is set; students see it.' : 'The task is kept; students do not see it yet.',
        )
      onClose()
    } catch (error) {
      const problem = faultOf(error)
      if (problem.code === 'marks-affected') setAffected(problem.message)
      else setFault(problem)
    } finally {
      setBusy(false)
    }
  }
  /** Makes a task again what it was when this was opened. */
  const undo = async (before: TaskView) => {
    const { criteria, groups, availableFrom, dueAt, lateUntil, outAt, forWhom, ...same } = before
    const body = {
      ...same,
      availableFrom: local(availableFrom) || null,
      dueAt: local(dueAt) || null,
      lateUntil: local(lateUntil) || null,
      ...(!fixed && { forWhom, groups }),
      criteria: criteria.map((one) => ({ ...one, levels: [...one.levels] })),
      ...(outAt !== null && { out: true }),
      confirmed: true,
    }
    try {
      put(await call(changeTask, { sheet: view.code, task: before.code }, body))
    } catch (error) {
      toast.error(faultOf(error).message)
    }
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
            onChange={({ target }) => setTitle(target.value)}
            fault={fault?.field('title')}
          />
          <Area
            label="Instructions"
            hint="Markdown is read."
            rows={4}
            value={instructions}
            onChange={({ target }) => setInstructions(target.value)}
          />
          <div className="grid gap-3 sm:grid-cols-2">
            <Labelled label="For">
              <select
                value={forWhom}
                disabled={fixed}
                onChange={({ target }) => setForWhom(target.value as TaskFor)}
                className={SELECT}
              >
                <option value="groups">every group: one hands in for all</option>
                <option value="some-groups">certain groups</option>
                <option value="students">each student alone</option>
              </select>
            </Labelled>
            <Labelled label="Somebody without a group">
              <select
                value={without}
                onChange={({ target }) => setWithout(target.value as WithoutGroup)}
                className={SELECT}
              >
                <option value="locked">sees it locked, with the way to the sheet</option>
                <option value="hidden">does not see it</option>
                {forWhom === 'students' && <option value="open">can hand in all the same</option>}
              </select>
            </Labelled>
          </div>
          {fixed && (
            <p className="text-sm text-soft">
              Something was handed in, so whose the work is does not change any more.
            </p>
          )}
          {fault?.field('forWhom') && <p className="text-sm text-ember">{fault.field('forWhom')}</p>}
          {forWhom === 'some-groups' && !fixed && (
            <WhichGroups view={view} groups={groups} onGroups={setGroups} />
          )}
          <div className="grid gap-3 sm:grid-cols-3">
            <Field
              label="There from"
              type="datetime-local"
              value={from}
              onChange={({ target }) => setFrom(target.value)}
              fault={fault?.field('availableFrom')}
            />
            <Field
              label="Due"
              type="datetime-local"
              value={due}
              onChange={({ target }) => setDue(target.value)}
              fault={fault?.field('dueAt')}
            />
            <Labelled label="Late work">
              <select
                value={late}
                onChange={({ target }) => setLate(target.value as LateHandIn)}
                className={SELECT}
              >
                <option value="no">is not taken</option>
                <option value="until">is taken until</option>
                <option value="always">is always taken</option>
              </select>
            </Labelled>
          </div>
          {late === 'until' && (
            <Field
              label="Late work is taken until"
              type="datetime-local"
              value={until}
              onChange={({ target }) => setUntil(target.value)}
              fault={fault?.field('lateUntil')}
            />
          )}
          <fieldset className="flex flex-wrap items-center gap-x-5 gap-y-1">
            <legend className="text-sm font-semibold text-soft">What is handed in</legend>
            <label className="flex min-h-8 items-center gap-2">
              <input
                type="checkbox"
                className="size-4 accent-seat"
                checked={takesText}
                onChange={({ target }) => setTakesText(target.checked)}
              />
              text
            </label>
            <label className="flex min-h-8 items-center gap-2">
              <input
                type="checkbox"
                className="size-4 accent-seat"
                checked={takesLinks}
                onChange={({ target }) => setTakesLinks(target.checked)}
              />
              links
            </label>
            <label className="flex min-h-8 items-center gap-2">
              <input
                type="checkbox"
                className="size-4 accent-seat"
                checked={takesFiles}
                onChange={({ target }) => setTakesFiles(target.checked)}
              />
              files
            </label>
            {fault?.field('takesText') && (
              <span className="text-sm text-ember">{fault.field('takesText')}</span>
            )}
          </fieldset>
          <TaskFiles view={view} task={task} put={put} />
          <CriteriaFields criteria={criteria} onCriteria={setCriteria} others={others} />
          {criteria.length === 0 && (
            <Field
              label="Points"
              inputMode="numeric"
              value={points}
              onChange={({ target }) => setPoints(target.value)}
              fault={fault?.field('points')}
              className="max-w-24"
            />
          )}
          <label className="flex min-h-8 items-center gap-2">
            <input
              type="checkbox"
              className="size-4 accent-seat"
              checked={out}
              disabled={fixed}
              onChange={({ target }) => setOut(target.checked)}
            />
            Students see it{from && ', from that time on'}
          </label>
          {fault && !shown.some((path) => fault.field(path)) && (
            <p role="alert" className="text-ember">
              {fault.message}
            </p>
          )}
          <div>
            <Button type="submit" look="main" busy={busy}>
              {task ? 'Keep the changes' : 'Set the task'}
            </Button>
          </div>
        </form>
        <Ask
          open={affected !== ''}
          title="Marks were given already"
          yes="Change it all the same"
          busy={busy}
          onNo={() => setAffected('')}
          onYes={() => {
            setAffected('')
            void save(true)
          }}
        >
          <p>{affected}</p>
          <p>What was given stays kept, and counts again once this is undone.</p>
        </Ask>
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

function WhichGroups({
  view,
  groups,
  onGroups,
}: {
  view: WorkView
  groups: ReadonlySet<string>
  onGroups: (groups: ReadonlySet<string>) => void
}) {
  const titles = new Map(view.topics.map(({ code, title }) => [code, title]))
  const sections = new Map(view.sections.map(({ code, name }) => [code, name]))
  return (
    <fieldset className="max-h-40 overflow-auto rounded-field border border-line-strong px-3 py-1">
      <legend className="sr-only">Groups</legend>
      <div className="grid sm:grid-cols-2">
        {view.groups
          .filter(({ members }) => members.length > 0)
          .map(({ code, topic, section }) => (
            <label key={code} className="flex min-h-7 items-center gap-2 text-sm">
              <input
                type="checkbox"
                className="size-4 accent-seat"
                checked={groups.has(code)}
                onChange={() => {
                  const next = new Set(groups)
                  if (!next.delete(code)) next.add(code)
                  onGroups(next)
                }}
              />
              {titles.get(topic)} <span className="text-soft">{sections.get(section ?? '')}</span>
            </label>
          ))}
      </div>
    </fieldset>
  )
}

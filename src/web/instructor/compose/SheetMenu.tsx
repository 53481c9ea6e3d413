import { DropdownMenu } from 'radix-ui'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { courses } from '../../../contract/courses.ts'
import {
  archiveSheet,
  type ComposeView,
  copySheet,
  deleteSheet,
  restoreSheet,
} from '../../../contract/sheets.ts'
import { useAnswer } from '../../data/answers.ts'
import { call } from '../../data/call.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Ask } from '../../kit/Ask.tsx'
import { Button } from '../../kit/Button.tsx'
import { Check } from '../../kit/Check.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { Field, FieldFrame } from '../../kit/Field.tsx'
import { sentTime, TimeField } from '../../kit/TimeField.tsx'
import { useDo } from '../../kit/useDo.ts'

const ITEM =
  'flex min-h-9 items-center rounded-field px-2.5 outline-none select-none data-[highlighted]:bg-seat-soft'

/** What is done to a sheet as a whole: copy it, put it away, delete it. */
export function SheetMenu({ view, put }: { view: ComposeView; put: (view: ComposeView) => void }) {
  const navigate = useNavigate()
  const [copying, setCopying] = useState(false)
  const [deleting, setDeleting] = useState(false)
  const archived = view.state === 'archived'
  const act = useAct()
  useDo({ copy: () => setCopying(true), delete: () => setDeleting(true), archive: () => void archive() })
  const setArchived = (to: boolean) => () => call(archiveSheet, { sheet: view.code }, { archived: to })
  const archive = () =>
    act.do({
      work: setArchived(!archived),
      undo: setArchived(archived),
      put,
      said: archived
        ? 'The sheet is restored.'
        : 'The sheet is archived. Students see it under what is past.',
    })
  const remove = () =>
    act.do<ComposeView | null>({
      work: () => call(deleteSheet, { sheet: view.code }),
      undo: () => call(restoreSheet, { course: view.course.code, gone: view.code }),
      put: (back) => navigate(back ? `/sheets/${view.code}/compose` : '/'),
      said: `${view.title} is deleted.`,
    })
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <Button>More</Button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            sideOffset={6}
            className="z-50 min-w-56 rounded-card border border-line bg-surface p-1.5 shadow-lg"
          >
            <DropdownMenu.Item className={ITEM} onSelect={() => setCopying(true)}>
              Copy this sheet…
            </DropdownMenu.Item>
            <DropdownMenu.Item className={ITEM} onSelect={() => void archive()}>
              {archived ? 'Restore sheet' : 'Archive sheet'}
            </DropdownMenu.Item>
            <DropdownMenu.Separator className="my-1 border-t tear" />
            <DropdownMenu.Item className={ITEM} onSelect={() => setDeleting(true)}>
              Delete sheet…
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <Ask
        open={deleting}
        title={`Delete ${view.title}?`}
        yes="Delete sheet"
        onNo={() => setDeleting(false)}
        onYes={() => {
          setDeleting(false)
          void remove()
        }}
      >
        <p>
          Nobody sees it any more, and its link leads nowhere.
          {view.topics.some(({ groups }) => groups.some(({ taken }) => taken > 0)) &&
            ' People sit on it: they lose sight of their groups.'}{' '}
          The next message offers to undo it.
        </p>
      </Ask>
      {copying && <CopyAsk view={view} onClose={() => setCopying(false)} />}
    </>
  )
}

function CopyAsk({ view, onClose }: { view: ComposeView; onClose: () => void }) {
  const navigate = useNavigate()
  const { data } = useAnswer(courses, {})
  // Half filled, it is there again when this is opened anew.
  const unsent = useUnsent(`copy ${view.code}`, {
    title: view.title,
    course: view.course.code,
    opensAt: '',
    people: false,
    tasks: false,
  })
  const { title, course, opensAt, people = false, tasks = false } = unsent.value
  const here = course === view.course.code
  const set = (more: Partial<typeof unsent.value>) => unsent.write({ ...unsent.value, ...more })
  const act = useAct()
  const { fault, busy } = act
  const mine =
    data?.courses.filter(({ role, archivedAt }) => role === 'instructor' && archivedAt === null) ?? []
  const copy = async () => {
    const done = await act.do({
      work: () =>
        call(
          copySheet,
          { sheet: view.code },
          { course, title, opensAt: sentTime(opensAt), people: people && here, tasks },
        ),
      said:
        people && here
          ? 'Copied as a draft, with the same people in the same groups.'
          : 'Copied as a draft. People and seats stay with the old one.',
      beside: true,
    })
    if (done.fault) return
    unsent.drop()
    onClose()
    navigate(`/sheets/${done.answer.code}/compose`)
  }
  return (
    <Ask
      open
      title={`Copy ${view.title}`}
      yes="Copy sheet"
      busy={busy}
      onYes={() => void copy()}
      onNo={onClose}
    >
      <Field
        label="Title of the copy"
        value={title}
        onChange={(event) => set({ title: event.target.value })}
        fault={fault?.field('title')}
      />
      <FieldFrame label="Into" fault={fault?.field('course')}>
        {(ids) => (
          <Choice {...ids} value={course} onValue={(value) => set({ course: value })}>
            {mine.map(({ code, courseCode, title }) => (
              <option key={code} value={code}>
                {courseCode} {title}
              </option>
            ))}
          </Choice>
        )}
      </FieldFrame>
      <TimeField
        label="Its window opens"
        usual="08:00"
        value={opensAt}
        onValue={(opensAt) => set({ opensAt })}
        hint="The window keeps its length and dated topics move along. Left empty: no window, no dates."
        fault={fault?.field('opensAt') ?? (fault?.problem.errors ? undefined : fault?.message)}
      />
      {here && (
        <Check checked={people} onValue={(people) => set({ people })}>
          The same people in the same groups
        </Check>
      )}
      {view.tasks.length > 0 && (
        <Check checked={tasks} onValue={(tasks) => set({ tasks })}>
          {view.tasks.length === 1 ? 'Its task' : `Its ${view.tasks.length} tasks`} with their criteria, as
          drafts; files of tasks stay behind
        </Check>
      )}
    </Ask>
  )
}

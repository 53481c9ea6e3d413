import { Link, useParams } from 'react-router'
import { type OwnTask, type OwnWork, ownWork } from '../../contract/ownWork.ts'
import { sayInstant } from '../../core/zone.ts'
import { useAnswer } from '../data/answers.ts'
import { useLive } from '../data/live.ts'
import { useSoon } from '../data/useSoon.ts'
import { FileLine } from '../files/FileLine.tsx'
import { Awaited } from '../kit/Awaited.tsx'
import { ButtonLink } from '../kit/Button.tsx'
import { Frame } from '../kit/Frame.tsx'
import { Markdown } from '../kit/Markdown.tsx'
import { ZoneNote } from '../kit/ZoneNote.tsx'
import { HandIn } from './HandIn.tsx'
import { OwnMark } from './OwnMark.tsx'
import { Shares } from './Shares.tsx'

/** The tasks of a sheet as one student has them. */
export function TasksPage() {
  const { sheet: code = '' } = useParams()
  const answer = useAnswer(ownWork, { sheet: code }, { refreshInterval: 15_000 })
  const { data, mutate } = answer
  const soon = useSoon(() => void mutate())
  useLive(code, data?.rev ?? null, {
    first: () => soon(200),
    own: () => soon(300),
    place: () => soon(200),
    refresh: ({ within }: { within: number }) => soon(300 + Math.random() * within),
  })
  return (
    <Awaited of={answer} what="your tasks" elsewhere={`/sheets/${code}/work`}>
      {(work) => (
        <Frame
          title={`Tasks: ${work.sheet.title}`}
          crumbs={[{ label: work.sheet.title, to: `/sheets/${code}` }, { label: 'Tasks' }]}
        >
          <Tasks
            work={work}
            put={(next) => void mutate(next, { revalidate: false })}
            refetch={() => void mutate()}
          />
        </Frame>
      )}
    </Awaited>
  )
}

function Tasks({ work, put, refetch }: { work: OwnWork; put: (work: OwnWork) => void; refetch: () => void }) {
  const { sheet, tasks } = work
  return (
    <div className="mx-auto flex w-full max-w-2xl flex-col gap-4 px-4 py-5">
      <div>
        <Link to={`/sheets/${sheet.code}`} className="text-seat underline underline-offset-2">
          {sheet.title}
        </Link>
        <h1 className="text-[1.75rem]">Tasks</h1>
        <ZoneNote
          zone={sheet.zone}
          times={tasks.map(({ title, dueAt }) => ({ what: `${title} is due`, at: dueAt }))}
        />
      </div>
      {tasks.length === 0 && (
        <p className="rounded-card border tear p-6 text-center text-soft">
          No task is there for you yet. When your instructor sets one, it appears here.
        </p>
      )}
      {tasks.map((task) => (
        <Task key={`${task.code} ${task.group?.code}`} task={task} work={work} put={put} refetch={refetch} />
      ))}
    </div>
  )
}

const GATES: Record<OwnTask['gate']['state'], { word: string; look: string }> = {
  locked: { word: 'Locked', look: 'bg-sun-soft text-sun-ink' },
  open: { word: 'Open', look: 'bg-moss-soft text-moss' },
  late: { word: 'Late, still taken', look: 'bg-ember-soft text-ember' },
  over: { word: 'Over', look: 'bg-seat-soft text-seat' },
  'no-hand-in': { word: 'Nothing to hand in', look: 'bg-seat-soft text-seat' },
}

function Task({
  task,
  work,
  put,
  refetch,
}: {
  task: OwnTask
  work: OwnWork
  put: (work: OwnWork) => void
  refetch: () => void
}) {
  const { zone } = work.sheet
  const standing = task.work?.handIns.find(({ takenBackAt }) => takenBackAt === null)
  // What was handed in in time is not late, however late it is now.
  const inTime = standing !== undefined && !standing.late && task.gate.state === 'late'
  const { word, look } = inTime
    ? { word: 'Handed in', look: 'bg-moss-soft text-moss' }
    : GATES[task.gate.state]
  return (
    <article aria-label={task.title} className="rounded-card border border-line bg-surface">
      <div className="flex flex-col gap-1 px-4 pt-3 pb-3">
        <h2 className="text-lg">{task.title}</h2>
        <p className="flex flex-wrap items-center gap-x-2 gap-y-1 text-soft">
          <span className={`rounded px-2 py-px text-[0.8125rem] font-semibold ${look}`}>{word}</span>
          <span className="figures">{dueWords(task, zone)}</span>
        </p>
        {task.group && (
          <p className="text-soft">
            for your group,{' '}
            <Link
              to={`/sheets/${work.sheet.code}/groups/${task.group.code}`}
              className="text-seat underline underline-offset-2"
            >
              {task.group.title}
            </Link>
          </p>
        )}
      </div>
      {task.work === null ? (
        <div className="flex flex-wrap items-center justify-between gap-3 border-t tear bg-sun-soft px-4 py-3">
          <p>
            It is for those in a group.{' '}
            {work.sheet.open ? (
              'Take a seat, and it opens.'
            ) : (
              <>
                The sheet is not open, so ask{' '}
                {work.sheet.contact ? (
                  <a
                    href={`mailto:${work.sheet.contact}?subject=${encodeURIComponent(work.sheet.title)}`}
                    className="underline underline-offset-2 wrap-anywhere"
                  >
                    {work.sheet.contact}
                  </a>
                ) : (
                  'your instructor'
                )}{' '}
                for a seat; once you have one, it opens by itself.
              </>
            )}
          </p>
          <ButtonLink look="main" size="touch" to={`/sheets/${work.sheet.code}`}>
            To the sheet
          </ButtonLink>
        </div>
      ) : (
        <div className="flex flex-col gap-4 border-t tear px-4 py-3">
          {task.work.instructions && <Markdown text={task.work.instructions} />}
          {task.work.files.length > 0 && (
            <div>
              <h3 className="text-base">Comes with it</h3>
              <ul>
                {task.work.files.map((file) => (
                  <li key={file.code}>
                    <FileLine sheet={work.sheet.code} file={file} />
                  </li>
                ))}
              </ul>
            </div>
          )}
          {task.work.criteria.length > 0 && !task.work.mark && (
            <div>
              <h3 className="text-base">What is looked at</h3>
              <ul className="text-soft">
                {task.work.criteria.map(({ id, title, points }) => (
                  <li key={id} className="flex justify-between gap-3">
                    {title} <span className="figures">{points}</span>
                  </li>
                ))}
              </ul>
            </div>
          )}
          {task.work.mark && (
            <OwnMark title={task.title} mark={task.work.mark} work={task.work}>
              <SaidOfIt task={task} work={task.work} sheet={work.sheet.code} />
            </OwnMark>
          )}
          {standing && (
            <div className="rounded-field bg-moss-soft px-3 py-2">
              <p className="font-semibold text-moss">
                Handed in{standing.late && ', late'}: version {standing.version}
              </p>
              <p className="text-sm">
                by {standing.by}, {sayInstant(standing.handedAt, zone)}
                {task.work.forWhom === 'group' && `, for ${standing.members.join(', ')}`}
              </p>
              <Written text={standing.text} links={standing.links} />
              {standing.files.map((file) => (
                <FileLine key={file.code} sheet={work.sheet.code} file={file} />
              ))}
            </div>
          )}
          {task.work.shares && <Shares task={task} shares={task.work.shares} work={work} put={put} />}
          {(task.gate.state === 'open' || task.gate.state === 'late') &&
            (standing ? (
              <details>
                <summary className="min-h-11 cursor-pointer py-2 font-semibold text-seat">
                  {task.gate.state === 'open' ? 'Another version, or withdraw' : 'Another version'}
                </summary>
                <HandIn task={task} own={task.work} all={work} put={put} refetch={refetch} />
              </details>
            ) : (
              <HandIn task={task} own={task.work} all={work} put={put} refetch={refetch} />
            ))}
          {task.gate.state === 'over' && !standing && <p className="text-soft">Nothing was handed in.</p>}
          <Earlier task={task} zone={zone} sheet={work.sheet.code} />
        </div>
      )}
    </article>
  )
}

/** The way to what was said in the work itself, and the files that came back with the mark. */
function SaidOfIt({
  task,
  work: { remarks, feedbackFiles },
  sheet,
}: {
  task: OwnTask
  work: NonNullable<OwnTask['work']>
  sheet: string
}) {
  if (remarks === 0 && feedbackFiles.length === 0) return null
  return (
    <div className="mt-2 flex flex-col gap-1 border-t tear pt-2">
      {feedbackFiles.map((file) => (
        <FileLine key={file.code} sheet={sheet} file={file} />
      ))}
      {remarks > 0 && (
        <div>
          <ButtonLink
            look="main"
            size="touch"
            to={`/sheets/${sheet}/tasks/${task.code}/remarks/${task.group?.code ?? 'self'}`}
          >
            Read {remarks === 1 ? '1 remark' : `${remarks} remarks`} on the work
          </ButtonLink>
        </div>
      )}
    </div>
  )
}

/** When a task is due, and until when late work is taken. */
function dueWords({ dueAt, late, lateUntil, handsIn }: OwnTask, zone: string): string {
  if (!handsIn) return dueAt === null ? 'without a date' : sayInstant(dueAt, zone)
  if (dueAt === null) return 'without a due time'
  const until = late === 'until' && lateUntil ? `, late until ${sayInstant(lateUntil, zone)}` : ''
  return `due ${sayInstant(dueAt, zone)}${until}${late === 'always' ? '; late work is taken' : ''}`
}

/** What was written, as it was handed in. */
function Written({ text, links }: { text: string; links: readonly string[] }) {
  return (
    <>
      {text && (
        <details className="mt-1">
          <summary className="cursor-pointer text-sm font-semibold">What was handed in</summary>
          <p className="mt-1 whitespace-pre-line wrap-anywhere">{text}</p>
        </details>
      )}
      {links.map((link) => (
        <a
          key={link}
          href={link}
          target="_blank"
          rel="noreferrer"
          className="block text-seat underline underline-offset-2 wrap-anywhere"
        >
          {link}
        </a>
      ))}
    </>
  )
}

/** Versions before the one that counts, and those taken back. */
function Earlier({ task, zone, sheet }: { task: OwnTask; zone: string; sheet: string }) {
  const all = task.work?.handIns ?? []
  const standing = all.find(({ takenBackAt }) => takenBackAt === null)
  const earlier = all.filter((one) => one !== standing)
  if (earlier.length === 0) return null
  return (
    <details className="text-sm text-soft">
      <summary className="cursor-pointer">
        {earlier.length === 1 ? '1 earlier version' : `${earlier.length} earlier versions`}
      </summary>
      <ul className="mt-1 flex flex-col gap-2">
        {earlier.map((one) => (
          <li key={one.version}>
            Version {one.version} by {one.by}, {sayInstant(one.handedAt, zone)}
            {one.takenBackAt && ', withdrawn'}
            <p className="whitespace-pre-line text-ink wrap-anywhere">{one.text}</p>
            {one.files.map((file) => (
              <FileLine key={file.code} sheet={sheet} file={file} />
            ))}
          </li>
        ))}
      </ul>
    </details>
  )
}

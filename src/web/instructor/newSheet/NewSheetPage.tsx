import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { courses } from '../../../contract/courses.ts'
import { lists } from '../../../contract/lists.ts'
import { addSheet, copySheet, deleteSheet } from '../../../contract/sheets.ts'
import { counted } from '../../../core/counted.ts'
import { saySizes } from '../../../core/supply.ts'
import { sayTyped } from '../../../core/typedTime.ts'
import { useAnswer } from '../../data/answers.ts'
import { call } from '../../data/call.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { EXTRA_WORDS } from '../../group/extraWords.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Awaited } from '../../kit/Awaited.tsx'
import { Button } from '../../kit/Button.tsx'
import { Frame } from '../../kit/Frame.tsx'
import { PipRow } from '../../kit/Pip.tsx'
import { sentTime, typedFault } from '../../kit/TimeField.tsx'
import { toast } from '../../kit/toast.ts'
import { FindBox } from '../FindBox.tsx'
import { ListAsk } from '../ListAsk.tsx'
import { CarryOnAsk } from './CarryOnAsk.tsx'
import { type Earlier, SentenceForm } from './SentenceForm.tsx'
import {
  type Class,
  FIRST_SENTENCE,
  newSheetOf,
  type Sentence,
  type Sum,
  sumOf,
  talks,
  wrongWith,
} from './sentence.ts'

/** A new sheet: a sentence that says for whom it is, how groups come about and how many, with its sums beside it. */
export function NewSheetPage() {
  const { course: code = '' } = useParams()
  const answer = useAnswer(courses, {})
  const known = useAnswer(lists, { course: code })
  return (
    <Awaited of={answer} what="the course" elsewhere="/">
      {(view) => {
        const course = view.courses.find((one) => one.code === code)
        const crumbs = [
          {
            label: course ? `${course.courseCode} ${course.title}` : 'Courses',
            to: course ? `/courses/${course.code}` : '/',
          },
          { label: 'New sheet' },
        ]
        return (
          <Frame title="New sheet" crumbs={crumbs} find={<FindBox />}>
            {course?.role === 'instructor' ? (
              <Awaited of={known} what="the lists" elsewhere="/">
                {(own) => (
                  <Saying
                    key={code}
                    course={{ ...course, lists: own.lists }}
                    onLists={() => void known.mutate()}
                  />
                )}
              </Awaited>
            ) : (
              <p className="p-8 text-soft">
                Instructors of the course begin sheets. <Link to="/">Back to your courses</Link>
              </p>
            )}
          </Frame>
        )
      }}
    </Awaited>
  )
}

interface OwnCourse extends Class {
  code: string
  courseCode: string
  sheets: readonly Earlier[]
}

function Saying({ course, onLists }: { course: OwnCourse; onLists: () => void }) {
  const navigate = useNavigate()
  const act = useAct()
  const unsent = useUnsent<Sentence>(`new sheet ${course.code} sentence`, FIRST_SENTENCE)
  const [listing, setListing] = useState(false)
  const [carrying, setCarrying] = useState(false)
  // What was begun before a part of the sentence was known lacks it.
  const said = { ...FIRST_SENTENCE, ...unsent.value }
  const change = (more: Partial<Sentence>) => unsent.write({ ...said, ...more })
  const earlier = course.sheets.find(({ code }) => code === said.after?.sheet)
  const same = said.after?.how === 'same' ? earlier : undefined
  const sum = sumOf(said, course)
  const wrong = wrongWith(said, course)
  const made = said.road === 'made'
  const begin = async () => {
    if (wrong.length > 0) return
    const done = await act.do({
      work: () =>
        same
          ? call(
              copySheet,
              { sheet: same.code },
              {
                course: course.code,
                title: said.title.trim(),
                opensAt: null,
                people: true,
                tasks: false,
                road: 'made',
              },
            )
          : call(addSheet, { course: course.code }, newSheetOf(said, course)),
      beside: true,
    })
    if (done.fault) return
    unsent.drop()
    const sheet = done.answer.code
    const takeBack = async () => {
      const gone = await call(deleteSheet, { sheet }).then(
        () => true,
        () => false,
      )
      if (!gone) return void toast.error('It could not be taken back. Delete it in its menu, in Compose.')
      navigate(`/courses/${course.code}/sheets/new`)
    }
    toast(`“${done.answer.title}” is begun. Nobody sees it before you publish it.`, {
      duration: 10_000,
      action: { label: 'Undo', onClick: () => void takeBack() },
    })
    const { by, n, mixed, pattern, letters } = said
    const making = by === 'topics' || same ? null : { by, n, mixed, pattern, letters }
    const fresh = said.after?.how === 'fresh' ? [said.after.sheet] : []
    if (made) navigate(`/sheets/${sheet}/settle`, { state: { making, fresh } })
    else navigate(`/sheets/${sheet}/compose`)
  }
  return (
    <>
      <form
        className="grid flex-1 grid-cols-[minmax(0,1fr)_26.25rem] max-lg:grid-cols-1"
        onSubmit={(event) => {
          event.preventDefault()
          void begin()
        }}
      >
        <div className="px-14 py-10 max-sm:px-4 max-sm:py-6">
          <h1 className="sr-only">New sheet in {course.courseCode}</h1>
          <SentenceForm
            said={said}
            course={course}
            wrong={wrong}
            change={change}
            onNewList={() => setListing(true)}
          />
          {act.fault && (
            <p role="alert" className="mt-4 font-semibold text-ember">
              {act.fault.message}
            </p>
          )}
        </div>
        <aside
          aria-label="What it comes to"
          className="border-l border-line bg-surface px-7 py-8 max-lg:border-t max-lg:border-l-0 max-sm:px-4"
        >
          {same ? <Carried sheet={same} /> : <Coming said={said} sum={sum} />}
          <div className="mt-6 flex flex-wrap items-center gap-4">
            {same && (
              <Button look="main" disabled={wrong.length > 0} onClick={() => setCarrying(true)}>
                Publish the groups…
              </Button>
            )}
            <Button type="submit" look={same ? 'plain' : 'main'} busy={act.busy} disabled={wrong.length > 0}>
              {made ? 'See the groups' : 'Write the sheet'}
            </Button>
            {said.by !== 'topics' && !same && (
              <button
                type="button"
                className="font-semibold text-seat hover:underline"
                onClick={() => change({ by: 'topics' })}
              >
                Write topics instead
              </button>
            )}
          </div>
        </aside>
      </form>
      {/* Beside the form: what is sent in a dialog is not sent with the sentence. */}
      {listing && (
        <ListAsk
          course={course.code}
          onClose={() => setListing(false)}
          onMade={(list) => {
            setListing(false)
            onLists()
            change({ forWhom: 'list', list })
          }}
        />
      )}
      {carrying && same && (
        <CarryOnAsk
          course={course.code}
          title={said.title.trim()}
          sheet={same}
          onClose={() => setCarrying(false)}
          onOut={unsent.drop}
        />
      )}
    </>
  )
}

/** What a sheet comes to that goes on in the groups of another. */
function Carried({ sheet }: { sheet: Earlier }) {
  const sizes = sheet.groups.map(({ taken }) => taken).filter((taken) => taken > 0)
  return (
    <>
      <p className="flex items-center gap-4">
        <strong className="figures font-display text-[3.25rem] leading-none">{sizes.length}</strong>
        <span>
          <span className="block text-soft">groups go on from “{sheet.title}”</span>
          <strong className="font-semibold">{saySizes(sizes.toSorted((a, b) => b - a))}</strong>
        </span>
      </p>
      <div className="mt-4 flex flex-wrap gap-x-2.5 gap-y-1.5">
        {sizes.slice(0, DRAWN).map((size, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a group that is not made yet is its place
          <PipRow key={i} taken={size} seats={size} />
        ))}
      </div>
      <p className="mt-4 border-t tear pt-3 text-soft">
        Topics, rules and group pages are copied; tasks too, if you say so when you publish. To look at
        everything first, press See the groups.
      </p>
    </>
  )
}

/** Groups that are drawn; of more, how many there are. */
const DRAWN = 60

/** The sums of the sentence, and what comes into being. */
function Coming({ said, sum }: { said: Sentence; sum: Sum }) {
  const { people, shares, groups } = sum
  const sizes = shares.flatMap((share) => share.sizes)
  const made = said.road === 'made'
  const rows: [string, string][] = [
    [
      'Groups',
      made
        ? `${groups}, drawn evenly; change any of them before they go out`
        : `${groups} on ${sum.titles.length} ${sum.titles.length === 1 ? 'topic' : 'topics'}, ${sum.seats} ${sum.seats === 1 ? 'seat' : 'seats'} each`,
    ],
    ['Seen by', `${people} ${people === 1 ? 'student' : 'students'}, once you publish`],
    [
      'Chosen',
      made
        ? 'by nobody: you make them, and no window is needed'
        : 'by students, within a window that you set',
    ],
    [
      'Group pages',
      said.extras.length === 0
        ? 'members and tasks'
        : `members and tasks, ${said.extras.map((extra) => EXTRA_WORDS[extra].toLowerCase()).join(', ')}`,
    ],
    ...(made ? [['Newcomers', 'join the smallest group by themselves'] as [string, string]] : []),
    ...(talks(said) && said.subject.trim() !== ''
      ? [['First subject', `“${said.subject.trim()}”, in every group`] as [string, string]]
      : []),
    [
      'First task',
      said.task.trim() === ''
        ? 'added under Work, once the sheet is begun'
        : `“${said.task.trim()}”, ${dueWords(said.due)}; all of it is set under Work`,
    ],
  ]
  return (
    <>
      <p className="flex items-center gap-4" aria-live="polite">
        <strong className="figures font-display text-[3.25rem] leading-none">{groups}</strong>
        <span>
          <span className="block text-soft">
            {groups === 1 ? 'group' : 'groups'} for {people} {people === 1 ? 'student' : 'students'}
          </span>
          <strong className="font-semibold">{sizes.length > 0 ? saySizes(sizes) : 'none yet'}</strong>
        </span>
      </p>
      {shares.length > 1 && (
        <ul className="figures mt-2 text-soft">
          {shares.map((share) => (
            <li key={share.section ?? ''}>
              {share.name}: {counted(share.people, 'student')}, {saySizes(share.sizes)}
            </li>
          ))}
        </ul>
      )}
      <div className="mt-4 flex flex-wrap gap-x-2.5 gap-y-1.5">
        {sizes.slice(0, DRAWN).map((size, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a group that is not made yet is its place
          <PipRow key={i} taken={made ? size : 0} seats={made ? size : sum.seats} />
        ))}
        {sizes.length > DRAWN && <span className="text-soft">and {sizes.length - DRAWN} more</span>}
      </div>
      <h2 className="mt-5 border-t tear pt-4 text-lg">What comes into being</h2>
      <dl className="mt-1 grid grid-cols-[6.5rem_1fr]">
        {rows.map(([what, words]) => (
          <div key={what} className="col-span-2 grid grid-cols-subgrid border-b tear py-2 last:border-0">
            <dt className="text-soft">{what}</dt>
            <dd className="font-semibold">{words}</dd>
          </div>
        ))}
      </dl>
    </>
  )
}

/** When the first task is due, as far as it was typed. */
function dueWords(due: string): string {
  const at = sentTime(due)
  return at === null || typedFault(due) !== null ? 'without a due time' : `due ${sayTyped(at)}`
}

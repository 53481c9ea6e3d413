import { type FormEvent, useState } from 'react'
import { Link, useParams } from 'react-router'
import { type CourseView, course as courseRoute } from '../../../contract/courses.ts'
import {
  addProgram,
  endProgram,
  MOST_TOKENS,
  type ProgramsView,
  type ProgramToken,
  programs,
} from '../../../contract/programs.ts'
import { LIMITS } from '../../../core/limits.ts'
import { sayInstant, sayInstantWithYear } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'
import { call } from '../../data/call.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { useAct } from '../../kit/Acting.tsx'
import { copied } from '../../kit/Addresses.tsx'
import { Ask } from '../../kit/Ask.tsx'
import { Awaited } from '../../kit/Awaited.tsx'
import { Button } from '../../kit/Button.tsx'
import { Card } from '../../kit/Card.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { BOX, Field } from '../../kit/Field.tsx'
import { Frame } from '../../kit/Frame.tsx'
import { FindBox } from '../FindBox.tsx'

/** The tokens with which programs act in a course: made, seen once, and ended. */
export function ProgramsPage() {
  const { course: code = '' } = useParams()
  const course = useAnswer(courseRoute, { course: code })
  const answer = useAnswer(programs, { course: code })
  return (
    <Awaited
      of={{
        data: course.data && answer.data && { course: course.data, view: answer.data },
        error: course.error ?? answer.error,
        mutate: () => {
          void course.mutate()
          void answer.mutate()
        },
      }}
      what="the tokens"
      elsewhere={`/courses/${code}`}
    >
      {({ course, view }) => (
        <Frame
          title={`Programs of ${course.courseCode}`}
          crumbs={[
            { label: `${course.courseCode} ${course.title}`, to: `/courses/${course.code}` },
            { label: 'Programs' },
          ]}
          find={<FindBox />}
        >
          <Programs
            course={course}
            view={view}
            put={(next) => void answer.mutate(next, { revalidate: false })}
          />
        </Frame>
      )}
    </Awaited>
  )
}

function Programs({
  course,
  view,
  put,
}: {
  course: CourseView
  view: ProgramsView
  put: (view: ProgramsView) => void
}) {
  const [made, setMade] = useState<string | null>(null)
  const [ending, setEnding] = useState<ProgramToken | null>(null)
  const act = useAct()
  const end = async ({ code, name }: ProgramToken) => {
    await act.do({
      work: () => call(endProgram, { course: course.code, program: code }),
      put,
      said: `The token “${name}” lets nobody in any more.`,
    })
    setEnding(null)
  }
  return (
    <div className="mx-auto flex w-full max-w-[62rem] flex-col gap-5 px-10 py-6 max-sm:px-4">
      <div>
        <h1 className="text-[1.625rem]">Programs</h1>
        <p className="max-w-[44rem] text-soft">
          With a token a program of yours reads this course, or changes it too, as you may: it fetches who
          sits where, makes sheets, seats people. What can be asked is described in{' '}
          <Link className="font-semibold text-seat underline underline-offset-2" to="/programs">
            what programs can do
          </Link>
          .
        </p>
      </div>
      {made !== null && <Made token={made} onClose={() => setMade(null)} />}
      <Card title="Tokens">
        {view.tokens.length === 0 ? (
          <p className="text-soft">None. No program reaches this course.</p>
        ) : (
          <ul>
            {view.tokens.map((token) => (
              <li
                key={token.code}
                className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-b tear py-2 last:border-0"
              >
                <span className="min-w-0">
                  <strong className="block wrap-anywhere">{token.name}</strong>
                  <span className="block text-sm text-soft">
                    {[
                      token.mayWrite ? 'reads and writes' : 'reads only',
                      `made ${sayInstantWithYear(token.madeAt, course.zone)} by ${token.by}`,
                      token.usedAt === null
                        ? 'never used'
                        : `last used ${sayInstant(token.usedAt, course.zone)}, to the hour`,
                    ].join(' · ')}
                  </span>
                </span>
                <Button size="small" onClick={() => setEnding(token)}>
                  End token<span className="sr-only"> {token.name}</span>
                </Button>
              </li>
            ))}
          </ul>
        )}
      </Card>
      {view.tokens.length < MOST_TOKENS && course.archivedAt === null && (
        <NewToken course={course} put={put} onMade={setMade} />
      )}
      {ending && (
        <Ask
          open
          title={`End the token “${ending.name}”?`}
          yes="End token"
          busy={act.busy}
          onYes={() => void end(ending)}
          onNo={() => setEnding(null)}
        >
          <p>The program that has it is let in no more, at once. A token cannot be taken up again.</p>
        </Ask>
      )}
    </div>
  )
}

function NewToken({
  course,
  put,
  onMade,
}: {
  course: CourseView
  put: (view: ProgramsView) => void
  onMade: (token: string) => void
}) {
  const act = useAct()
  const unsent = useUnsent(`program ${course.code}`, { name: '', mayWrite: false })
  const draft = unsent.value
  const make = async (event: FormEvent) => {
    event.preventDefault()
    const done = await act.do({
      work: () => call(addProgram, { course: course.code }, draft),
      put: ({ tokens }) => put({ tokens }),
      said: 'The token is made. Copy it now: it is not shown again.',
      beside: true,
    })
    if (done.fault) return
    unsent.drop()
    onMade(done.answer.token)
  }
  return (
    <Card title="New token">
      <form className="flex flex-col gap-3" onSubmit={(event) => void make(event)}>
        <Field
          label="What it is for"
          placeholder="Timetable of the department"
          maxLength={LIMITS.title}
          value={draft.name}
          onChange={({ target }) => unsent.write({ ...draft, name: target.value })}
          fault={act.fault?.field('name')}
        />
        <label className="flex items-center gap-2">
          It may
          <Choice
            value={draft.mayWrite ? 'write' : 'read'}
            onValue={(value) => unsent.write({ ...draft, mayWrite: value === 'write' })}
          >
            <option value="read">read only</option>
            <option value="write">read and write</option>
          </Choice>
        </label>
        {act.fault && !act.fault.field('name') && (
          <p role="alert" className="text-ember">
            {act.fault.message}
          </p>
        )}
        <div>
          <Button type="submit" look="main" busy={act.busy} disabled={draft.name.trim() === ''}>
            Make token
          </Button>
        </div>
      </form>
    </Card>
  )
}

/** A token that was just made: it is seen here and nowhere else. */
function Made({ token, onClose }: { token: string; onClose: () => void }) {
  return (
    <section aria-labelledby="made" className="rounded-card border border-seat bg-seat-soft p-4">
      <h2 id="made" className="text-lg">
        The new token
      </h2>
      <p className="text-soft">
        It is shown this once. Keep it as you keep a password: whoever has it does what it may.
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        <input
          readOnly
          aria-label="Token"
          value={token}
          onFocus={({ target }) => target.select()}
          className={`${BOX} min-w-0 flex-1 basis-72 font-mono`}
        />
        <Button
          look="main"
          onClick={() => void copied(token, 'The token is copied.', 'Select the token and copy it by hand.')}
        >
          Copy token
        </Button>
        <Button onClick={onClose}>Close</Button>
      </div>
    </section>
  )
}

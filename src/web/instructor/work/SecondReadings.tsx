import { Dialog } from 'radix-ui'
import { type FormEvent, useState } from 'react'
import { Link } from 'react-router'
import { drawSecondReading, endSecondReading } from '../../../contract/marks.ts'
import type { WorkView } from '../../../contract/tasks.ts'
import { measuresApart } from '../../../core/secondReading.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button, ButtonLink } from '../../kit/Button.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { Field } from '../../kit/Field.tsx'
import { FormBox } from '../../kit/FormBox.tsx'
import { FormFault } from '../../kit/FormFault.tsx'
import { workName } from './workName.ts'

type Task = WorkView['tasks'][number]

/** A second reading of a few works drawn by lot: what waits for the reader, and for instructors how the two measures compare. */
export function SecondReadings({ view, put }: { view: WorkView; put: (view: WorkView) => void }) {
  const mine = view.tasks.filter(({ second }) => second.some(({ reader }) => reader === view.you))
  const [drawing, setDrawing] = useState(false)
  const drawn = view.tasks.filter(({ second }) => second.length > 0)
  const markable = view.tasks.some(({ work }) => work.some(({ marked }) => marked))
  if (mine.length === 0 && !(view.mayEdit && markable)) return null
  return (
    <section aria-labelledby="second" className="flex flex-col gap-2">
      <div className="flex flex-wrap items-center gap-3">
        <h2 id="second" className="text-lg">
          A second reading
        </h2>
        {view.mayEdit && markable && (
          <Button size="small" onClick={() => setDrawing(true)}>
            Draw a second reading
          </Button>
        )}
      </div>
      {mine.map((task) => {
        const own = task.second.filter(({ reader }) => reader === view.you)
        const left = own.filter(({ read }) => !read).length
        return (
          <p key={task.code} className="flex flex-wrap items-center gap-3">
            {left === 0
              ? `You have read all ${own.length} that were drawn for you of “${task.title}”.`
              : `${left} of “${task.title}” ${left === 1 ? 'waits' : 'wait'} for your second reading.`}
            <ButtonLink
              size="small"
              look={left > 0 ? 'main' : 'plain'}
              to={`/sheets/${view.code}/tasks/${task.code}/second`}
            >
              To the second reading<span className="sr-only"> of {task.title}</span>
            </ButtonLink>
          </p>
        )
      })}
      {view.mayEdit && drawn.length === 0 && (
        <p className="text-soft">
          A few works drawn by lot, read again by somebody who does not see the first mark: so you see whether
          two people measure alike. It changes no mark.
        </p>
      )}
      {view.mayEdit && drawn.map((task) => <Compared key={task.code} view={view} task={task} put={put} />)}
      {drawing && <DrawAsk view={view} put={put} onClose={() => setDrawing(false)} />}
    </section>
  )
}

/** First and second points of what was drawn of a task, and how far they lie apart. */
function Compared({ view, task, put }: { view: WorkView; task: Task; put: (view: WorkView) => void }) {
  const act = useAct()
  const { count, mean, most } = measuresApart(task.second)
  const waiting = task.second.filter(({ read }) => !read).length
  const params = { sheet: view.code, task: task.code }
  const nameOf = (code: string) => view.staff.find((one) => one.code === code)?.name ?? 'somebody who left'
  const end = () =>
    act.do({
      work: () => call(endSecondReading, { ...params, lot: 'all' }),
      put,
      said: 'What nobody has read is not asked for any more.',
    })
  return (
    <div className="flex flex-col gap-1">
      <h3 className="text-base">
        {task.title}{' '}
        <span className="font-sans text-sm font-normal text-soft">
          {task.second.length} drawn, lot number{' '}
          {[...new Set(task.second.map((one) => one.lotNumber))].join(', ')}
        </span>
      </h3>
      <p className="text-soft">
        {mean === null
          ? 'None of them is read a second time yet.'
          : `${count} read twice: the second is ${mean === 0 ? 'on average the same' : `on average ${Math.abs(mean)} ${mean > 0 ? 'higher' : 'lower'}`}, and at most ${most} apart.`}
      </p>
      <div className="overflow-x-auto">
        <table className="text-left">
          <caption className="sr-only">First and second points for {task.title}</caption>
          <thead className="text-sm text-soft">
            <tr>
              <th scope="col" className="py-1 pr-4 font-semibold">
                Work
              </th>
              <th scope="col" className="py-1 pr-4 font-semibold">
                Marked by
              </th>
              <th scope="col" className="py-1 pr-4 text-right font-semibold">
                First
              </th>
              <th scope="col" className="py-1 pr-4 font-semibold">
                Read again by
              </th>
              <th scope="col" className="py-1 pr-4 text-right font-semibold">
                Second
              </th>
              <th scope="col" className="py-1 text-right font-semibold">
                Apart
              </th>
            </tr>
          </thead>
          <tbody>
            {task.second.map(({ owner, reader, first, second }) => (
              <tr key={owner} className="border-t border-line">
                <th scope="row" className="py-1 pr-4 font-semibold">
                  <Link
                    to={`/sheets/${view.code}/tasks/${task.code}/desk?pile=${owner}`}
                    className="text-seat underline underline-offset-2"
                  >
                    {workName(view, owner)}
                  </Link>
                </th>
                <td className="py-1 pr-4">{task.work.find((one) => one.owner === owner)?.markedBy ?? ''}</td>
                <td className="figures py-1 pr-4 text-right">{first ?? '–'}</td>
                <td className="py-1 pr-4">{nameOf(reader)}</td>
                <td className="figures py-1 pr-4 text-right">{second ?? '–'}</td>
                <td className="figures py-1 text-right font-bold">
                  {first === null || second === null ? '' : Math.abs(second - first)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {waiting > 0 && (
        <div>
          <Button size="small" look="quiet" busy={act.busy} onClick={() => void end()}>
            End the {waiting} that {waiting === 1 ? 'is' : 'are'} not read
          </Button>
        </div>
      )}
    </div>
  )
}

interface Draft {
  task: string
  reader: string
  count: string
}

/** How many are drawn, of which task, and who reads them. */
function DrawAsk({
  view,
  put,
  onClose,
}: {
  view: WorkView
  put: (view: WorkView) => void
  onClose: () => void
}) {
  const tasks = view.tasks.filter(({ work }) => work.some(({ marked }) => marked))
  const others = view.staff.filter(({ code }) => code !== view.you)
  const [draft, setDraft] = useState<Draft>({
    task: tasks.at(-1)?.code ?? '',
    reader: others[0]?.code ?? view.you,
    count: '3',
  })
  const act = useAct()
  const draw = async (event: FormEvent) => {
    event.preventDefault()
    const params = { sheet: view.code, task: draft.task }
    const lotsOf = ({ tasks }: WorkView) =>
      new Set(tasks.find(({ code }) => code === draft.task)?.second.map(({ lotNumber }) => lotNumber))
    const known = lotsOf(view)
    let lot = ''
    const done = await act.do({
      work: async () => {
        const next = await call(drawSecondReading, params, {
          count: Number(draft.count),
          reader: draft.reader,
        })
        lot = String([...lotsOf(next)].find((one) => !known.has(one)) ?? '')
        return next
      },
      undo: () => call(endSecondReading, { ...params, lot }),
      put,
      said:
        draft.reader === view.you
          ? 'They are drawn; they wait for you below.'
          : 'They are drawn; whoever reads them is told by mail.',
      beside: true,
    })
    if (!done.fault) onClose()
  }
  return (
    <FormBox
      title="Draw a second reading"
      words="Drawn by lot from the works that somebody else has marked whole. The reader does not see the first marks."
      onClose={onClose}
      onSubmit={draw}
    >
      <div className="flex flex-col gap-1">
        <label htmlFor="second-task" className="text-sm font-semibold text-soft">
          Task
        </label>
        <Choice id="second-task" value={draft.task} onValue={(task) => setDraft({ ...draft, task })}>
          {tasks.map(({ code, title }) => (
            <option key={code} value={code}>
              {title}
            </option>
          ))}
        </Choice>
      </div>
      <div className="flex flex-col gap-1">
        <label htmlFor="second-reader" className="text-sm font-semibold text-soft">
          Read by
        </label>
        <Choice id="second-reader" value={draft.reader} onValue={(reader) => setDraft({ ...draft, reader })}>
          {view.staff.map(({ code, name }) => (
            <option key={code} value={code}>
              {name}
            </option>
          ))}
        </Choice>
      </div>
      <Field
        label="How many"
        inputMode="numeric"
        value={draft.count}
        onChange={({ target }) => setDraft({ ...draft, count: target.value })}
        fault={act.fault?.field('count')}
        className="max-w-24"
      />
      <FormFault fault={act.fault} fields={['count']} />
      <div className="flex justify-end gap-2 border-t tear pt-4">
        <Dialog.Close asChild>
          <Button>Cancel</Button>
        </Dialog.Close>
        <Button type="submit" look="main" busy={act.busy}>
          Draw them
        </Button>
      </div>
    </FormBox>
  )
}

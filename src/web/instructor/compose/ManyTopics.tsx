import { Tabs } from 'radix-ui'
import { type ChangeEvent, useMemo, useState } from 'react'
import type { ComposeView } from '../../../contract/sheets.ts'
import { addTopics, type NewTopic, removeTopic } from '../../../contract/topics.ts'
import { readTopicsCsv, writeTopicsCsv } from '../../../core/formats/topicsCsv.ts'
import { NO_LIMIT } from '../../../core/limit.ts'
import { LIMITS } from '../../../core/limits.ts'
import { call, type Fault } from '../../data/call.ts'
import { download } from '../../data/download.ts'
import { readText } from '../../data/readText.ts'
import { Button } from '../../kit/Button.tsx'
import { Area } from '../../kit/Field.tsx'
import { sayLocal } from './cells.tsx'
import { Generator } from './Generator.tsx'
import type { Composing } from './useComposing.ts'

const TAB =
  'min-h-9 border-b-2 border-transparent px-1 font-semibold text-soft data-[state=active]:border-seat data-[state=active]:text-ink'

/** Many topics at once: pasted or from a file, or made by a pattern; looked at before they are added. */
export function ManyTopics({
  view,
  composing,
  pasted,
  onClose,
}: {
  view: ComposeView
  composing: Composing
  pasted: string
  onClose: () => void
}) {
  const room = LIMITS.topics - view.topics.length
  const [fault, setFault] = useState<Fault | null>(null)
  const add = async (topics: NewTopic[]) => {
    const known = new Set(view.topics.map(({ code }) => code))
    const added: string[] = []
    const sheet = view.code
    const { fault: refused } = await composing.do({
      work: async () => {
        const next = await call(addTopics, { sheet }, { topics })
        added.splice(
          0,
          added.length,
          ...next.topics.map(({ code }) => code).filter((code) => !known.has(code)),
        )
        return next
      },
      undo: async (confirmed) => {
        let last: ComposeView | null = null
        for (const topic of added) last = await call(removeTopic, { sheet, topic }, { confirmed })
        return last ?? view
      },
      said: topics.length === 1 ? '1 topic was added.' : `${topics.length} topics were added.`,
      beside: true,
    })
    setFault(refused)
    if (refused) return
    onClose()
  }
  return (
    <section aria-label="Many topics at once" className="border-y border-line bg-canvas px-4 py-3">
      <Tabs.Root defaultValue="list">
        <div className="mb-3 flex items-center justify-between gap-3">
          <Tabs.List className="flex gap-5" aria-label="Where the topics come from">
            <Tabs.Trigger value="list" className={TAB}>
              From a list
            </Tabs.Trigger>
            <Tabs.Trigger value="pattern" className={TAB}>
              By a pattern
            </Tabs.Trigger>
          </Tabs.List>
          <span className="flex gap-2">
            {view.topics.length > 0 && (
              <Button
                size="small"
                look="quiet"
                onClick={() => download(`${view.title} topics.csv`, exported(view), 'text/csv')}
              >
                Save the topics as CSV
              </Button>
            )}
            <Button size="small" look="quiet" onClick={onClose}>
              Close
            </Button>
          </span>
        </div>
        <Tabs.Content value="list">
          <FromList view={view} room={room} pasted={pasted} onAdd={add} />
        </Tabs.Content>
        <Tabs.Content value="pattern">
          <Generator room={room} onAdd={add} />
        </Tabs.Content>
      </Tabs.Root>
      {fault && (
        <p role="alert" className="mt-2 text-ember">
          {fault.problem.errors?.[0]?.message ?? fault.message}
        </p>
      )}
    </section>
  )
}

function exported({ topics, course }: ComposeView): string {
  return writeTopicsCsv(
    topics.map((topic) => ({
      ...topic,
      seats: topic.seats === NO_LIMIT ? ('none' as const) : topic.seats,
      startsAt: sayLocal(topic.startsAt, course.zone) || null,
      endsAt: sayLocal(topic.endsAt, course.zone) || null,
    })),
  )
}

function FromList({
  view,
  room,
  pasted,
  onAdd,
}: {
  view: ComposeView
  room: number
  pasted: string
  onAdd: (topics: NewTopic[]) => Promise<void>
}) {
  const [text, setText] = useState(pasted)
  const reading = useMemo(
    () =>
      text.trim() === ''
        ? null
        : readTopicsCsv(
            text,
            view.topics.map(({ title }) => title),
            room,
          ),
    [text, view.topics, room],
  )
  const choose = async (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0]
    event.target.value = ''
    if (file) setText(await readText(file))
  }
  const lines = reading?.readable ? reading.lines : []
  const faults = reading?.readable ? reading.faults : []
  const wrong = new Set(faults.map(({ line }) => line)).size
  return (
    <div className="flex flex-col gap-3">
      <p className="text-soft">
        One topic per line, as copied from a spreadsheet or saved as CSV: title, brief, seats, floor, date,
        start, end, place, link. Only the title is needed; a first line may name the columns.
      </p>
      <Area
        label="Topics as text"
        rows={4}
        spellCheck={false}
        value={text}
        onChange={(event) => setText(event.target.value)}
        placeholder={
          'Sourdough, wild yeast\tThree starters over four weeks\t4\nTempeh\tNeeds the warm cabinet\t3'
        }
        fault={reading && !reading.readable ? reading.message : undefined}
        className="font-mono text-sm"
      />
      {(lines.length > 0 || faults.length > 0) && (
        <div className="max-h-60 overflow-auto rounded-field border border-line bg-surface">
          <table className="w-full border-collapse text-left text-sm">
            <caption className="sr-only">What would be added</caption>
            <tbody>
              {faults.map(({ line, field, found, message }) => (
                <tr key={`${line}${field}${message}`} className="border-b border-line">
                  <td className="figures px-3 py-1 font-semibold text-ember">line {line}</td>
                  <td className="px-3 py-1">{found || <span className="text-faint">nothing</span>}</td>
                  <td className="px-3 py-1 text-ember" colSpan={3}>
                    {message}
                  </td>
                </tr>
              ))}
              {lines.map(({ line, title, brief, seats, startsAt, place }) => (
                <tr key={line} className="border-b border-line last:border-0">
                  <td className="figures px-3 py-1 text-faint">line {line}</td>
                  <td className="px-3 py-1 font-semibold">{title}</td>
                  <td className="max-w-60 truncate px-3 py-1 text-soft">{brief}</td>
                  <td className="figures px-3 py-1">{seats ?? <span className="text-faint">common</span>}</td>
                  <td className="figures px-3 py-1 text-soft">
                    {[startsAt?.replace('T', ' '), place].filter(Boolean).join(', ')}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <div className="flex flex-wrap gap-2">
        {lines.length > 0 && (
          <Button look="main" onClick={() => void onAdd(lines.map(({ line: _, ...topic }) => topic))}>
            {lines.length === 1 ? 'Add 1 topic' : `Add ${lines.length} topics`}
            {wrong > 0 && `, leave out ${wrong} wrong`}
          </Button>
        )}
        <label className="inline-flex min-h-9 cursor-pointer items-center rounded-field border border-line-strong bg-surface px-3.5 font-semibold focus-within:outline-2 focus-within:outline-offset-2 focus-within:outline-seat hover:border-open">
          Choose a file
          <input
            type="file"
            accept=".csv,.tsv,.txt,text/csv"
            className="sr-only"
            onChange={(event) => void choose(event)}
          />
        </label>
      </div>
    </div>
  )
}

import { Tabs } from 'radix-ui'
import { useMemo, useState } from 'react'
import type { ComposeView } from '../../../contract/sheets.ts'
import { addTopics, type NewTopic, removeTopic } from '../../../contract/topics.ts'
import { readTopicsCsv, writeTopicsCsv } from '../../../core/formats/topicsCsv.ts'
import type { DayOrder } from '../../../core/formats/when.ts'
import { NO_LIMIT } from '../../../core/limit.ts'
import { LIMITS } from '../../../core/limits.ts'
import { call, type Fault } from '../../data/call.ts'
import { download } from '../../data/download.ts'
import { Button } from '../../kit/Button.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { Area } from '../../kit/Field.tsx'
import { TableFile } from '../../tables/TableFile.tsx'
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

/** A slot as it was read: `2026-05-13 22:00 to 2026-05-14 01:00`. */
function slotWords(startsAt: string | null, endsAt: string | null): string {
  if (startsAt === null) return ''
  const from = startsAt.replace('T', ' ')
  if (endsAt === null) return from
  const sameDay = endsAt.slice(0, 10) === startsAt.slice(0, 10)
  return `${from} to ${sameDay ? endsAt.slice(11) : endsAt.replace('T', ' ')}`
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
  /** Whether days or months come first, where somebody said it. */
  const [days, setDays] = useState<DayOrder | undefined>(undefined)
  const reading = useMemo(
    () =>
      text.trim() === ''
        ? null
        : readTopicsCsv(
            text,
            view.topics.map(({ title }) => title),
            room,
            { days, zone: view.course.zone },
          ),
    [text, view.topics, view.course.zone, room, days],
  )
  const lines = reading?.readable ? reading.lines : []
  const faults = reading?.readable ? reading.faults : []
  const wrong = new Set(faults.map(({ line }) => line)).size
  return (
    <div className="flex flex-col gap-3">
      <p className="text-soft">
        One topic per line, from a spreadsheet or CSV file, or copied from one: title, brief, seats, floor,
        date, start, end, place, link, end date. Only the title is needed; a first line may name the columns.
        Days and times are read as they are usually written, a slot may go over midnight.
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
      {reading?.readable && (reading.days.doubtful || days !== undefined) && (
        <label className="flex flex-wrap items-center gap-2 rounded-field bg-sun-soft px-3 py-1.5">
          <span>Days such as 05/06/2026 are written with the</span>
          <Choice
            value={days ?? ''}
            onValue={(value) => setDays(value === '' ? undefined : (value as DayOrder))}
          >
            <option value="">…</option>
            <option value="day-first">day first (5 June)</option>
            <option value="month-first">month first (May 6)</option>
          </Choice>
        </label>
      )}
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
              {lines.map(({ line, title, brief, seats, startsAt, endsAt, place }) => (
                <tr key={line} className="border-b border-line last:border-0">
                  <td className="figures px-3 py-1 text-faint">line {line}</td>
                  <td className="px-3 py-1 font-semibold">{title}</td>
                  <td className="max-w-60 truncate px-3 py-1 text-soft">{brief}</td>
                  <td className="figures px-3 py-1">{seats ?? <span className="text-faint">common</span>}</td>
                  <td className="figures px-3 py-1 text-soft">
                    {[slotWords(startsAt, endsAt), place].filter(Boolean).join(', ')}
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
        <TableFile label="Choose a file" file="Table of topics" size="medium" onText={setText} />
      </div>
    </div>
  )
}

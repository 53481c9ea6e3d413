import { Fragment, useMemo, useState } from 'react'
import { run, sheetAddresses } from '../../../contract/seats.ts'
import type { ComposeView } from '../../../contract/sheets.ts'
import type { NewTopic } from '../../../contract/topics.ts'
import type { TopicColumn, TopicPerson } from '../../../core/formats/topicLine.ts'
import { readTopicsCsv } from '../../../core/formats/topicsCsv.ts'
import type { DayOrder } from '../../../core/formats/when.ts'
import { useAnswer } from '../../data/answers.ts'
import { Button } from '../../kit/Button.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { Area } from '../../kit/Field.tsx'
import { ColumnChoices, type PointedColumns, type WantedColumn } from '../../tables/ColumnChoices.tsx'
import { TableFile } from '../../tables/TableFile.tsx'
import { groupWords, sentTopic, slotWords } from './topicsFile.ts'

const WANTED: WantedColumn<TopicColumn>[] = [
  { column: 'title', label: 'Title' },
  { column: 'brief', label: 'Brief' },
  { column: 'section', label: 'Section' },
  { column: 'seats', label: 'Seats' },
  { column: 'floor', label: 'Floor' },
  { column: 'date', label: 'Date' },
  { column: 'start', label: 'Start' },
  { column: 'end', label: 'End' },
  { column: 'end date', label: 'End date' },
  { column: 'place', label: 'Place' },
  { column: 'link', label: 'Link' },
  { column: 'offered', label: 'Offered' },
  { column: 'one group for', label: 'One group for' },
  { column: 'kept free', label: 'Kept free' },
]

/** Topics from a file, or pasted as text: read, looked at with what is wrong in which line, and added. */
export function TopicsFromList({
  view,
  room,
  pasted,
  onAdd,
}: {
  view: ComposeView
  /** Topics that the sheet can still hold. */
  room: number
  pasted: string
  onAdd: (topics: NewTopic[]) => Promise<void>
}) {
  const [text, setText] = useState(pasted)
  /** Whether days or months come first, where somebody said it. */
  const [days, setDays] = useState<DayOrder | undefined>(undefined)
  const [pointed, setPointed] = useState<PointedColumns<TopicColumn>>({ columns: {} })
  /** Open once it was needed: it stays so while columns are pointed out. */
  const [pointing, setPointing] = useState(false)
  const people = usePeople(view.code)
  const { topics, sections, mixed, seats, course } = view
  const reading = useMemo(
    () =>
      text.trim() === ''
        ? null
        : readTopicsCsv(
            text,
            topics.map(({ title }) => title),
            room,
            { ...pointed, days, zone: course.zone, sections, mixed, seats, people },
          ),
    [text, topics, sections, mixed, seats, course.zone, people, room, days, pointed],
  )
  const write = (next: string) => {
    setText(next)
    // Another file is another table.
    if (next.trim() === '') setPointed({ columns: {} })
  }
  const lines = reading?.readable ? reading.lines : []
  const faults = reading?.readable ? reading.faults : []
  const wrong = new Set(faults.map(({ line }) => line)).size
  const nameOf = (code: string) => people?.find((one) => one.code === code)?.name ?? ''
  const sectionOf = (code: string | null) => sections.find((one) => one.code === code)?.name
  const header = reading?.header ?? []
  return (
    <div className="flex flex-col gap-3">
      <p className="text-soft">
        One topic per line, from a spreadsheet or CSV file, or copied from one: title, brief, seats, floor,
        date, start, end, place, link, end date. Only the title is needed; a first line may name the columns.
        A line with a section says what differs there.
      </p>
      <Area
        label="Topics as text"
        rows={4}
        spellCheck={false}
        value={text}
        onChange={(event) => write(event.target.value)}
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
      {reading?.readable &&
        reading.notes.map((note) => (
          <p key={note} className="rounded-field bg-sun-soft px-3 py-1.5">
            {note}
          </p>
        ))}
      {header.length > 0 && (
        <details
          className="rounded-field border border-line bg-surface px-3 py-1.5"
          open={pointing || reading?.readable === false}
          onToggle={(event) => setPointing(event.currentTarget.open)}
        >
          <summary className="cursor-pointer font-semibold">
            Which column is which{' '}
            <span className="font-normal text-soft">
              {reading?.readable && (reading.headed ? 'by the headings' : 'in the order above')}
            </span>
          </summary>
          <fieldset className="mt-1 mb-1 flex flex-wrap gap-3">
            <legend className="sr-only">Which column is which</legend>
            <ColumnChoices
              wanted={WANTED}
              header={header}
              found={reading?.columns ?? {}}
              headed={reading?.readable ? reading.headed : pointed.headings !== 'none'}
              aLine="is a topic"
              pointed={pointed}
              onChange={setPointed}
            />
          </fieldset>
        </details>
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
              {lines.map(
                ({ line, title, brief, seats: own, mixed: spread, startsAt, endsAt, place, groups }) => (
                  <Fragment key={line}>
                    <tr className="border-b border-line last:border-0">
                      <td className="figures px-3 py-1 text-faint">line {line}</td>
                      <td className="px-3 py-1 font-semibold">{title}</td>
                      <td className="max-w-60 truncate px-3 py-1 text-soft">{brief}</td>
                      <td className="figures px-3 py-1">
                        {own ?? <span className="text-faint">common</span>}
                      </td>
                      <td className="figures px-3 py-1 text-soft">
                        {[
                          slotWords(startsAt, endsAt),
                          place,
                          spread !== null && (spread ? 'one group for everybody' : 'a group in each section'),
                        ]
                          .filter(Boolean)
                          .join(', ')}
                      </td>
                    </tr>
                    {groups.map((group) => (
                      <tr key={group.section} className="border-b border-line text-soft last:border-0">
                        <td className="figures px-3 py-1 text-faint">
                          {group.line !== line && `line ${group.line}`}
                        </td>
                        <td className="py-1 pr-3 pl-7">{sectionOf(group.section) ?? 'Everybody'}</td>
                        <td className="px-3 py-1" colSpan={3}>
                          {groupWords(group, nameOf)}
                        </td>
                      </tr>
                    ))}
                  </Fragment>
                ),
              )}
            </tbody>
          </table>
        </div>
      )}
      <div className="flex flex-wrap gap-2">
        {lines.length > 0 && (
          <Button look="main" onClick={() => void onAdd(lines.map(sentTopic))}>
            {lines.length === 1 ? 'Add 1 topic' : `Add ${lines.length} topics`}
            {wrong > 0 && `, leave out ${wrong} wrong`}
          </Button>
        )}
        <TableFile
          label="Choose a file"
          file="Table of topics"
          size="medium"
          onText={(next) => {
            setPointed({ columns: {} })
            write(next)
          }}
        />
      </div>
    </div>
  )
}

/** Whom seats can be kept for, with their addresses; null until that is known. */
function usePeople(sheet: string): TopicPerson[] | null {
  const { data: there } = useAnswer(run, { sheet })
  const { data: addressed } = useAnswer(sheetAddresses, { sheet })
  return useMemo(() => {
    if (!there || !addressed) return null
    const emails = new Map(addressed.people.map(({ code, email }) => [code, email]))
    return there.people.map(({ code, name }) => ({ code, name, email: emails.get(code) ?? '' }))
  }, [there, addressed])
}

import { useRef, useState } from 'react'
import { useParams } from 'react-router'
import { exportFile, type LedgerLine, type LedgerView, ledger, undoEntry } from '../../../contract/ledger.ts'
import { fill } from '../../../contract/route.ts'
import { readLocalTime, sayInstant } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'
import { call } from '../../data/call.ts'
import { useLive } from '../../data/live.ts'
import { useSoon } from '../../data/useSoon.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Awaited } from '../../kit/Awaited.tsx'
import { Button, ButtonLink } from '../../kit/Button.tsx'
import { Card } from '../../kit/Card.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { BOX } from '../../kit/Field.tsx'
import { useKey } from '../../kit/keys.ts'
import { ScrollBox } from '../../kit/ScrollBox.tsx'
import { TimeField, TimeInput, typedFault } from '../../kit/TimeField.tsx'
import { useLongTable } from '../../kit/useLongTable.tsx'
import { namingOf } from '../record/naming.ts'
import { causeOf, entryWords, type KindGroup, type Naming } from '../record/words.ts'
import { SheetFrame } from '../SheetFrame.tsx'
import { EVERYTHING, type Sought, soughtIn } from './filter.ts'
import { MomentField } from './MomentField.tsx'

/** The ledger of a sheet: every change, who sat where at a moment, and the files to take elsewhere. */
export function LedgerPage() {
  const { sheet: code = '' } = useParams()
  const answer = useAnswer(ledger, { sheet: code }, { revalidateOnFocus: false })
  const { data, mutate } = answer
  const soon = useSoon(() => void mutate())
  useLive(code, data?.rev ?? null, { seats: () => soon(600), refresh: () => soon(600) })
  return (
    <Awaited of={answer} what="the ledger" elsewhere={`/sheets/${code}`}>
      {(view) => <Ledger view={view} refetch={() => void mutate()} />}
    </Awaited>
  )
}

function Ledger({ view, refetch }: { view: LedgerView; refetch: () => void }) {
  const [sought, setSought] = useState(EVERYTHING)
  const [moment, setMoment] = useState('')
  const naming = namingOf(view)
  const { zone } = view.course
  const lines = soughtIn(view.entries, sought, naming, zone)
  const reading = moment === '' ? null : readLocalTime(moment, zone)
  const at =
    reading === null
      ? null
      : reading.kind === 'one'
        ? reading.instant
        : reading.kind === 'twice'
          ? reading.first
          : null
  return (
    <SheetFrame fit sheet={view}>
      <div className="grid min-h-0 flex-1 grid-cols-[17rem_minmax(0,1fr)] max-lg:grid-cols-1">
        <div className="relative flex min-h-0 flex-col gap-3 overflow-auto border-r border-line p-4 max-lg:border-r-0 max-lg:border-b">
          <Seek view={view} sought={sought} onSeek={setSought} naming={naming} />
          <Card title="Who sat where">
            <TimeField label="Day and time, in the course’s zone" value={moment} onValue={setMoment} />
            {moment !== '' && at === null && typedFault(moment) === null && (
              <p role="alert" className="mt-1 text-sm text-ember">
                That time does not occur in the course’s zone. Choose another.
              </p>
            )}
            {moment !== '' && (
              <Button size="small" className="mt-2" onClick={() => setMoment('')}>
                Back to the entries
              </Button>
            )}
          </Card>
          <Files view={view} />
        </div>
        {at !== null ? (
          <MomentField sheet={view.code} at={at} />
        ) : (
          <Entries view={view} lines={lines} naming={naming} refetch={refetch} />
        )}
      </div>
    </SheetFrame>
  )
}

const KINDS: { value: KindGroup | 'all'; label: string }[] = [
  { value: 'all', label: 'Everything' },
  { value: 'seats', label: 'Seats' },
  { value: 'lines', label: 'Waiting lines' },
  { value: 'asking', label: 'Requests and invitations' },
  { value: 'work', label: 'Tasks, hand-ins and group pages' },
  { value: 'sheet', label: 'The sheet itself' },
]

function Seek({
  view,
  sought,
  onSeek,
  naming,
}: {
  view: LedgerView
  sought: Sought
  onSeek: (sought: Sought) => void
  naming: Naming
}) {
  const search = useRef<HTMLInputElement>(null)
  useKey('/', () => search.current?.focus())
  const groups = view.groups
    .map(({ code }) => ({ code, label: naming.group(code) }))
    .sort((a, b) => a.label.localeCompare(b.label, 'en', { numeric: true }))
  return (
    <section className="flex flex-col gap-2 rounded-card border border-line bg-surface p-3.5">
      <h2 className="text-base">Find</h2>
      <input
        ref={search}
        type="search"
        aria-label="Search by name"
        placeholder="Search by name  /"
        value={sought.typed}
        onChange={({ target }) => onSeek({ ...sought, typed: target.value })}
        className={`${BOX} min-h-9`}
      />
      <Choice
        aria-label="What kind of change"
        value={sought.kind}
        onValue={(value) => onSeek({ ...sought, kind: value as Sought['kind'] })}
      >
        {KINDS.map(({ value, label }) => (
          <option key={value} value={value}>
            {label}
          </option>
        ))}
      </Choice>
      <Choice
        aria-label="Which group"
        value={sought.group}
        onValue={(value) => onSeek({ ...sought, group: value })}
      >
        <option value="">Every group</option>
        {groups.map(({ code, label }) => (
          <option key={code} value={code}>
            {label}
          </option>
        ))}
      </Choice>
      <TimeInput
        time={false}
        aria-label="Which day"
        value={sought.day}
        onValue={(day) => onSeek({ ...sought, day })}
      />
      {sought !== EVERYTHING && (
        <Button size="small" onClick={() => onSeek(EVERYTHING)}>
          Show everything
        </Button>
      )}
    </section>
  )
}

const FILES: { file: string; label: string }[] = [
  { file: 'students.csv', label: 'Students with groups, CSV' },
  { file: 'students.xlsx', label: 'Students with groups, XLSX' },
  { file: 'students.ods', label: 'Students with groups, ODS' },
  { file: 'groups.csv', label: 'Groups with members, CSV' },
  { file: 'groups.xlsx', label: 'Groups with members, XLSX' },
  { file: 'groups.ods', label: 'Groups with members, ODS' },
  { file: 'groups.json', label: 'All of it, JSON' },
  { file: 'seats.ics', label: 'Dated groups, calendar' },
]

function Files({ view }: { view: LedgerView }) {
  return (
    <Card title="Export">
      <ul className="mt-1 flex flex-col">
        {FILES.map(({ file, label }) => (
          <li key={file} className="border-b tear py-1 last:border-0">
            <a
              href={fill(exportFile.path, { sheet: view.code, file })}
              download
              className="text-seat underline underline-offset-2"
            >
              {label}
            </a>
          </li>
        ))}
      </ul>
      <div className="mt-2">
        <ButtonLink size="small" to={`/sheets/${view.code}/doors`}>
          Door list to print
        </ButtonLink>
      </div>
    </Card>
  )
}

const ROW = 54

function Entries({
  view,
  lines,
  naming,
  refetch,
}: {
  view: LedgerView
  lines: readonly LedgerLine[]
  naming: Naming
  refetch: () => void
}) {
  const box = useRef<HTMLElement>(null)
  const { shown, above, below } = useLongTable(box, lines.length, ROW)
  const act = useAct()
  const undo = (line: LedgerLine) =>
    act.do({
      work: (confirmed) =>
        call(undoEntry, { sheet: view.code, position: String(line.position) }, { confirmed }),
      put: refetch,
      refetch,
      ask: { title: 'Undo this change all the same?', yes: 'Undo change' },
      said: 'Undone. The ledger says so too.',
    })
  return (
    <ScrollBox box={box} label="Entries" className="min-h-80 min-w-0 bg-surface">
      <table aria-rowcount={lines.length + 1} className="w-full min-w-[44rem] table-fixed border-collapse">
        <caption className="sr-only">Changes, newest first</caption>
        <thead className="sticky top-0 z-10 bg-surface">
          <tr className="border-b border-line text-left text-soft">
            <th scope="col" style={{ width: '19%' }} className="py-1.5 pr-2 pl-5 font-semibold">
              When
            </th>
            <th scope="col" style={{ width: '17%' }} className="px-2 py-1.5 font-semibold">
              Who
            </th>
            <th scope="col" className="px-2 py-1.5 font-semibold">
              What · {lines.length === 1 ? '1 change' : `${lines.length} changes`}
            </th>
            <th scope="col" style={{ width: '17%' }} className="px-2 py-1.5 font-semibold">
              <span className="sr-only">What can be done</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {above}
          {shown.map((index) => {
            const line = lines[index]
            if (!line) return null
            const cause = causeOf(line, naming)
            return (
              <tr
                key={line.position}
                aria-rowindex={index + 2}
                style={{ height: ROW }}
                className="border-b border-line align-middle [&>*]:px-2"
              >
                <td className="figures truncate !pl-5 text-soft">{sayInstant(line.at, view.course.zone)}</td>
                <td className="truncate">{line.actor ?? 'by itself'}</td>
                <td>
                  <span className={cause === '' ? 'line-clamp-2' : 'line-clamp-1'}>
                    {entryWords(line, naming)}
                  </span>
                  {cause !== '' && <span className="line-clamp-1 text-sm text-soft">{cause}</span>}
                </td>
                <td className="pr-4 text-right">
                  {line.canUndo && view.mayEdit ? (
                    <Button size="small" look="quiet" busy={act.busy} onClick={() => void undo(line)}>
                      Undo
                      <span className="sr-only">: {entryWords(line, naming)}</span>
                    </Button>
                  ) : null}
                </td>
              </tr>
            )
          })}
          {below}
        </tbody>
      </table>
      {lines.length === 0 && <p className="p-6 text-center text-soft">Nothing like that is in the ledger.</p>}
    </ScrollBox>
  )
}

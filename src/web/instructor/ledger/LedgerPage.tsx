import { useVirtualizer } from '@tanstack/react-virtual'
import { useRef, useState } from 'react'
import { Navigate, useParams } from 'react-router'
import { toast } from 'sonner'
import { exportFile, type LedgerLine, type LedgerView, ledger, undoEntry } from '../../../contract/ledger.ts'
import type { Concern } from '../../../contract/problems.ts'
import { fill } from '../../../contract/route.ts'
import { readLocalTime, sayInstant } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'
import { call, faultOf } from '../../data/call.ts'
import { useLive } from '../../data/live.ts'
import { useSoon } from '../../data/useSoon.ts'
import { Ask } from '../../kit/Ask.tsx'
import { Button, ButtonLink } from '../../kit/Button.tsx'
import { BOX } from '../../kit/Field.tsx'
import { Frame } from '../../kit/Frame.tsx'
import { ScrollBox } from '../../kit/ScrollBox.tsx'
import { SpacerRow } from '../../kit/SpacerRow.tsx'
import { Loading, Trouble } from '../../kit/Waiting.tsx'
import { useKey } from '../keys.ts'
import { SheetFrame } from '../SheetFrame.tsx'
import { EVERYTHING, type Sought, soughtIn } from './filter.ts'
import { MomentField } from './MomentField.tsx'
import { namingOf } from './naming.ts'
import { causeOf, entryWords, type KindGroup, type Naming } from './words.ts'

/** The ledger of a sheet: every change, who sat where at a moment, and the files to take elsewhere. */
export function LedgerPage() {
  const { sheet: code = '' } = useParams()
  const { data, error, mutate } = useAnswer(ledger, { sheet: code }, { revalidateOnFocus: false })
  const soon = useSoon(() => void mutate())
  useLive(code, data?.rev ?? null, { seats: () => soon(600), refresh: () => soon(600) })
  if (error?.code === 'not-allowed') return <Navigate replace to={`/sheets/${code}`} />
  if (!data) {
    return (
      <Frame title="">
        {error ? <Trouble fault={error} retry={() => void mutate()} /> : <Loading what="the ledger" />}
      </Frame>
    )
  }
  return <Ledger view={data} refetch={() => void mutate()} />
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
          <section className="rounded-card border border-line bg-surface p-3.5">
            <h2 className="text-base">Who sat where</h2>
            <label className="mt-1 flex flex-col gap-1 text-sm text-soft">
              Day and time, in the course’s zone
              <input
                type="datetime-local"
                value={moment}
                onChange={({ target }) => setMoment(target.value)}
                className={`${BOX} min-h-9 text-ink`}
              />
            </label>
            {moment !== '' && at === null && (
              <p role="alert" className="mt-1 text-sm text-ember">
                That time does not occur in the course’s zone. Choose another.
              </p>
            )}
            {moment !== '' && (
              <Button size="small" className="mt-2" onClick={() => setMoment('')}>
                Back to the entries
              </Button>
            )}
          </section>
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
      <select
        aria-label="What kind of change"
        value={sought.kind}
        onChange={({ target }) => onSeek({ ...sought, kind: target.value as Sought['kind'] })}
        className={`${BOX} min-h-9`}
      >
        {KINDS.map(({ value, label }) => (
          <option key={value} value={value}>
            {label}
          </option>
        ))}
      </select>
      <select
        aria-label="Which group"
        value={sought.group}
        onChange={({ target }) => onSeek({ ...sought, group: target.value })}
        className={`${BOX} min-h-9`}
      >
        <option value="">Every group</option>
        {groups.map(({ code, label }) => (
          <option key={code} value={code}>
            {label}
          </option>
        ))}
      </select>
      <input
        type="date"
        aria-label="Which day"
        value={sought.day}
        onChange={({ target }) => onSeek({ ...sought, day: target.value })}
        className={`${BOX} min-h-9`}
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
  { file: 'groups.csv', label: 'Groups with members, CSV' },
  { file: 'groups.xlsx', label: 'Groups with members, XLSX' },
  { file: 'groups.json', label: 'All of it, JSON' },
  { file: 'seats.ics', label: 'Dated groups, calendar' },
]

function Files({ view }: { view: LedgerView }) {
  return (
    <section className="rounded-card border border-line bg-surface p-3.5">
      <h2 className="text-base">Export</h2>
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
    </section>
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
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 12,
  })
  const [asked, setAsked] = useState<{ line: LedgerLine; concerns: readonly Concern[] } | null>(null)
  const [busy, setBusy] = useState(false)
  const undo = async (line: LedgerLine, confirmed: boolean) => {
    setBusy(true)
    try {
      await call(undoEntry, { sheet: view.code, position: String(line.position) }, { confirmed })
      setAsked(null)
      toast.success('Taken back. The ledger says so too.')
      refetch()
    } catch (error) {
      const fault = faultOf(error)
      if (fault.code === 'seating-needs-care') setAsked({ line, concerns: fault.problem.concerns ?? [] })
      else {
        toast.error(fault.message, { duration: 8_000 })
        refetch()
      }
    } finally {
      setBusy(false)
    }
  }
  const items = rows.getVirtualItems()
  const above = items[0]?.start ?? 0
  const below = rows.getTotalSize() - (items.at(-1)?.end ?? 0)
  return (
    <ScrollBox box={box} label="Entries" className="min-h-80 bg-surface">
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
          {above > 0 && <SpacerRow height={above} />}
          {items.map(({ index }) => {
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
                    <Button size="small" look="quiet" busy={busy} onClick={() => void undo(line, false)}>
                      Undo
                      <span className="sr-only">: {entryWords(line, naming)}</span>
                    </Button>
                  ) : null}
                </td>
              </tr>
            )
          })}
          {below > 0 && <SpacerRow height={below} />}
        </tbody>
      </table>
      {lines.length === 0 && <p className="p-6 text-center text-soft">Nothing like that is in the ledger.</p>}
      <Ask
        open={asked !== null}
        title="Undo this change all the same?"
        yes="Undo change"
        busy={busy}
        onNo={() => setAsked(null)}
        onYes={() => asked && void undo(asked.line, true)}
      >
        <ul className="list-disc pl-5">
          {asked?.concerns.map(({ words }) => (
            <li key={words}>{words}</li>
          ))}
        </ul>
      </Ask>
    </ScrollBox>
  )
}

import { useState } from 'react'
import type { GroupFileView } from '../../contract/files.ts'
import { type GroupPage, removeGroupFile, restoreGroupFile } from '../../contract/groups.ts'
import { sayBytes } from '../../core/files.ts'
import { sayInstant } from '../../core/zone.ts'
import { call } from '../data/call.ts'
import { Bring } from '../files/Bring.tsx'
import { FileLine } from '../files/FileLine.tsx'
import { useAct } from '../kit/Acting.tsx'
import { Button } from '../kit/Button.tsx'
import { SearchBox } from '../kit/SearchBox.tsx'

/** Above this number of files a search is offered. */
const SEARCHED = 12

/** The files of a group, with their versions; those taken away can be brought back. */
export function GroupFiles({
  page,
  put,
  refetch,
}: {
  page: GroupPage
  put: (page: GroupPage) => void
  refetch: () => void
}) {
  const [sought, setSought] = useState('')
  const { extras, bytes, sheet, may } = page
  const at = { sheet: sheet.code, group: page.code }
  const there = page.files.filter(({ removedAt }) => removedAt === null)
  const gone = page.files.filter(({ removedAt }) => removedAt !== null)
  const shown = there.filter(({ name }) => name.toLowerCase().includes(sought.trim().toLowerCase()))
  const act = useAct()
  const back = (file: GroupFileView) => () => call(restoreGroupFile, { ...at, file: file.code })
  const away = (file: GroupFileView) => () => call(removeGroupFile, { ...at, file: file.code })
  const restore = (file: GroupFileView) =>
    act.do({ work: back(file), undo: away(file), put, refetch, said: `“${file.name}” is restored.` })
  const remove = (file: GroupFileView) =>
    act.do({ work: away(file), undo: back(file), put, refetch, said: `“${file.name}” is deleted.` })
  return (
    <section aria-labelledby="files" className="rounded-card border border-line bg-surface">
      <div className="flex flex-wrap items-center justify-between gap-2 px-4 py-3">
        <h2 id="files" className="text-lg">
          Files
        </h2>
        {there.length > SEARCHED && <SearchBox label="Search the files" value={sought} onValue={setSought} />}
      </div>
      <ul className="border-t border-line empty:hidden">
        {shown.map((file) => (
          <li key={file.code} className="border-b border-line px-4 py-1 last:border-0">
            <OneFile page={page} file={file} onRemove={() => void remove(file)} />
          </li>
        ))}
      </ul>
      {there.length === 0 && <p className="border-t tear px-4 py-3 text-soft">No file yet.</p>}
      {there.length > 0 && shown.length === 0 && (
        <p className="border-t tear px-4 py-3 text-soft">No file is called that.</p>
      )}
      {may.write && (
        <div className="border-t tear px-4 py-3">
          <Bring
            sheet={sheet.code}
            aim={{ aim: 'group', group: page.code, task: null }}
            label="Add files"
            hint={`${sayBytes(extras.fileBytes)} each at most; ${sayBytes(Math.max(0, extras.groupBytes - bytes))} of ${sayBytes(extras.groupBytes)} left`}
            onDone={refetch}
          />
        </div>
      )}
      {gone.length > 0 && (
        <details className="border-t border-line px-4 py-2 text-soft">
          <summary className="min-h-9 cursor-pointer py-1.5">
            {gone.length === 1 ? '1 file was deleted' : `${gone.length} files were deleted`}
          </summary>
          <ul>
            {gone.map((file) => (
              <li key={file.code} className="flex min-h-9 flex-wrap items-center justify-between gap-2">
                <span className="wrap-anywhere">
                  {file.name}, {sayInstant(file.removedAt ?? '', sheet.zone)}
                </span>
                {may.write && (
                  <Button size="small" onClick={() => void restore(file)}>
                    Restore<span className="sr-only"> {file.name}</span>
                  </Button>
                )}
              </li>
            ))}
          </ul>
          <p className="text-sm">They are kept for 30 days.</p>
        </details>
      )}
    </section>
  )
}

function OneFile({ page, file, onRemove }: { page: GroupPage; file: GroupFileView; onRemove: () => void }) {
  const [newest, ...earlier] = file.versions
  if (!newest) return null
  const said = (at: string, by: string) => `${by}, ${sayInstant(at, page.sheet.zone)}`
  return (
    <>
      <FileLine
        sheet={page.sheet.code}
        file={newest}
        note={` · ${said(newest.at, newest.by)}${newest.version > 1 ? ` · version ${newest.version}` : ''}`}
      >
        {page.may.write && (
          <Button size="small" look="quiet" onClick={onRemove}>
            Delete<span className="sr-only"> {file.name}</span>
          </Button>
        )}
      </FileLine>
      {earlier.length > 0 && (
        <details className="pl-6 text-sm text-soft">
          <summary className="min-h-8 cursor-pointer py-1">
            {earlier.length === 1 ? '1 version before' : `${earlier.length} versions before`}
          </summary>
          <ul>
            {earlier.map((one) => (
              <li key={one.code}>
                <FileLine
                  sheet={page.sheet.code}
                  file={one}
                  note={` · version ${one.version}, ${said(one.at, one.by)}`}
                />
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  )
}

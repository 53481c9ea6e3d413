import { useMemo, useState } from 'react'
import type { DeskPile, DeskView } from '../../../contract/marks.ts'
import { sayInstant } from '../../../core/zone.ts'
import { FileLine } from '../../files/FileLine.tsx'
import { ShownFile } from '../../files/ShownFile.tsx'
import { Choice } from '../../kit/Choice.tsx'

/** What was handed in, to be read. */
export function WorkInPlace({ pile, view }: { pile: DeskPile; view: DeskView }) {
  const versions = pile.handIns
  const newest = versions.find(({ takenBackAt }) => takenBackAt === null) ?? versions[0]
  const [version, setVersion] = useState<number | null>(null)
  const shown = useMemo(
    () => versions.find((one) => one.version === version) ?? newest,
    [versions, version, newest],
  )
  return (
    <section aria-label="The work" className="min-h-48 flex-1 overflow-auto bg-seat-soft px-5 pt-4">
      <div className="mx-auto min-h-full max-w-3xl rounded-t-card bg-surface px-12 py-8 max-sm:px-5">
        {!shown ? (
          <p className="text-soft">
            {pile.state === 'no-group'
              ? 'Nothing could be handed in: there is no group.'
              : 'Nothing was handed in. It can be marked all the same.'}
          </p>
        ) : (
          <>
            {versions.length > 1 && (
              <label className="mb-4 block text-sm text-soft">
                Version{' '}
                <Choice value={shown.version} onValue={(value) => setVersion(Number(value))}>
                  {versions.map((one) => (
                    <option key={one.version} value={one.version}>
                      {one.version}, {sayInstant(one.handedAt, view.course.zone)}
                      {one.takenBackAt && ', withdrawn'}
                    </option>
                  ))}
                </Choice>
              </label>
            )}
            {shown.text && (
              <p className="text-[1.0625rem] leading-relaxed whitespace-pre-line wrap-anywhere">
                {shown.text}
              </p>
            )}
            {shown.links.length > 0 && (
              <ul className="mt-4">
                {shown.links.map((link) => (
                  <li key={link}>
                    <a
                      href={link}
                      target="_blank"
                      rel="noreferrer"
                      className="text-seat underline underline-offset-2 wrap-anywhere"
                    >
                      {link}
                    </a>
                  </li>
                ))}
              </ul>
            )}
            {shown.files.map((file) => (
              <div key={file.code} className="mt-5 flex flex-col gap-2">
                <FileLine sheet={view.code} file={file} />
                <ShownFile sheet={view.code} file={file} />
              </div>
            ))}
          </>
        )}
      </div>
    </section>
  )
}

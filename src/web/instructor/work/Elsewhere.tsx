import type { DeskPile, DeskView } from '../../../contract/marks.ts'
import type { RemarkView } from '../../../contract/remarks.ts'
import type { HandInView } from '../../../contract/tasks.ts'
import { aboutOf } from '../../../core/remarks.ts'
import { Button } from '../../kit/Button.tsx'
import type { Remarks } from './useRemarks.ts'

/** Remarks whose place is not in the version that is shown, with the way to them, and to a place for them here. */
export function Elsewhere({
  pile,
  view,
  elsewhere,
  shown,
  remarks,
  may,
  onShow,
}: {
  pile: DeskPile
  view: DeskView
  elsewhere: readonly RemarkView[]
  shown: HandInView
  remarks: Remarks
  may: boolean
  onShow: (version: number, code: string) => void
}) {
  if (elsewhere.length === 0) return null
  const withdrawn = new Set(
    pile.handIns.filter(({ takenBackAt }) => takenBackAt !== null).map(({ version }) => version),
  )
  return (
    <section aria-labelledby="elsewhere" className="mt-6 border-t tear pt-4">
      <h2 id="elsewhere" className="text-lg">
        Not in this version
      </h2>
      <p className="text-sm text-soft">
        What these are about was changed or left out. Students read them in the version in which they stand.
      </p>
      <ul className="mt-2 flex flex-col gap-2">
        {elsewhere.map((remark) => {
          const last = remark.stands.findLast(({ version }) => !withdrawn.has(version)) ?? remark.made
          const sameName = shown.files.find(({ name }) => name === remark.fileName)
          const { place } = remark.made
          const here = sameName && place.kind !== 'passage' ? { file: sameName.code, place } : null
          return (
            <li
              key={remark.code}
              className="flex flex-wrap items-baseline gap-x-3 gap-y-1 rounded-field border border-line px-2.5 py-1.5"
            >
              <span className="min-w-0 flex-1 basis-56 wrap-anywhere">
                {[aboutOf(remark, view.task.criteria), remark.words].filter(Boolean).join(': ')}
                <span className="text-sm text-soft">
                  {' '}
                  version {last.version}
                  {withdrawn.has(last.version) && ', withdrawn'}
                  {remark.fileName && `, ${remark.fileName}`}
                </span>
              </span>
              <Button size="small" onClick={() => onShow(last.version, remark.code)}>
                Show it there
              </Button>
              {may && here && shown.takenBackAt === null && (
                <Button
                  size="small"
                  onClick={() => {
                    const { code, edition, words, criterion, points } = remark
                    remarks.write({
                      key: code,
                      version: shown.version,
                      ...here,
                      words,
                      criterion,
                      points: points === null ? '' : String(points),
                      changes: { code, edition },
                      moved: true,
                    })
                  }}
                >
                  Put it at the same place here
                </Button>
              )}
            </li>
          )
        })}
      </ul>
    </section>
  )
}

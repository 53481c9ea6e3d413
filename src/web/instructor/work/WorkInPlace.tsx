import { useState } from 'react'
import type { DeskPile, DeskView } from '../../../contract/marks.ts'
import { remarkedPdf } from '../../../contract/remarks.ts'
import { sayInstant } from '../../../core/zone.ts'
import { address } from '../../data/base.ts'
import { Button } from '../../kit/Button.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { placedIn } from '../../remarks/placed.ts'
import { RemarkedWork, showPlace } from '../../remarks/RemarkedWork.tsx'
import { Said } from '../../remarks/Said.tsx'
import { Elsewhere } from './Elsewhere.tsx'
import { GivenBack } from './GivenBack.tsx'
import { RemarkEditor } from './RemarkEditor.tsx'
import { SharesNote } from './SharesNote.tsx'
import { useRemarks } from './useRemarks.ts'
import { WhoWasThere } from './WhoWasThere.tsx'

/** What was handed in, to be read and remarked on. */
export function WorkInPlace({
  pile,
  view,
  put,
  second,
}: {
  pile: DeskPile
  view: DeskView
  put: (view: DeskView) => void
  /** Whether it is a second reading, which knows nothing of the first. */
  second: boolean
}) {
  return (
    <section
      aria-label="The work"
      // On a phone what is marked as it takes place has its marks first.
      className={`min-h-48 flex-1 overflow-auto bg-seat-soft px-5 pt-4 ${pile.handsIn ? '' : 'max-sm:order-last'}`}
    >
      <div className="mx-auto min-h-full max-w-5xl rounded-t-card bg-surface px-8 py-6 max-sm:px-5">
        {pile.handIns.length === 0 ? (
          <p className="text-soft">
            {pile.state === 'no-group'
              ? 'Nothing could be handed in: there is no group.'
              : pile.handsIn
                ? 'Nothing was handed in. It can be marked all the same.'
                : 'Nothing is handed in for this: it is marked as it takes place.'}
          </p>
        ) : second ? (
          <Read pile={pile} view={view} />
        ) : (
          <Remarked pile={pile} view={view} />
        )}
        {pile.kind === 'group' && pile.countsFor !== 'handed-in' && (
          <WhoWasThere pile={pile} view={view} put={put} />
        )}
        <SharesNote pile={pile} />
        {!second && <GivenBack pile={pile} view={view} />}
      </div>
    </section>
  )
}

/** The version that is shown, the newest that stands unless another is chosen. */
function useVersion(pile: DeskPile) {
  const [chosen, setChosen] = useState<number | null>(null)
  const versions = pile.handIns
  const newest = versions.find(({ takenBackAt }) => takenBackAt === null) ?? versions[0]
  return { shown: versions.find(({ version }) => version === chosen) ?? newest, setChosen }
}

function Versions({
  pile,
  view,
  shown,
  onShown,
}: {
  pile: DeskPile
  view: DeskView
  shown: number
  onShown: (version: number) => void
}) {
  if (pile.handIns.length < 2) return null
  return (
    <label className="text-sm text-soft">
      Version{' '}
      <Choice value={shown} onValue={(value) => onShown(Number(value))}>
        {pile.handIns.map((one) => (
          <option key={one.version} value={one.version}>
            {one.version}, {sayInstant(one.handedAt, view.course.zone)}
            {one.takenBackAt && ', withdrawn'}
          </option>
        ))}
      </Choice>
    </label>
  )
}

/** A work read a second time, without what was said in it. */
function Read({ pile, view }: { pile: DeskPile; view: DeskView }) {
  const { shown, setChosen } = useVersion(pile)
  if (!shown) return null
  return (
    <>
      <div className="mb-4 empty:hidden">
        <Versions pile={pile} view={view} shown={shown.version} onShown={setChosen} />
      </div>
      <RemarkedWork sheet={view.code} handIn={shown} placed={[]} active={null} onActive={() => {}} alone />
    </>
  )
}

function Remarked({ pile, view }: { pile: DeskPile; view: DeskView }) {
  const { shown, setChosen } = useVersion(pile)
  const remarks = useRemarks(view, pile)
  const [active, setActive] = useState<string | null>(null)
  const { data, draft } = remarks
  if (!shown) return null
  const may = pile.mayMark && (data?.mayRemark ?? false)
  const { placed, elsewhere } = placedIn(data?.remarks ?? [], shown)
  const here = draft?.version === shown.version
  const changed = draft?.changes?.code
  const { course, task } = view
  const params = {
    sheet: view.code,
    task: task.code,
    owner: pile.owner,
    file: `version-${shown.version}.pdf`,
  }
  const show = (code: string) => {
    setActive(code)
    showPlace(code)
  }
  return (
    <>
      <div className="mb-4 flex flex-wrap items-center gap-x-4 gap-y-2 text-sm">
        <Versions pile={pile} view={view} shown={shown.version} onShown={setChosen} />
        {may && shown.takenBackAt === null && (
          <span className="text-soft max-sm:hidden">
            Mark a passage, press on a page or drag over a part of it, and write.
          </span>
        )}
        {shown.takenBackAt !== null && (
          <span className="text-sun-ink">This version was withdrawn, so nothing new is said on it.</span>
        )}
        <a
          href={address(remarkedPdf.path, params)}
          download
          className="ml-auto text-seat underline underline-offset-2"
        >
          Download with remarks (PDF)
        </a>
      </div>
      {draft && !here && (
        <p className="mb-3 flex flex-wrap items-center justify-between gap-2 rounded-field bg-sun-soft px-3 py-2 text-sun-ink">
          A remark on version {draft.version} is not saved yet.
          <span className="flex gap-2">
            <Button size="small" onClick={() => setChosen(draft.version)}>
              Show it
            </Button>
            <Button size="small" onClick={() => remarks.write(null)}>
              Discard it
            </Button>
          </span>
        </p>
      )}
      {remarks.error && !data && (
        <p role="alert" className="mb-3 rounded-field bg-sun-soft px-3 py-2 text-sun-ink">
          The remarks cannot be shown now.{' '}
          <Button size="small" onClick={remarks.refetch}>
            Try again
          </Button>
        </p>
      )}
      <RemarkedWork
        sheet={view.code}
        handIn={shown}
        placed={changed && here ? placed.filter(({ remark }) => remark.code !== changed) : placed}
        making={here ? draft : null}
        active={active}
        onActive={setActive}
        onMark={
          may && shown.takenBackAt === null
            ? ({ file, place }) => remarks.begin(shown.version, file, place)
            : undefined
        }
        onMove={(place) => draft && remarks.write({ ...draft, place, moved: draft.changes !== null })}
        editor={<RemarkEditor task={task} remarks={remarks} />}
        nothing={may ? 'What you say of a place stands here, beside it.' : 'No remarks yet.'}
        card={(one) => (
          <Said
            placed={one}
            criteria={task.criteria}
            zone={course.zone}
            active={active === one.remark.code}
            onShow={() => show(one.remark.code)}
          >
            {may && (
              <p className="ml-auto flex gap-1">
                <Button
                  size="small"
                  look="quiet"
                  className="pointer-coarse:min-h-11"
                  onClick={() => {
                    const { file, place, remark } = one
                    remarks.change(remark, { version: shown.version, file, place })
                  }}
                >
                  Edit<span className="sr-only"> remark {one.n}</span>
                </Button>
                <Button
                  size="small"
                  look="quiet"
                  className="pointer-coarse:min-h-11"
                  busy={remarks.busy}
                  onClick={() => void remarks.remove(one.remark)}
                >
                  Remove<span className="sr-only"> remark {one.n}</span>
                </Button>
              </p>
            )}
          </Said>
        )}
      />
      <Elsewhere
        pile={pile}
        view={view}
        elsewhere={elsewhere}
        shown={shown}
        remarks={remarks}
        may={may}
        onShow={(version, code) => {
          setChosen(version)
          setActive(code)
          requestAnimationFrame(() => showPlace(code))
        }}
      />
    </>
  )
}

import { useRef, useState } from 'react'
import { useSWRConfig } from 'swr'
import type { InferType } from 'yup'
import type { DeskPile, DeskView } from '../../../contract/marks.ts'
import {
  addRemark,
  changeRemark,
  type RemarksView,
  type RemarkView,
  type remarkBody,
  remarks,
  removeFeedbackFile,
  removeRemark,
  restoreRemark,
} from '../../../contract/remarks.ts'
import type { RemarkPlace } from '../../../core/remarks.ts'
import { keyOf } from '../../data/answers.ts'
import { call } from '../../data/call.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { useKeptAnswer } from '../../data/useKeptAnswer.ts'
import { useAct } from '../../kit/Acting.tsx'
import { toast } from '../../kit/toast.ts'

/** A remark while it is written: where, what, and which it changes. It is kept in the tab until it is saved. */
export interface RemarkDraft {
  /** What the page calls it. */
  key: string
  version: number
  file: string | null
  place: RemarkPlace
  words: string
  criterion: string | null
  /** As it was typed. */
  points: string
  /** The remark that is changed, and the edition that was looked at; null for a new one. */
  changes: { code: string; edition: number } | null
  /** Whether a remark that is changed gets this place. */
  moved: boolean
}

type Place = Pick<RemarkDraft, 'version' | 'file' | 'place'>

/** Points as they were typed; null for none. A minus may be any that keyboards have. */
export function typedPoints(typed: string): number | null {
  const even = typed.trim().replace(/^[−–]/, '-').replace(',', '.')
  return even === '' ? null : Number(even)
}

/** The remarks on one work, and everything that is done with them at the desk. */
export function useRemarks(view: DeskView, pile: DeskPile) {
  const params = { sheet: view.code, task: view.task.code, owner: pile.owner }
  const answer = useKeptAnswer(remarks, params, { refreshInterval: 5_000, keepPreviousData: false })
  const { mutate: mutateAny } = useSWRConfig()
  const act = useAct()
  const unsent = useUnsent<RemarkDraft | null>(`remark ${view.task.code} ${pile.owner}`, null)
  const put = (next: RemarksView) => void mutateAny(keyOf(remarks, params), next, { revalidate: false })
  const refetch = () => void mutateAny(keyOf(remarks, params))
  const draft = unsent.value
  // How often something was begun here: one that an earlier load left is shown, and does not take the focus.
  const [begun, setBegun] = useState(0)
  const saving = useRef(false)
  const next = useRef<Place | null>(null)
  const beginAt = (at: Place, over: RemarkDraft | null) => {
    act.clear()
    setBegun((n) => n + 1)
    if (over) unsent.write({ ...over, ...at, moved: over.changes !== null })
    else
      unsent.write({
        key: crypto.randomUUID(),
        ...at,
        words: '',
        criterion: null,
        points: '',
        changes: null,
        moved: false,
      })
  }

  return {
    data: answer.data,
    error: answer.error,
    lost: answer.lost,
    draft,
    begun,
    busy: act.busy,
    fault: act.fault,
    refetch,
    write: (next: RemarkDraft | null) => {
      act.clear()
      if (next) unsent.write(next)
      else unsent.drop()
    },
    /** Begins a remark at a place; one that is being written moves there. While one is being saved, it waits for that. */
    begin(version: number, file: string | null, place: RemarkPlace) {
      if (saving.current) next.current = { version, file, place }
      else beginAt({ version, file, place }, draft)
    },
    /** Takes up a remark to change it. */
    change(remark: RemarkView, at: { version: number; file: string | null; place: RemarkPlace }) {
      // One at a time: what is written of another is not lost by it.
      const written = draft !== null && (draft.words !== '' || draft.points !== '')
      if (saving.current || (written && draft.key !== remark.code)) {
        toast.error('Another remark is being written. Save or cancel it first.')
        return
      }
      act.clear()
      setBegun((n) => n + 1)
      const { code, edition, words, criterion, points } = remark
      unsent.write({
        key: code,
        ...at,
        words,
        criterion,
        points: points === null ? '' : String(points),
        changes: { code, edition },
        moved: false,
      })
    },
    /** Saves what is written; true when it is kept. */
    async save(): Promise<boolean> {
      if (!draft || saving.current) return true
      saving.current = true
      const { key, version, file, place, words, criterion, changes, moved } = draft
      const said = { words, criterion, points: typedPoints(draft.points) }
      const before = changes && answer.data?.remarks.find(({ code }) => code === changes.code)
      const done = changes
        ? await act.do({
            work: () =>
              call(
                changeRemark,
                { ...params, remark: changes.code },
                {
                  edition: changes.edition,
                  ...said,
                  move: moved ? { version, file, place } : null,
                },
              ),
            ...(before && {
              undo: () =>
                call(
                  changeRemark,
                  { ...params, remark: before.code },
                  {
                    edition: before.edition + 1,
                    words: before.words,
                    criterion: before.criterion,
                    points: before.points,
                    move: moved ? before.made : null,
                  },
                ),
            }),
            put,
            refetch,
            said: 'The remark is changed.',
            beside: true,
          })
        : await addOne({ key, version, file, place, ...said })
      saving.current = false
      const waits = next.current
      next.current = null
      // What could not be saved stays in its field, wherever was pressed meanwhile.
      if (done.fault) return false
      unsent.drop()
      if (waits) beginAt(waits, null)
      return true
    },
    remove: ({ code }: RemarkView) =>
      act.do({
        work: () => call(removeRemark, { ...params, remark: code }),
        undo: () => call(restoreRemark, { ...params, remark: code }),
        put,
        refetch,
        said: 'The remark is removed.',
      }),
    removeFile: ({ code, name }: { code: string; name: string }) =>
      act.do({
        work: () => call(removeFeedbackFile, { ...params, file: code }),
        put,
        refetch,
        said: `“${name}” is deleted.`,
      }),
  }

  function addOne(body: InferType<typeof remarkBody>) {
    let added = ''
    return act.do({
      work: async () => {
        const known = new Set(answer.data?.remarks.map(({ code }) => code))
        const next = await call(addRemark, params, body)
        added = next.remarks.findLast(({ code }) => !known.has(code))?.code ?? ''
        return next
      },
      undo: () => call(removeRemark, { ...params, remark: added }),
      put,
      refetch,
      said: 'Remarked.',
      beside: true,
    })
  }
}

export type Remarks = ReturnType<typeof useRemarks>

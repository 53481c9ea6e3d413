import { isWebLink } from '../../contract/fields.ts'
import { type OwnTask, type OwnWork, saveDraft } from '../../contract/ownWork.ts'
import { msOf } from '../../core/instant.ts'
import { call } from '../data/call.ts'
import type { DraftRules, Known } from '../data/draft.ts'
import { useDraft, type Writing } from '../data/useDraft.ts'

/** What is written before it is handed in: text, and links one in each line. */
export interface HandInDraft {
  text: string
  links: string
}

/** Milliseconds after the last key at which it is sent. */
const PAUSE = 1_200

/** Links as they are listed, one in each line. */
export function linksIn(lines: string): string[] {
  return lines
    .split('\n')
    .map((link) => link.trim())
    .filter(Boolean)
}

/** What the server has of it; a further version begins with what was handed in. */
function knownIn({ now, tasks }: OwnWork, task: OwnTask): Known<HandInDraft> {
  const work = tasks.find(({ code, group }) => code === task.code && group?.code === task.group?.code)?.work
  const standing = work?.handIns.find(({ takenBackAt }) => takenBackAt === null)
  const { text, links } = work?.draft ?? standing ?? { text: '', links: [] }
  return { value: { text, links: links.join('\n') }, version: work?.draft?.savedAt ?? null, at: msOf(now) }
}

/** What a student or group writes for a task, which keeps itself; written by one at a time. */
export function useHandIn({
  task,
  all,
  put,
  refetch,
}: {
  task: OwnTask
  all: OwnWork
  put: (work: OwnWork) => void
  refetch: () => void
}): Writing<HandInDraft> {
  const group = task.group?.code ?? null
  const rules: DraftRules<HandInDraft> = {
    pause: PAUSE,
    send: async ({ text, links }, version) => {
      // A link that is being typed waits until it is one; the text goes on its own.
      const listed = linksIn(links).filter(isWebLink)
      const over = version === null ? null : String(version)
      const params = { sheet: all.sheet.code, task: task.code }
      const next = await call(saveDraft, params, { group, text, links: listed, over })
      put(next)
      const known = knownIn(next, task)
      return { ...known, value: { ...known.value, links } }
    },
    fetch: refetch,
    meanwhile: ['draft-held', 'draft-changed'],
  }
  return useDraft(`hand-in ${task.code} ${group ?? ''}`, rules, knownIn(all, task))
}

import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import type { Group } from '../sheets/topicStore.ts'
import type { Stores } from '../stores.ts'

/** A subject that the first groups of a sheet get, and the enrolment that opens it. */
export interface FirstSubject {
  title: string
  text: string
  byId: number
}

/**
 * Opens in groups that are new on a sheet what they are to have from the beginning: the sheet's first subject where
 * there was no group before, and else whatever the others have. The caller holds the transaction.
 */
export function openFirst(
  sheetId: number,
  before: readonly Group[],
  added: readonly Group[],
  now: Instant,
  stores: Pick<Stores, 'talk' | 'sheets'>,
): void {
  if (before.length > 0) {
    openShared(before, added, now, stores)
    return
  }
  const kept = stores.sheets.firstSubject(sheetId)
  if (kept === null) return
  const shared = newCode()
  for (const group of added)
    stores.talk.open(group.id, { ...(JSON.parse(kept) as FirstSubject), shared }, now)
}

/**
 * Opens in groups that are new on a sheet whatever subject was opened in all groups before, with its first post. One
 * that was opened in some of them stays theirs. The caller holds the transaction.
 */
function openShared(
  before: readonly Group[],
  added: readonly Group[],
  now: Instant,
  { talk }: Pick<Stores, 'talk'>,
): void {
  if (before.length === 0 || added.length === 0) return
  const [first, ...others] = before.map(({ id }) => talk.ofGroup(id).filter(({ shared }) => shared !== null))
  const inAll = (first ?? []).filter(({ shared }) =>
    others.every((own) => own.some((subject) => subject.shared === shared)),
  )
  for (const { id, title, by_id, shared } of inAll) {
    const text = talk.posts(id)[0]?.text ?? ''
    for (const group of added) talk.open(group.id, { title, byId: by_id, text, shared }, now)
  }
}

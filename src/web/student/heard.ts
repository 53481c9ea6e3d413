import type { CountsEvent } from '../../contract/live.ts'
import type { ClaimAnswer, StudentSheet } from '../../contract/seats.ts'

/** How full a group is, as it was told at a position of the ledger. */
interface Told {
  taken: number
  held: number
  waiting: number
  position: number
}

/** What was told of groups since the view was fetched, by code. */
export type Heard = ReadonlyMap<string, Told>

export const NOTHING_HEARD: Heard = new Map()

/** Adds what the stream told. */
export function hear(before: Heard, { groups }: CountsEvent, position: number): Heard {
  const heard = new Map(before)
  for (const { code, ...told } of groups) {
    if ((heard.get(code)?.position ?? 0) <= position) heard.set(code, { ...told, position })
  }
  return heard
}

/** Adds what a granted claim answered, as told at the answer's position. */
export function hearAnswer(before: Heard, { groups, rev }: ClaimAnswer): Heard {
  const told = groups.map(({ code, taken, held, heldForYou, waiting }) => ({
    code,
    taken,
    held: held + (heldForYou ? 1 : 0),
    waiting,
  }))
  return hear(before, { groups: told }, rev)
}

/** The view with what was told since laid over it. What is older than the view is passed over. */
export function withHeard(view: StudentSheet, heard: Heard): StudentSheet {
  const groups = view.groups.map((group) => {
    const told = heard.get(group.code)
    if (!told || told.position <= view.rev) return group
    const held = Math.max(0, told.held - (group.heldForYou ? 1 : 0))
    if (told.taken === group.taken && told.waiting === group.waiting && held === group.held) return group
    return { ...group, taken: told.taken, waiting: told.waiting, held }
  })
  return { ...view, groups }
}

/** The view after a granted claim: own seats and touched groups anew, all else as it was. */
export function withAnswer(view: StudentSheet, answer: ClaimAnswer): StudentSheet {
  const touched = new Map(answer.groups.map((group) => [group.code, group]))
  const { seats, received, sent } = answer
  return {
    ...view,
    seats,
    received,
    sent,
    groups: view.groups.map((group) => touched.get(group.code) ?? group),
  }
}

import type { RunView } from '../../../contract/seats.ts'

/** Somebody who is picked to be seated, with the seat that would be given up; null for none. */
export interface Pick {
  person: string
  from: string | null
}

/** A pick as one word, to be found by. */
export const pickKey = ({ person, from }: Pick) => `${person}/${from ?? ''}`

/** The pick behind such a word; null where it is none. */
export function pickOf(key: string): Pick | null {
  const [person = '', from = ''] = key.split('/')
  return person === '' ? null : { person, from: from === '' ? null : from }
}

export const samePick = (a: Pick, b: Pick) => a.person === b.person && a.from === b.from

export const isPicked = (picks: readonly Pick[], pick: Pick) => picks.some((one) => samePick(one, pick))

/** The picks with one added, or taken away where it was among them. */
export function toggled(picks: readonly Pick[], pick: Pick): Pick[] {
  return isPicked(picks, pick) ? picks.filter((one) => !samePick(one, pick)) : [...picks, pick]
}

/** The picks with everybody added who stands between two in a list, both included. */
export function withRange(picks: readonly Pick[], list: readonly Pick[], from: Pick, to: Pick): Pick[] {
  const ends = [from, to].map((end) => list.findIndex((one) => samePick(one, end)))
  const [start, end] = [Math.min(...ends), Math.max(...ends)]
  if (start < 0) return toggled(picks, to)
  return [...picks, ...list.slice(start, end + 1).filter((one) => !isPicked(picks, one))]
}

/** Those picks that still stand: people who sit where they were picked, or still have no seat. */
export function standing(picks: readonly Pick[], { seats, people, away }: Standing): Pick[] {
  if (picks.length === 0) return []
  const sits = new Set(seats.map(({ person, group }) => `${person} ${group}`))
  const seated = new Set(seats.map(({ person }) => person))
  const known = new Set([...people, ...away].map(({ code }) => code))
  return picks.filter(({ person, from }) =>
    from === null ? known.has(person) && !seated.has(person) : sits.has(`${person} ${from}`),
  )
}

type Standing = { [K in 'seats' | 'people' | 'away']: RunView[K] }

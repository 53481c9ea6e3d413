import { useState } from 'react'
import { PROBLEMS, type ProblemCode } from '../../contract/problems.ts'
import { refusalFactsOf, refusalWords } from '../../contract/refusals.ts'
import type { Rehearsal } from '../../contract/rehearsal.ts'
import type { StudentSheet } from '../../contract/seats.ts'
import { type ClaimAsk, decideClaim } from '../../core/claim.ts'
import { namesShown } from '../../core/rules.ts'
import { Fault } from '../data/call.ts'
import { serverNow } from '../data/clock.ts'
import { stateAt } from '../data/state.ts'
import { factsFor } from './choices.ts'
import type { SheetSource } from './source.ts'

/** Plays a student's part on a copy of the sheet: the real rules decide, nothing leaves the page. */
export function useRehearsal(start: Rehearsal): SheetSource {
  const [view, setView] = useState(() => dressed(start.view, start))
  const fault = (code: ProblemCode, detail: string) => {
    const { status, title } = PROBLEMS[code]
    return new Fault({ type: 'about:blank', code, title, status, detail })
  }
  return {
    view,
    live: 'live',
    underway: null,
    kept: null,
    stop: () => undefined,
    invitations: null,
    send: async (ask) => {
      const to = 'to' in ask ? view.groups.find(({ code }) => code === ask.to) : undefined
      const verdict = decideClaim(ask, factsFor(view, stateAt(view, serverNow()), to))
      if (!verdict.granted) return fault(verdict.reason, refusalWords(verdict.reason, refusalFactsOf(view)))
      setView(
        dressed(
          ask.kind === 'wait' || ask.kind === 'leave-line' ? lined(view, ask) : moved(view, ask),
          start,
        ),
      )
      return null
    },
    ask: async (from, to, reason) => {
      if (reason.trim() === '') return fault('body-invalid', 'Say why: your instructor decides by it.')
      const request = {
        code: 'rehearsed',
        from,
        to,
        reason,
        state: 'open' as const,
        madeAt: serverNow(),
        answeredAt: null,
      }
      setView({ ...view, request })
      return null
    },
    withdraw: async () => {
      setView({ ...view, request: null })
      return null
    },
  }
}

/** The view after joining a line at its end, or leaving it. */
function lined(
  view: StudentSheet,
  ask: Extract<ClaimAsk<string>, { kind: 'wait' | 'leave-line' }>,
): StudentSheet {
  const code = ask.kind === 'wait' ? ask.to : ask.from
  const groups = view.groups.map((group) => {
    if (group.code !== code) return group
    const waiting = group.waiting + (ask.kind === 'wait' ? 1 : -1)
    return { ...group, waiting, yourPlace: ask.kind === 'wait' ? waiting : null }
  })
  return { ...view, groups }
}

function moved(view: StudentSheet, ask: ClaimAsk<string>): StudentSheet {
  const from = 'from' in ask ? ask.from : null
  const to = 'to' in ask ? ask.to : null
  const kept = view.seats.filter(({ group }) => group !== from)
  return {
    ...view,
    seats:
      to === null
        ? kept
        : [
            ...kept,
            {
              group: to,
              at: serverNow(),
              link: '',
              convener: false,
              mates: null,
              toOffer: 0,
              bound: false,
              unread: 0,
            },
          ],
    groups: view.groups.map((group) => ({
      ...group,
      taken: group.taken + (group.code === to ? 1 : 0) - (group.code === from ? 1 : 0),
    })),
  }
}

/** Shows names as the house rules would with the seats now held. */
function dressed(view: StudentSheet, { names }: Rehearsal): StudentSheet {
  const own = new Set(view.seats.map(({ group }) => group))
  const state = stateAt(view, serverNow())
  return {
    ...view,
    groups: view.groups.map((group) => {
      const readable = namesShown(view.rules.names, {
        state,
        seated: own.size > 0,
        inGroup: own.has(group.code),
      })
      return { ...group, names: readable ? (names[group.code] ?? []) : null }
    }),
  }
}

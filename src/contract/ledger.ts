import { boolean, object } from 'yup'
import { plainRoute, route } from './route.ts'
import type { RunPerson } from './seats.ts'
import type { SheetHead } from './sheets.ts'

/** One entry of a sheet's ledger, ready to be read. */
export interface LedgerLine {
  position: number
  at: string
  /** Who did it; null for a house rule or a waiting line. */
  actor: string | null
  kind: string
  /** Whom it concerns, by code. */
  person: string | null
  /** Groups by code. */
  from: string | null
  to: string | null
  /** What else was noted, by kind. */
  detail: Readonly<Record<string, unknown>>
  /** Whether it is a change of a seat that may be taken back, as things stand now. */
  canUndo: boolean
}

export interface LedgerView extends SheetHead {
  sections: { code: string; name: string }[]
  /** Every topic the sheet ever had, and every group with its topic and section. */
  topics: { code: string; title: string }[]
  groups: { code: string; topic: string; section: string | null }[]
  /** Everybody who is or was on the roster. */
  people: RunPerson[]
  /** Oldest first. */
  entries: LedgerLine[]
  plans: { code: string; title: string }[]
  mayEdit: boolean
}

/** Who sat where at an instant. */
export interface LedgerMoment {
  at: string
  seats: { group: string; person: string; at: string }[]
}

export const undoEntryBody = object({ confirmed: boolean() })

export const ledger = plainRoute<LedgerView>()('GET', '/api/sheets/:sheet/ledger', 'staff')
/** Who sat where at an instant, `:at` in ISO 8601, told from the ledger alone. */
export const ledgerMoment = plainRoute<LedgerMoment>()('GET', '/api/sheets/:sheet/ledger/at/:at', 'staff')
/** Takes one change of a seat back. What that would disturb is asked about first. */
export const undoEntry = route<{ position: number }>()(
  'POST',
  '/api/sheets/:sheet/ledger/:position/undo',
  'instructor',
  undoEntryBody,
)
/**
 * Groups with members, or the roster with groups, as a file: `:file` is `students` or `groups`, with `.csv`, `.xlsx` or `.ods`,
 * or `groups.json`, or `seats.ics`.
 */
export const exportFile = plainRoute<never>()('GET', '/api/sheets/:sheet/export/:file', 'staff')

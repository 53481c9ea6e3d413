import type { Instant } from '../../core/instant.ts'
import type { Config } from '../config.ts'

/** What a rehearsal is begun with. */
export interface Beginning {
  config: Config
  /** A folder of its own, gone with it. */
  folder: string
  socket: string
  sheetId: number
  /** The enrolment of whoever plays: what they may not read is not in it. */
  playerId: number
  /** Whose part is played: an enrolment, or somebody invented in a section. */
  enrolmentId: number | null
  sectionId: number | null
  at: Instant
}

/** What it says once it listens, or where it could not begin. */
export type RehearsalSays = { ready: true; as: string } | { ready: false; why: string }

/** How a request to change seats stands. */
export type RequestState = 'open' | 'granted' | 'declined' | 'withdrawn'

/** A request as the student who made it sees it. */
export interface OwnRequest {
  code: string
  from: string
  /** The group asked for; null asks to be taken out. */
  to: string | null
  reason: string
  state: RequestState
  madeAt: string
  answeredAt: string | null
}

/** An invitation as the student who got it sees it. */
export interface ReceivedInvitation {
  code: string
  /** The group offered, and who answers for it. */
  group: string
  /** Who invites; null where the house rules show nobody’s name. */
  from: string | null
  madeAt: string
}

/** An invitation as the convener who made it sees it. */
export interface SentInvitation {
  code: string
  group: string
  name: string
  state: 'open' | 'declined'
  madeAt: string
}

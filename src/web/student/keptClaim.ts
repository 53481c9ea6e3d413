import type { ClaimAsk } from '../../core/claim.ts'
import { BASE } from '../data/base.ts'
import { whose } from '../data/whose.ts'

/** A claim that was asked and not answered yet, with its key, as it survives a page that is loaded anew. */
export interface KeptClaim {
  key: string
  ask: ClaimAsk<string>
  at: number
}

/** Milliseconds after which a claim that was never answered is no longer what its student wants. */
const WANTED = 10 * 60_000

/** A claim is its student's: whoever signs in next does not go on asking for it. */
const nameOf = (sheet: string) => `haplon.claim.${whose()}.${BASE}${sheet}`

/** The claim on a sheet that still waits for an answer, or null. */
export function keptClaim(sheet: string, now = Date.now()): KeptClaim | null {
  try {
    const kept = JSON.parse(sessionStorage.getItem(nameOf(sheet)) ?? 'null') as KeptClaim | null
    return kept && now - kept.at < WANTED ? kept : null
  } catch {
    return null
  }
}

/** Keeps a claim until it is answered; null when it was. Without storage it lives as long as the page. */
export function keepClaim(sheet: string, claim: KeptClaim | null): void {
  try {
    if (claim) sessionStorage.setItem(nameOf(sheet), JSON.stringify(claim))
    else sessionStorage.removeItem(nameOf(sheet))
  } catch {
    // Storage is off or full: the claim is still sent again for as long as the page is open.
  }
}

import { quiet } from '../data/quiet.ts'

/** Says, on this device, that the letters were brought before. */
const KEPT_AS = 'haplon-letters'

function brought(): boolean {
  try {
    return localStorage.getItem(KEPT_AS) !== null
  } catch {
    return false
  }
}

/**
 * Brings the letters of our own. On a first visit they come when the page stands, so that words are there early on a
 * slow network; the device keeps them, and shows them at once from then on.
 */
export async function bringLetters(): Promise<void> {
  if (!brought()) await quiet()
  await import('./fonts.ts')
  try {
    localStorage.setItem(KEPT_AS, 'here')
  } catch {
    // A browser that keeps nothing is brought them at each first page.
  }
}

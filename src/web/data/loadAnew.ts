/** Milliseconds within which one address is loaded anew by itself only once. */
const APART = 30_000
const KEY = 'haplon.anew'

/**
 * Loads the page anew where the server can be reached and that was not just done for this address.
 * @param asked whether somebody pressed for it, however short ago it was done
 * @returns whether it is on its way
 */
export async function loadAnew(asked?: 'asked'): Promise<boolean> {
  const here = location.pathname
  try {
    const last = JSON.parse(sessionStorage.getItem(KEY) ?? 'null') as { here: string; at: number } | null
    if (!asked && last?.here === here && Date.now() - last.at < APART) return false
    sessionStorage.setItem(KEY, JSON.stringify({ here, at: Date.now() }))
    const { ok } = await fetch(location.href, { method: 'HEAD', cache: 'no-store' })
    if (ok) location.reload()
    return ok
  } catch {
    // Without a storage it could go round for ever, and without a server there is nothing to load.
    return false
  }
}

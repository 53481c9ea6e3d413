/** Light, dark, or as the system says. */
export type Scheme = 'system' | 'light' | 'dark'

const KEPT_AS = 'haplon-scheme'

/** The scheme chosen on this machine. */
export function chosenScheme(): Scheme {
  const kept = localStorage.getItem(KEPT_AS)
  return kept === 'light' || kept === 'dark' ? kept : 'system'
}

/** Chooses a scheme, keeps the choice on this machine, and shows it. */
export function chooseScheme(scheme: Scheme): void {
  if (scheme === 'system') localStorage.removeItem(KEPT_AS)
  else localStorage.setItem(KEPT_AS, scheme)
  showScheme()
}

/** Shows the chosen scheme. */
export function showScheme(): void {
  const scheme = chosenScheme()
  if (scheme === 'system') delete document.documentElement.dataset.scheme
  else document.documentElement.dataset.scheme = scheme
}

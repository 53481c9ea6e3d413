/** Milliseconds after which what can wait begins all the same. */
const LONGEST = 5_000

let settle: () => void = () => {}
const stands = new Promise<void>((resolve) => {
  settle = resolve
})
if (typeof window !== 'undefined') setTimeout(() => settle(), LONGEST)

/** Says that the page stands: what its reader came for is there. */
export function pageStands(): void {
  // After the frame in which it is drawn.
  requestAnimationFrame(() => setTimeout(settle))
}

/** Resolves once the page stands: what can wait until then takes nothing of the network from what is waited for. */
export const quiet = (): Promise<void> => stands

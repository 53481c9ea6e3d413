// How Chromium is started everywhere: for tests, pictures and benchmarks.
import { ensureChromium } from './setup.mjs'

/**
 * Launch options for Playwright with Debian's Chromium.
 * @returns {import('@playwright/test').LaunchOptions}
 */
export function chromiumOptions() {
  const executablePath = process.env.CHROMIUM ?? ensureChromium()
  return {
    ...(executablePath && { executablePath }),
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  }
}

/** Waits until a server answers on its `/healthz`, ten seconds at most. */
export async function untilUp(base) {
  for (let i = 0; i < 50; i++) {
    const up = await fetch(`${base}/healthz`).then(
      ({ ok }) => ok,
      () => false,
    )
    if (up) return
    await new Promise((resolve) => setTimeout(resolve, 200))
  }
  throw new Error(`Nothing answers at ${base}.`)
}

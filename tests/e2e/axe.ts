import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { expect, type Page } from '@playwright/test'

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

/** What axe finds wrong on the page, as lines to read; in the dark it looks at colours, all that the theme changes. */
export async function faults(page: Page): Promise<string[]> {
  // What fades in or out is looked at as it stands, not halfway.
  await page.emulateMedia({ reducedMotion: 'reduce' })
  // Nor what is still on its way.
  await expect(page.getByText(/^Fetching /)).toHaveCount(0)
  await page.evaluate(AXE)
  return page.evaluate(async () => {
    type Found = { violations: { id: string; nodes: { html: string }[] }[] }
    const axe = (window as unknown as { axe: { run: (options: object) => Promise<Found> } }).axe
    const dark = matchMedia('(prefers-color-scheme: dark)').matches
    const { violations } = await axe.run(dark ? { runOnly: ['color-contrast', 'link-in-text-block'] } : {})
    return violations.flatMap(({ id, nodes }) => nodes.map(({ html }) => `${id}: ${html.slice(0, 140)}`))
  })
}

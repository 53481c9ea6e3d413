// Draws the application's icons from the mark, for phones that install it. Run by hand when the mark changes.
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { chromium } from '@playwright/test'
import { chromiumOptions } from './lib/chromium.mjs'
import { root } from './lib/setup.mjs'

const folder = join(root, 'src/web/public')
const mark = readFileSync(join(folder, 'mark.svg'), 'utf8')
const browser = await chromium.launch(chromiumOptions())

/** Draws one icon: the mark on the canvas colour, filling the given share of it. */
async function draw(name, size, share, radius) {
  const page = await browser.newPage({ viewport: { width: size, height: size } })
  await page.setContent(
    `<style>body{margin:0;background:transparent}div{width:${size}px;height:${size}px;display:grid;place-items:center;background:#F4F3F8;border-radius:${radius}px}svg{width:${size * share}px}</style><div>${mark}</div>`,
  )
  await page.screenshot({ path: join(folder, name), omitBackground: true })
  await page.close()
}

await draw('icon-192.png', 192, 0.7, 36)
await draw('icon-512.png', 512, 0.7, 96)
await draw('icon-maskable-512.png', 512, 0.54, 0)
await browser.close()

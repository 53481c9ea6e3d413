// Serves a built application against the database file named by HAPLON_DB.
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { root, say } from './lib/setup.mjs'

if (!existsSync(join(root, 'dist/server/main.js'))) {
  say('Nothing is built yet. Run `npm run build` first.')
  process.exit(1)
}
// This process becomes the server, so that a signal to it reaches the server and nothing is left behind.
process.setSourceMapsEnabled(true)
// npm passes on what ends a service or a terminal's command, and dies of anything else. Whoever it leaves behind ends too.
if (process.env.npm_lifecycle_event === 'start') {
  const npm = process.ppid
  const watch = setInterval(() => {
    if (process.ppid === npm) return
    clearInterval(watch)
    process.kill(process.pid, 'SIGTERM')
  }, 1_000)
  watch.unref()
}
await import('../dist/server/main.js')

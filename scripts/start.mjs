// Serves a built application against the database file named by HAPLON_DB.
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { root, run, say } from './lib/setup.mjs'

if (!existsSync(join(root, 'dist/server/main.js'))) {
  say('Nothing is built yet. Run `npm run build` first.')
  process.exit(1)
}
process.exit(await run(process.execPath, ['--enable-source-maps', 'dist/server/main.js']))

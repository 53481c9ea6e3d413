// One command from a fresh checkout to a running demo: installs, builds, fills the sample data, starts.
import { build } from './build.mjs'
import { run } from './lib/setup.mjs'

if ((await build()) !== 0) process.exit(1)
process.exit(await run(process.execPath, ['--enable-source-maps', 'dist/server/demo.js']))

// For developers: the demo server restarts and the pages reload as the source changes.
import { spawn } from 'node:child_process'
import { bin, ensureDependencies, root } from './lib/setup.mjs'

await ensureDependencies()
const api = { ...process.env, PORT: process.env.HAPLON_API_PORT ?? '4810' }
const children = [
  spawn(bin('tsx'), ['watch', 'src/demo/main.ts'], { cwd: root, stdio: 'inherit', env: api }),
  spawn(bin('vite'), [], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, HAPLON_API: `http://127.0.0.1:${api.PORT}` },
  }),
]
const stop = () => {
  for (const child of children) child.kill('SIGTERM')
}
process.on('SIGINT', stop)
process.on('SIGTERM', stop)
for (const child of children) child.on('exit', stop)

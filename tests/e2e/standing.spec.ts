import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'

const PORT = '4831'
const health = `http://127.0.0.1:${PORT}/healthz`
const isUp = () =>
  fetch(health).then(
    ({ ok }) => ok,
    () => false,
  )

for (const { signal, command, heard } of [
  { signal: 'SIGTERM', command: ['npm', 'start'], heard: 'SIGTERM' },
  { signal: 'SIGHUP', command: [process.execPath, 'scripts/start.mjs'], heard: 'SIGHUP' },
  // npm dies of this one and does not pass it on.
  { signal: 'SIGHUP', command: ['npm', 'start'], heard: 'SIGTERM' },
] as const)
  test(`${command.join(' ')} ends in order on ${signal}, and leaves nobody at its port`, async () => {
    const folder = mkdtempSync(join(tmpdir(), 'haplon-standing-'))
    const { PATH = '', HOME = '' } = process.env
    const started = spawn(command[0], [command[1]], {
      env: { PATH, HOME, PORT, HAPLON_DB: join(folder, 'a.db') },
      stdio: ['ignore', 'pipe', 'ignore'],
    })
    let said = ''
    started.stdout.on('data', (chunk) => {
      said += String(chunk)
    })
    await expect.poll(isUp).toBe(true)
    const ended = once(started, 'exit')
    started.kill(signal)
    await ended
    await expect.poll(isUp).toBe(false)
    expect(said).toContain(`"signal":"${heard}"`)
    rmSync(folder, { recursive: true, force: true })
  })

import { type ChildProcess, spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { setTimeout as pause } from 'node:timers/promises'
import { root } from '../../scripts/lib/setup.mjs'

export interface Server {
  port: number
  /** Highest resident memory so far, MiB. */
  peakMemory: () => number
  memory: () => number
  /** Processor time used so far, milliseconds. */
  processorTime: () => number
  stop: () => Promise<void>
}

/** Starts the built Haplon on a database file. */
export function startHaplon(file: string, port: number, env: Record<string, string> = {}): Promise<Server> {
  return startProcess(['dist/server/main.js'], { HAPLON_DB: file, PORT: String(port), ...env }, port)
}

/** Starts the bare server that answers with so many bytes of JSON. */
export function startBare(answerBytes: number, port: number): Promise<Server> {
  return startProcess(
    ['bench/lib/bare.mjs'],
    { ANSWER_BYTES: String(answerBytes), PORT: String(port), NODE_ENV: 'production' },
    port,
  )
}

/** Starts the bare server that answers as many bytes as it is asked for. */
export function startBareOpening(port: number): Promise<Server> {
  return startProcess(['bench/lib/bareOpening.mjs'], { PORT: String(port), NODE_ENV: 'production' }, port)
}

/** Starts the bare server that writes what it is sent into a folder. */
export function startReceiver(folder: string, port: number): Promise<Server> {
  return startProcess(['bench/lib/receiver.mjs'], { FOLDER: folder, PORT: String(port) }, port)
}

async function startProcess(args: string[], env: Record<string, string>, port: number): Promise<Server> {
  const node = process.env.SERVER_FLAGS?.split(' ') ?? []
  const child = spawn(process.execPath, [...node, ...args], {
    cwd: root,
    stdio: ['ignore', process.env.SERVER_LOG ? 'inherit' : 'ignore', 'inherit'],
    env: { ...process.env, NODE_ENV: 'production', ...env },
  })
  // Whatever ends the benchmark, its servers end with it.
  process.once('exit', () => child.kill('SIGKILL'))
  const ended = new Promise<void>((resolve) => child.once('exit', () => resolve()))
  await untilHealthy(port, child)
  const reading = (name: string) =>
    Number(new RegExp(`${name}:\\s+(\\d+)`).exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1]) /
    1024
  return {
    port,
    peakMemory: () => reading('VmHWM'),
    memory: () => reading('VmRSS'),
    processorTime: () => {
      // Fields 14 and 15 of proc(5), in hundredths of a second; the second field may hold spaces.
      const fields = readFileSync(`/proc/${child.pid}/stat`, 'utf8').split(') ')[1]?.split(' ') ?? []
      return (Number(fields[11]) + Number(fields[12])) * 10
    },
    stop: async () => {
      child.kill('SIGTERM')
      await ended
    },
  }
}

async function untilHealthy(port: number, child: ChildProcess): Promise<void> {
  for (let i = 0; i < 150; i++) {
    const up = await fetch(`http://127.0.0.1:${port}/healthz`).then(
      ({ ok }) => ok,
      () => false,
    )
    if (child.exitCode !== null) throw new Error('the server ended by itself; build first: npm run build')
    if (up) return
    await pause(100)
  }
  throw new Error('the server did not come up')
}

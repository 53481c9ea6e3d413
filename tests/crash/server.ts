import { type ChildProcess, spawn } from 'node:child_process'

/** The real server as a process of its own, on a port of its own, that can be killed and started again. */
export function createCrashServer(port: number): { start(file: string): Promise<string>; kill(): void } {
  let child: ChildProcess | null = null
  return {
    async start(file) {
      child = spawn(process.execPath, ['--import', 'tsx', 'src/server/main.ts'], {
        stdio: 'ignore',
        env: { ...process.env, HAPLON_DB: file, PORT: String(port), HAPLON_LOG: 'silent' },
      })
      const address = `http://127.0.0.1:${port}`
      for (let i = 0; i < 600; i++) {
        const up = await fetch(`${address}/healthz`).then(
          ({ ok }) => ok,
          () => false,
        )
        if (up) return address
        await new Promise((resolve) => setTimeout(resolve, 100))
      }
      throw new Error('the server did not come up')
    },
    kill: () => void child?.kill('SIGKILL'),
  }
}

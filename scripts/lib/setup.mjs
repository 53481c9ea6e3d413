// What every script needs first: dependencies installed, Chromium found. Plain Node, works before `npm ci`.
import { spawn, spawnSync } from 'node:child_process'
import { existsSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

export const root = join(dirname(fileURLToPath(import.meta.url)), '..', '..')

/** Says one line about what is going on. */
export function say(text) {
  process.stdout.write(`${text}\n`)
}

/** Runs a command to its end with its output shown; gives its exit code. */
export function run(command, args, options = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { cwd: root, stdio: 'inherit', ...options })
    const pass = (signal) => child.kill(signal)
    process.on('SIGINT', pass)
    process.on('SIGTERM', pass)
    const end = (code) => {
      process.off('SIGINT', pass)
      process.off('SIGTERM', pass)
      resolve(code)
    }
    child.on('error', () => end(127))
    child.on('exit', (code, signal) => end(signal ? 1 : (code ?? 1)))
  })
}

/** The path of a command that a dependency brings. */
export function bin(name) {
  return join(root, 'node_modules', '.bin', name)
}

/** True when what the lock file names is installed, the database driver built. */
function dependenciesStand() {
  try {
    const read = (path) => JSON.parse(readFileSync(join(root, path), 'utf8')).packages
    const installed = read('node_modules/.package-lock.json')
    const needed = Object.entries(read('package-lock.json')).filter(
      ([path, { optional }]) => path !== '' && !optional,
    )
    const driver = join(root, 'node_modules/better-sqlite3/build/Release/better_sqlite3.node')
    return existsSync(driver) && needed.every(([path, { version }]) => installed[path]?.version === version)
  } catch {
    return false
  }
}

/** Installs the dependencies when they are missing or the lock file has changed since. */
export async function ensureDependencies() {
  if (dependenciesStand()) return
  say('Installing dependencies. The database driver is built from source: the first time takes some minutes.')
  const code = await run('npm', ['ci', '--include=dev', '--no-audit', '--no-fund'])
  if (code === 0) return
  say(
    'The dependencies could not be installed; npm says why above. Needed: Node.js 20.19 or newer, python3, make and g++.',
  )
  process.exit(1)
}

/** Where Chromium is; installs Debian's package when it is missing and this user may. */
export function ensureChromium() {
  const known = [
    process.env.CHROMIUM,
    '/usr/bin/chromium',
    '/usr/bin/chromium-browser',
    '/usr/bin/google-chrome',
  ]
  const found = () => known.find((path) => path && existsSync(path))
  if (found()) return found()
  if (process.getuid?.() === 0 && spawnSync('apt-get', ['--version']).status === 0) {
    say('Installing Chromium with apt-get, for the end-to-end tests.')
    spawnSync('apt-get', ['update'], { stdio: 'inherit' })
    spawnSync('apt-get', ['install', '-y', '--no-install-recommends', 'chromium'], { stdio: 'inherit' })
    if (found()) return found()
  }
  say(
    'The end-to-end tests need Chromium. Install it (on Debian: sudo apt-get install chromium), or set CHROMIUM to its path.',
  )
  return null
}

// Builds the service worker: fills in which files the students' pages need.
import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './setup.mjs'

/** Pages that open without a network: the entry, and whatever these modules are in. */
const STUDENTS =
  /\/src\/web\/(main|HomePage|student\/|group\/|files\/(Bring|FileLine|upload|useUploads)|access\/(LinkPage|SignInPage|PersonMenu)|kit\/)/
const FONT = /latin-wght.*\.woff2$/

/**
 * A Vite plugin that writes `sw.js` beside the pages.
 * @returns {import('vite').Plugin}
 */
export function offlineShell() {
  return {
    name: 'offline-shell',
    apply: 'build',
    // After what is empty once its styles are taken out has gone from the bundle.
    generateBundle: {
      order: 'post',
      handler(_options, bundle) {
        const wanted = new Set()
        const add = (name) => {
          const chunk = bundle[name]
          if (wanted.has(name) || chunk?.type !== 'chunk') return
          wanted.add(name)
          for (const other of chunk.imports) add(other)
        }
        for (const [name, part] of Object.entries(bundle)) {
          if (part.type === 'chunk' && part.moduleIds.some((id) => STUDENTS.test(id))) add(name)
          if (part.type === 'asset' && (name.endsWith('.css') || FONT.test(name))) wanted.add(name)
        }
        const files = [...wanted].sort().map((name) => `/${name}`)
        // Of all files: what was kept of pages of staff goes with the build that it was of.
        const every = Object.keys(bundle).sort().join()
        const version = createHash('sha256').update(every).digest('hex').slice(0, 12)
        const source = readFileSync(join(root, 'src/web/offline.js'), 'utf8')
          .replace('__FILES__', JSON.stringify(files))
          .replace('__VERSION__', version)
        this.emitFile({ type: 'asset', fileName: 'sw.js', source })
      },
    },
  }
}

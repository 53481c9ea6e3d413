// Puts what the reader of PDFs loads by itself (fonts that every reader has, tables of Asian encodings, decoders of
// pictures) beside the pages.
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './setup.mjs'

const FROM = join(root, 'node_modules/pdfjs-dist')
const PARTS = {
  standard_fonts: () => true,
  cmaps: (name) => name.endsWith('.bcmap'),
  wasm: (name) => /\.(wasm|js)$/.test(name),
}

/**
 * A Vite plugin that writes `pdf/` beside the pages.
 * @returns {import('vite').Plugin}
 */
export function pdfParts() {
  return {
    name: 'pdf-parts',
    apply: 'build',
    generateBundle() {
      for (const [folder, wanted] of Object.entries(PARTS)) {
        for (const name of readdirSync(join(FROM, folder)).filter(wanted)) {
          const source = readFileSync(join(FROM, folder, name))
          this.emitFile({ type: 'asset', fileName: `pdf/${folder}/${name}`, source })
        }
      }
    },
  }
}

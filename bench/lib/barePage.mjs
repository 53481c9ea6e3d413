// A bare page of the same framework, built like ours: one list from one answer, no router, no styles of ours. What it
// costs to wait for is the measure for the student's way to a sheet.
import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:http'
import { join } from 'node:path'
import { brotliCompressSync } from 'node:zlib'
import { root } from '../../scripts/lib/setup.mjs'

const HTML = `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Bare</title></head><body><div id="root"></div><script type="module" src="/main.js"></script></body></html>`
const MAIN = `
import { createElement as h, useEffect, useState } from 'react'
import { createRoot } from 'react-dom/client'
function Page() {
  const [groups, setGroups] = useState(null)
  useEffect(() => void fetch('/api/groups').then((answer) => answer.json()).then(setGroups), [])
  if (!groups) return h('p', null, 'Fetching…')
  return h('main', null, h('h1', null, 'Groups'), h('ul', null, groups.map(({ code, title, taken, seats }) =>
    h('li', { key: code }, title, ' ', taken, ' of ', seats, ' ', h('button', null, 'Take a seat')))))
}
createRoot(document.getElementById('root')).render(h(Page))
`

/** Builds the bare page and serves it, compressed; gives its address and a way to end it. */
export async function serveBarePage(port) {
  const { build } = await import('esbuild')
  mkdirSync(join(root, 'dist'), { recursive: true })
  const folder = mkdtempSync(join(root, 'dist/bare-'))
  writeFileSync(join(folder, 'main.jsx'), MAIN)
  await build({
    entryPoints: [join(folder, 'main.jsx')],
    outfile: join(folder, 'out.js'),
    bundle: true,
    minify: true,
    format: 'esm',
    define: { 'process.env.NODE_ENV': '"production"' },
    logLevel: 'error',
  })
  const groups = Array.from({ length: 12 }, (_, i) => ({
    code: `g${i}`,
    title: `Topic ${i}`,
    taken: i % 4,
    seats: 4,
  }))
  const packed = (text) => brotliCompressSync(text)
  const files = {
    '/': ['text/html', packed(HTML)],
    '/main.js': ['text/javascript', packed(readFileSync(join(folder, 'out.js')))],
    '/api/groups': ['application/json', packed(JSON.stringify(groups))],
  }
  const server = createServer((req, res) => {
    const file = files[req.url]
    if (!file) return res.writeHead(404).end()
    res.writeHead(200, { 'Content-Type': file[0], 'Content-Encoding': 'br' }).end(file[1])
  })
  await new Promise((resolve) => server.listen(port, '127.0.0.1', resolve))
  return { address: `http://127.0.0.1:${port}/`, folder, end: () => server.close() }
}

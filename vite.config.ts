import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'
import { offlineShell } from './scripts/lib/offlineShell.mjs'
import { pdfParts } from './scripts/lib/pdfParts.mjs'

const api = process.env.HAPLON_API ?? 'http://127.0.0.1:4810'

export default defineConfig({
  root: 'src/web',
  plugins: [react(), tailwindcss(), offlineShell(), pdfParts()],
  define: { __BUILD__: JSON.stringify(process.env.HAPLON_BUILD ?? '') },
  build: {
    outDir: '../../dist/web',
    emptyOutDir: true,
    sourcemap: true,
    manifest: true,
    rolldownOptions: {
      output: {
        codeSplitting: {
          // What every page needs is one file, and what a student's sheet needs beside it another: on a phone's network
          // each further request costs more than what it brings.
          groups: [
            { name: 'frame', test: /\/src\/web\/main\.tsx$/, priority: 2 },
            { name: 'sheet', test: /\/src\/web\/student\/SheetPage\.tsx$/, priority: 1 },
          ],
        },
      },
    },
  },
  // A rehearsal's pages are those that are built here; its answers come from the server.
  server: { host: '127.0.0.1', proxy: { '/api': api, '^/rehearsal/[^/]+/api/': api, '/healthz': api } },
})

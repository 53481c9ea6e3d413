import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import './theme.css'
import { App } from './app.tsx'
import { REHEARSED } from './data/base.ts'
import { quiet } from './data/quiet.ts'
import { bringLetters } from './kit/letters.ts'
import { showScheme } from './kit/scheme.ts'

showScheme()
void bringLetters().catch(() => {})
// Installed, and open without a network. Not while developing: what is kept would hide what changed.
if (import.meta.env.PROD && !REHEARSED && 'serviceWorker' in navigator) {
  void quiet().then(() => navigator.serviceWorker.register('/sw.js').catch(() => undefined))
}
const root = document.getElementById('root')
if (root) {
  createRoot(root).render(
    <StrictMode>
      <App />
    </StrictMode>,
  )
}

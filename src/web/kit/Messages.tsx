import { useEffect } from 'react'
import { Toaster } from 'sonner'

/** The place where messages in passing are shown; says once that it is there. */
export function Messages({ onShown }: { onShown: () => void }) {
  useEffect(onShown, [onShown])
  return (
    <Toaster
      position="top-center"
      offset={60}
      mobileOffset={64}
      toastOptions={{
        style: {
          background: 'var(--color-ink)',
          color: 'var(--color-canvas)',
          border: '1px solid var(--color-ink)',
          fontFamily: 'var(--font-sans)',
          fontSize: '0.9375rem',
          borderRadius: 'var(--radius-card)',
        },
        actionButtonStyle: {
          background: 'var(--color-canvas)',
          color: 'var(--color-ink)',
          minHeight: '2.75rem',
          padding: '0 0.875rem',
          fontWeight: 600,
        },
      }}
    />
  )
}

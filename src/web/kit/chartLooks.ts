/** How the small box over a chart looks, in the colours of the page. */
export const TOOLTIP = {
  background: 'var(--color-surface)',
  border: '1px solid var(--color-line-strong)',
  borderRadius: 'var(--radius-field)',
  color: 'var(--color-ink)',
}

import type { KeyboardEvent, RefObject } from 'react'

/** Moves between the fields of the table by arrow keys and Enter, moves rows with Alt, and undoes and redoes edits. */
export function useTableKeys(
  table: RefObject<HTMLDivElement | null>,
  {
    rows,
    move,
    undo,
    redo,
  }: { rows: number; move: (from: number, to: number) => void; undo: () => void; redo: () => void },
) {
  /** Goes to a cell of another row in the same column; past the last row to the line for a new topic. */
  const goTo = (row: number, column: string): boolean => {
    const cell = row >= rows ? '[data-cell="new"]' : `[data-cell="${row}:${column}"]`
    const field = table.current?.querySelector<HTMLElement>(cell)
    field?.focus()
    return field !== null && field !== undefined
  }
  const onKeyDown = (event: KeyboardEvent<HTMLDivElement>) => {
    const field = event.target as HTMLInputElement | HTMLTextAreaElement
    if (event.key.toLowerCase() === 'z' && (event.ctrlKey || event.metaKey)) {
      // While something typed is not kept yet, the browser's own undo takes the letters back.
      if (field.dataset.typed || (field.dataset.cell === 'new' && field.value !== '')) return
      event.preventDefault()
      if (event.shiftKey) redo()
      else undo()
      return
    }
    const [row = '', column = ''] = (field.dataset.cell ?? '').split(':')
    if (column === '') return
    const index = Number(row)
    const step = { ArrowUp: -1, ArrowDown: 1, Enter: 1 }[event.key]
    if (step === undefined || event.nativeEvent.isComposing) return
    if (event.altKey && event.key !== 'Enter') {
      const to = index + step
      event.preventDefault()
      if (to < 0 || to >= rows) return
      move(index, to)
      requestAnimationFrame(() => goTo(to, column))
      return
    }
    const severalLines = field.value.includes('\n')
    if (event.shiftKey || (severalLines && event.key !== 'Enter')) return
    if (goTo(index + (event.key === 'Enter' && event.ctrlKey ? -1 : step), column)) event.preventDefault()
  }
  return { onKeyDown, goTo }
}

import { useVirtualizer } from '@tanstack/react-virtual'
import type { ReactNode, RefObject } from 'react'

export interface LongTable {
  /** The rows in sight, and some around them, by their number. */
  shown: number[]
  /** Takes the true height of a row; needed only where rows differ. Such a row has `data-index`. */
  measure: (row: Element | null) => void
  /** Stand for the rows above and below that are out of sight; to be put around the rows. */
  above: ReactNode
  below: ReactNode
}

/**
 * The rows of a long table that are in sight, so that thousands scroll as ten do.
 * @param box what scrolls
 * @param row the usual height of a row, in pixels
 * @param around rows that are there beyond each edge
 */
export function useLongTable(
  box: RefObject<HTMLElement | null>,
  count: number,
  row: number,
  around = 12,
): LongTable {
  const rows = useVirtualizer({
    count,
    getScrollElement: () => box.current,
    estimateSize: () => row,
    overscan: around,
  })
  const items = rows.getVirtualItems()
  const last = items.at(-1)
  return {
    shown: items.map(({ index }) => index),
    measure: rows.measureElement,
    above: <Spacer height={items[0]?.start ?? 0} />,
    below: <Spacer height={last ? rows.getTotalSize() - last.end : 0} />,
  }
}

function Spacer({ height }: { height: number }) {
  if (height <= 0) return null
  return (
    <tr>
      <td style={{ height, padding: 0 }} />
    </tr>
  )
}

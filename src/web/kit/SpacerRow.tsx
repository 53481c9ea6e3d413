/** Stands for the rows of a long table that are out of sight. */
export function SpacerRow({ height }: { height: number }) {
  return (
    <tr>
      <td style={{ height, padding: 0 }} />
    </tr>
  )
}

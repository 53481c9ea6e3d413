/** Haplon's mark: four people in their seats, one seat free, one person on the way. */
export function Mark() {
  return (
    <svg viewBox="0 0 28 24" className="h-6 w-7" aria-hidden="true">
      <g className="fill-seat">
        <rect x="0" y="3" width="7" height="9" rx="2.2" />
        <rect x="9" y="3" width="7" height="9" rx="2.2" />
        <rect x="0" y="14" width="7" height="9" rx="2.2" />
        <rect x="9" y="14" width="7" height="9" rx="2.2" />
      </g>
      <rect
        x="18.8"
        y="14.8"
        width="5.4"
        height="7.4"
        rx="1.8"
        className="fill-none stroke-open"
        strokeWidth="1.6"
      />
      <rect
        x="19"
        y="1"
        width="7"
        height="9"
        rx="2.2"
        className="fill-ember"
        transform="rotate(14 22.5 5.5)"
      />
    </svg>
  )
}

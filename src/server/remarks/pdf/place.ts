import type { Area, Spot } from '../../../core/remarks.ts'

/** A page as PDF knows it: the box that is shown, in points from the lower left, and how far it is turned for reading. */
export interface PageBox {
  x: number
  y: number
  width: number
  height: number
  /** Degrees clockwise: 0, 90, 180 or 270. */
  turned: number
}

/**
 * A point on a page as it is read (parts of its width and height, from the upper left) in the page's own coordinates.
 * @see ISO 32000-1, 7.7.3.3 (Rotate) and 8.3.2
 */
export function pointOn(
  { x, y, width, height, turned }: PageBox,
  at: { x: number; y: number },
): { x: number; y: number } {
  const [u, v] =
    turned === 90
      ? [at.y, at.x]
      : turned === 180
        ? [1 - at.x, at.y]
        : turned === 270
          ? [1 - at.y, 1 - at.x]
          : [at.x, 1 - at.y]
  return { x: x + u * width, y: y + v * height }
}

/** The box of an area in the page's own coordinates, from its lower left. A spot has none. */
export function boxOn(
  page: PageBox,
  place: Area | Spot,
): { x: number; y: number; width: number; height: number } {
  const { width, height } = place.kind === 'area' ? place : { width: 0, height: 0 }
  const a = pointOn(page, place)
  const b = pointOn(page, { x: place.x + width, y: place.y + height })
  return {
    x: Math.min(a.x, b.x),
    y: Math.min(a.y, b.y),
    width: Math.abs(a.x - b.x),
    height: Math.abs(a.y - b.y),
  }
}

/**
 * How a picture is turned for looking at it, as a matrix on the unit square from its lower left: EXIF 2.3, tag 0x0112.
 * @param orientation 1 to 8; anything else is as it is
 */
export function turnedPicture(orientation: number): [number, number, number, number, number, number] {
  switch (orientation) {
    case 2:
      return [-1, 0, 0, 1, 1, 0]
    case 3:
      return [-1, 0, 0, -1, 1, 1]
    case 4:
      return [1, 0, 0, -1, 0, 1]
    case 5:
      return [0, -1, -1, 0, 1, 1]
    case 6:
      return [0, -1, 1, 0, 0, 1]
    case 7:
      return [0, 1, 1, 0, 0, 0]
    case 8:
      return [0, 1, -1, 0, 1, 0]
    default:
      return [1, 0, 0, 1, 0, 0]
  }
}

import {
  Apple,
  Beer,
  Carrot,
  Cherry,
  Croissant,
  Droplet,
  Fish,
  Flame,
  FlaskConical,
  Grape,
  Leaf,
  type LucideIcon,
  Microscope,
  Milk,
  Moon,
  Snail,
  Snowflake,
  Soup,
  Sprout,
  Sun,
  Wheat,
} from 'lucide-react'
import { EMBLEMS, type Emblem as EmblemName } from '../../core/extras.ts'

const DRAWINGS: Record<EmblemName, LucideIcon> = {
  wheat: Wheat,
  grape: Grape,
  apple: Apple,
  carrot: Carrot,
  cherry: Cherry,
  milk: Milk,
  beer: Beer,
  croissant: Croissant,
  soup: Soup,
  flask: FlaskConical,
  microscope: Microscope,
  leaf: Leaf,
  sprout: Sprout,
  droplet: Droplet,
  flame: Flame,
  snowflake: Snowflake,
  sun: Sun,
  moon: Moon,
  fish: Fish,
  snail: Snail,
}

/** A group's emblem on its seat-shaped ground; nothing where it has none. */
export function Emblem({ name, size = 'medium' }: { name: string; size?: 'small' | 'medium' }) {
  const known = EMBLEMS.find((one) => one === name)
  if (!known) return null
  const Drawing = DRAWINGS[known]
  const box = size === 'small' ? 'h-7 w-5.5' : 'h-12 w-9'
  return (
    <span
      aria-hidden="true"
      className={`inline-flex shrink-0 items-center justify-center rounded-field bg-seat text-on-seat ${box}`}
    >
      <Drawing className={size === 'small' ? 'size-3.5' : 'size-5'} />
    </span>
  )
}

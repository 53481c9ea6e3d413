import { ToggleGroup } from 'radix-ui'
import type { Shown } from './GroupCell.tsx'

const CHOICES: { value: Shown; label: string }[] = [
  { value: 'pips', label: 'Pips' },
  { value: 'initials', label: 'Initials' },
  { value: 'names', label: 'Names' },
]

/** Chooses how the people of each group are shown. */
export function ShownAs({ shown, onShown }: { shown: Shown; onShown: (shown: Shown) => void }) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label="Show people as"
      value={shown}
      onValueChange={(value) => value && onShown(value as Shown)}
      className="flex rounded-field border border-line-strong p-px text-[0.8125rem]"
    >
      {CHOICES.map(({ value, label }) => (
        <ToggleGroup.Item
          key={value}
          value={value}
          className="min-h-6 rounded-[5px] px-2 data-[state=on]:bg-seat-soft data-[state=on]:text-seat"
        >
          {label}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  )
}

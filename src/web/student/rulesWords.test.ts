import { describe, expect, it } from 'vitest'
import { CAREFUL, CHOICES, type HouseRules } from '../../core/rules.ts'
import { rulesWords } from './rulesWords.ts'

const rules: HouseRules = { ...CAREFUL, convener: 'none' }
const said = (more: Partial<HouseRules>, state: Parameters<typeof rulesWords>[1] = 'open') =>
  rulesWords({ ...rules, ...more }, state).join(' ')

describe('what a student reads before taking a seat', () => {
  it('says to whom names are shown, each rule in words of its own', () => {
    const words = CHOICES.names.map((names) => rulesWords({ ...rules, names }, 'open')[1])
    expect(new Set(words).size).toBe(CHOICES.names.length)
    expect(said({ names: 'nobody' })).toContain('No names are shown')
    expect(said({ names: 'after-close' }, 'closed')).not.toContain('until then')
  })

  it('says that a line seats at once and what is given up for it', () => {
    expect(said({ fullGroups: 'line' })).toMatch(/wait in line.*is given up for it.*leave the other lines/)
    expect(said({ fullGroups: 'line', seatsEach: 3, otherLines: 'keep' })).not.toMatch(/given up|other lines/)
    expect(said({})).not.toContain('line')
  })

  it('says who answers for a group and that they may invite, unnamed where no names are shown', () => {
    expect(said({ convener: 'first', invitations: 'convener' })).toMatch(
      /first.*can offer them a free seat\./,
    )
    expect(said({ convener: 'lot', invitations: 'convener', names: 'nobody' })).toContain(
      'without being named',
    )
    expect(said({ convener: 'lot', invitations: 'convener', names: 'after-close' })).toContain(
      'without being named',
    )
    expect(said({ convener: 'none', invitations: 'convener' })).not.toContain('offer')
  })

  it('never says that one can move, wait or invite once the window has closed, nor anything but that when archived', () => {
    for (const changing of CHOICES.changing) {
      const words = said(
        { changing, fullGroups: 'line', convener: 'first', invitations: 'convener' },
        'closed',
      )
      expect(words).not.toMatch(/can move|can wait|can offer/)
      expect(words).toContain('closed')
    }
    expect(rulesWords(rules, 'archived')).toHaveLength(1)
  })

  it('says of swaps only where seats that were given can be swapped', () => {
    expect(said({ road: 'wished', swaps: 'offered' }, 'closed')).toMatch(/swap is made only where everybody/)
    expect(said({ road: 'wished', swaps: 'offered', seatsEach: 2 })).toContain('whoever has one seat can say')
    expect(said({ road: 'wished' })).not.toContain('swap')
    expect(said({ swaps: 'offered' })).not.toContain('swap')
  })
})

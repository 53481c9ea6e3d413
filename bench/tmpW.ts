import { drawLots } from '../src/core/lot.ts'
import { cheapest } from '../src/core/wishes/flow.ts'
import { networkFor } from '../src/core/wishes/network.ts'
import { byLot } from '../src/core/wishes/ties.ts'
import { drawnIn, seatByWishes } from '../src/core/wishes/seat.ts'
const WISHES = 6
function course(people: number, groups: number) {
  const lot = drawLots(people + groups)
  const share = Math.ceil((1.1 * people) / groups)
  const weights = Array.from({ length: groups }, (_, i) => 1 / (i + 3))
  const sums: number[] = []
  for (const weight of weights) sums.push((sums.at(-1) ?? 0) + weight)
  const draw = () => { const at = lot.next() * (sums.at(-1) ?? 1); let [low, high] = [0, groups - 1]; while (low < high) { const middle = (low + high) >> 1; if ((sums[middle] ?? 0) < at) low = middle + 1; else high = middle } return `topic ${low}` }
  const wishers = Array.from({ length: people }, (_, i) => { const wanted = new Set<string>(); while (wanted.size < WISHES) wanted.add(draw()); return { key: `person ${i}`, section: null, ranks: [...wanted].map((topic) => [topic]), cannot: [] } })
  return { wishers, groups: Array.from({ length: groups }, (_, i) => ({ key: `group ${i}`, topic: `topic ${i}`, section: null, seats: share })), offers: 'section' as const, lotNumber: 48_213 }
}
for (const [p, g] of [[500, 50], [2000, 200]] as const) for (const aim of ['least-total', 'most-first', 'nobody-far-down'] as const) {
  const input = { ...course(p, g), aim }
  seatByWishes(input)
  const t: number[] = [0, 0, 0, 0]
  for (let i = 0; i < 5; i++) {
    const a = performance.now(); const drawn = drawnIn(input); const network = networkFor(drawn, aim)
    const b = performance.now(); const flow = cheapest(network)
    const c = performance.now(); byLot(network, flow)
    const d = performance.now(); t[0] += b - a; t[1] += c - b; t[2] += d - c
  }
  console.log(p, aim, t.map((x) => (x / 5).toFixed(1)).join(' '), 'words', networkFor(input, aim).options.words)
}

import type { IncomingMessage, RequestListener, ServerResponse } from 'node:http'
import type { Socket } from 'node:net'

/** Rounds of the event loop, at most, that are left to new connections before anything else is done. */
const MOST_ROUNDS = 64
/** Milliseconds for which requests are begun before whoever comes anew is looked for again. */
const TURN = 4

type Waiting = [IncomingMessage, ServerResponse]

export type Arrivals = ReturnType<typeof createArrivals>

/**
 * Lets people in. The system hands over one new connection in each round of the event loop (libuv), however many wait:
 * where a round is full of work, hundreds who come at the opening would wait for seconds although nothing is short. So
 * requests are begun in short turns, and while new connections come, rounds without a turn let them in.
 * @param time milliseconds, for the length of a turn
 */
export function createArrivals(time: () => number = () => performance.now()) {
  let arrived = 0
  const whenQuiet = (work: () => void): void => {
    let rounds = 0
    let before = arrived
    const next = (): void => {
      rounds += 1
      const comes = arrived !== before && rounds <= MOST_ROUNDS
      before = arrived
      if (comes) setImmediate(next)
      else work()
    }
    setImmediate(next)
  }
  return {
    /** Notes a new connection. */
    arrived(): void {
      arrived += 1
    },
    /** Does something in one of the next rounds, once nobody new is at the door, or enough were let in. */
    whenQuiet,
    /**
     * The same listener for requests, called in short turns, in the order in which requests came. What a new connection
     * asks first goes before the others, for half of a turn at most: who comes anew does not wait for all who press
     * without pause, and they go on.
     */
    inTurns(listener: RequestListener): RequestListener {
      const known = new WeakSet<Socket>()
      let first: Waiting[] = []
      let others: Waiting[] = []
      let planned = false
      /** Begins requests until an instant, one at least; gives those that are left. */
      const begin = (requests: Waiting[], until: number): Waiting[] => {
        let n = 0
        while (n < requests.length) {
          const [req, res] = requests[n] as Waiting
          n += 1
          // Whoever has gone meanwhile needs no answer.
          if (!res.destroyed) listener(req, res as Parameters<RequestListener>[1])
          if (time() >= until) break
        }
        return requests.slice(n)
      }
      const turn = (): void => {
        planned = false
        const [now, early, late] = [time(), first, others]
        first = []
        others = []
        const leftEarly = begin(early, now + (late.length > 0 ? TURN / 2 : TURN))
        const leftLate = begin(late, now + TURN)
        first = [...leftEarly, ...first]
        others = [...leftLate, ...others]
        if (first.length + others.length > 0) plan()
      }
      const plan = (): void => {
        if (planned) return
        planned = true
        whenQuiet(turn)
      }
      return (req, res) => {
        if (known.has(req.socket)) others.push([req, res])
        else {
          known.add(req.socket)
          first.push([req, res])
        }
        plan()
      }
    },
  }
}

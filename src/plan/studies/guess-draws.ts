/** Where to look for the pressures of thousands of draws of the same inputs. */
import type { Ends } from '@/core/network/layout'

/** A state's pressures, Pa by joint: first the `free` ones, then those that are held; and the joints that each element lies between. */
export type Solved = { readonly p: Float64Array; readonly free: number; readonly ends: readonly Ends[] }
/** Pressures of every state at a point of the inputs' scores; undefined where there is no answer. */
export type SolvedAt = (scores: Float64Array) => readonly (Solved | undefined)[]
/**
 * Pressures of a state where the held joints stand as in `now` (Pa by joint), for a draw of the inputs' scores; undefined where nothing is
 * known of the state. Written into an array that the next draw writes over.
 */
export type Guess = (state: number, scores: Float64Array, now: Float64Array) => Float64Array | undefined

/**
 * Guesses from the plan's own pressures and from what each input, moved alone by one standard deviation either way, makes of them: a
 * parabola each, added up. Newton then has two steps to go instead of four.
 */
export function guesser(inputs: number, solvedAt: SolvedAt): Guess {
  const scores = new Float64Array(inputs)
  const alone = (i: number, score: number) => {
    scores.fill(0)
    scores[i] = score
    return solvedAt(scores)
  }
  const base = solvedAt(scores)
  const moved = Array.from({ length: inputs }, (_, i) => [alone(i, -1), alone(i, 1)] as const)
  const guesses = base.map((at, s) => {
    if (!at) return undefined
    return guessOf(
      at,
      moved.map(([down, up]) => ({ down: down[s]?.p ?? at.p, up: up[s]?.p ?? at.p })),
    )
  })
  return (state, z, now) => guesses[state]?.(z, now)
}

/** Pressures that an input, moved alone either way, makes. */
type Way = { readonly down: Float64Array; readonly up: Float64Array }

/**
 * A drop goes with flow squared times what stands in its way: what its inputs make of it multiplies, so parabolas are of its logarithm.
 * Where gas may turn round, it is flows that add up, and parabolas are of the drop's root. Drops small and large are then guessed alike
 * to a few parts in a hundred, which a sum of pressures would not give those in the wide ways between joints that stand almost level.
 */
function guessOf({ p, free, ends }: Solved, ways: readonly Way[]) {
  const steps = stepsFromHeld(p, free, ends).map(({ joint, from }) => {
    const over = (q: Float64Array) => q[joint]! - q[from]!
    const stays = (q: Float64Array) => over(q) / over(p) > LEAST_LEFT
    const multiplies = Math.abs(over(p)) > LEAST_PA && ways.every(({ down, up }) => stays(down) && stays(up))
    const figure = multiplies ? (q: Float64Array) => Math.log(Math.abs(over(q))) : (q: Float64Array) => rootOf(over(q))
    return { joint, from, sign: multiplies ? Math.sign(over(p)) : 0, figure, middle: figure(p) }
  })
  const moving = ways.flatMap(({ down, up }, i) => (hasMoved(down, p) || hasMoved(up, p) ? [i] : []))
  const [straight, bent] = [new Float64Array(moving.length * free), new Float64Array(moving.length * free)]
  moving.forEach((input, i) => {
    const { down, up } = ways[input]!
    steps.forEach(({ figure, middle }, k) => {
      straight[i * free + k] = (figure(up) - figure(down)) / 2
      bent[i * free + k] = (figure(up) + figure(down)) / 2 - middle
    })
  })
  const figures = new Float64Array(free)
  const start = new Float64Array(p.length)
  return (z: Float64Array, now: Float64Array): Float64Array => {
    for (let k = 0; k < steps.length; k++) figures[k] = steps[k]!.middle
    for (let i = 0, at = 0; i < moving.length; i++) {
      const by = z[moving[i]!]!
      for (let k = 0; k < free; k++, at++) figures[k]! += (straight[at]! + bent[at]! * by) * by
    }
    start.set(now)
    for (let k = 0; k < steps.length; k++) {
      const { joint, from, sign } = steps[k]!
      const to = start[from]! + (sign === 0 ? squareOf(figures[k]!) : sign * Math.exp(figures[k]!))
      start[joint] = Math.min(2 * p[joint]!, Math.max(p[joint]! / 2, to))
    }
    return start
  }
}

/** A drop of less than this, Pa, or of which an input alone may leave less than this share, is one that may turn round. */
const [LEAST_PA, LEAST_LEFT] = [0.05, 0.2]

const rootOf = (pa: number): number => Math.sign(pa) * Math.sqrt(Math.abs(pa))
const squareOf = (root: number): number => root * Math.abs(root)

type Step = { readonly joint: number; readonly from: number }

/** Ways from the held joints to all free ones, each along the element with the least drop. */
function stepsFromHeld(p: Float64Array, free: number, ends: readonly Ends[]): Step[] {
  const both = ends.flatMap(({ i, j }): Step[] => [
    { joint: i, from: j },
    { joint: j, from: i },
  ])
  const drop = ({ joint, from }: Step) => Math.abs(p[joint]! - p[from]!)
  const inOrder = both.toSorted((a, b) => drop(a) - drop(b))
  const reached = new Set(Array.from({ length: p.length - free }, (_, k) => free + k))
  const steps: Step[] = []
  while (steps.length < free) {
    const next = inOrder.find(({ joint, from }) => !reached.has(joint) && reached.has(from))
    if (!next) break
    reached.add(next.joint)
    steps.push(next)
  }
  return steps
}

/** Worth being looked for elsewhere: by a hundredth of a pascal at some joint. */
const hasMoved = (q: Float64Array, p: Float64Array): boolean => q.some((pa, k) => Math.abs(pa - p[k]!) > 0.01)

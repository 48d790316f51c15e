/** Where to look for the pressures of thousands of draws of the same inputs. */
import type { ElementEnds } from '@/core/network/layout'

/** A state's pressures, Pa by joint: first the `free` ones, then those that are held; and the joints that each element lies between. */
export type Solved = { readonly p: Float64Array; readonly free: number; readonly ends: readonly ElementEnds[] }
/** Pressures of every state at a point of the inputs' scores; undefined where there is no answer. */
export type SolvedAt = (scores: Float64Array) => readonly (Solved | undefined)[]
/**
 * Pressures of a state where the held joints stand as in `now` (Pa by joint), for a draw of the inputs' scores; undefined where nothing is
 * known of the state. Written into an array that the next draw writes over.
 */
export type WarmStart = (state: number, scores: Float64Array, now: Float64Array) => Float64Array | undefined

/**
 * Guesses from the plan's own pressures and from what each input, moved alone by one standard deviation either way, makes of them: a
 * parabola each, added up. Newton then has two or three steps to go instead of three or four.
 * @param trials points at which many inputs are moved at once: by what guesses them best each joint is guessed
 */
export function warmStarter(inputs: number, trials: readonly Float64Array[], solvedAt: SolvedAt): WarmStart {
  const alone = (i: number, score: number) => solvedAt(new Float64Array(inputs).with(i, score))
  const base = solvedAt(new Float64Array(inputs))
  const moved = Array.from({ length: inputs }, (_, i) => [alone(i, -1), alone(i, 1)] as const)
  const tried = trials.map((scores) => ({ scores, states: solvedAt(scores) }))
  const guesses = base.map((middle, s) => {
    if (!middle) return undefined
    const ways = moved.flatMap(([downs, ups], input): InputSpread[] => {
      const [down, up] = [downs[s]?.p ?? middle.p, ups[s]?.p ?? middle.p]
      return hasMoved(down, middle.p) || hasMoved(up, middle.p) ? [{ input, down, up }] : []
    })
    const points = tried.flatMap(({ scores, states }) => (states[s] ? [{ scores, p: states[s].p }] : []))
    return guessOf(middle, ways, points)
  })
  return (state, scores, now) => guesses[state]?.(scores, now)
}

/** Pressures that an input, moved alone either way, makes. */
type InputSpread = { readonly input: number; readonly down: Float64Array; readonly up: Float64Array }
type DrawnPoint = { readonly scores: Float64Array; readonly p: Float64Array }

function guessOf(middle: Solved, ways: readonly InputSpread[], points: readonly DrawnPoint[]) {
  const { p } = middle
  const steps = bestSteps(middle, ways, points)
  const start = new Float64Array(p.length)
  return (scores: Float64Array, now: Float64Array): Float64Array => {
    start.set(now)
    for (const step of steps) {
      const { joint } = step
      start[joint] = Math.min(2 * p[joint]!, Math.max(p[joint]! / 2, guessed(step, scores, start)))
    }
    return start
  }
}

/**
 * How a joint's pressure is guessed. A drop goes with flow squared times what stands in its way: what its inputs make of it multiplies, so
 * parabolas are of its logarithm (`factor`). Where gas may turn round, it is flows that add up, and parabolas are of the drop's root.
 * Drops small and large are then guessed alike to a few parts in a hundred, which a sum of pressures would not give those in the wide ways
 * between joints that stand almost level. What a regulator holds is a `pressure` whatever its neighbours do.
 */
type JointStep = {
  readonly as: 'factor' | 'root' | 'pressure'
  readonly joint: number
  /** a joint that is known already; none where the pressure itself is guessed */
  readonly from: number
  /** of a factor, which way the drop goes */
  readonly sign: number
  /** the figure that inputs add up to: of the plan, and what those of `inputs` add, straight and bent */
  readonly middle: number
  readonly inputs: readonly number[]
  readonly straight: Float64Array
  readonly bent: Float64Array
}

function figureOf(as: JointStep['as'], joint: number, from: number, p: Float64Array): number {
  if (as === 'pressure') return p[joint]!
  const drop = p[joint]! - p[from]!
  return as === 'factor' ? Math.log(Math.abs(drop)) : Math.sign(drop) * Math.sqrt(Math.abs(drop))
}

/** The pressure of a step's joint, where the one it follows from stands as in `p`. */
function guessed(
  { as, from, sign, middle, inputs, straight, bent }: JointStep,
  scores: Float64Array,
  p: Float64Array,
): number {
  let figure = middle
  for (let i = 0; i < inputs.length; i++) {
    const by = scores[inputs[i]!]!
    figure += (straight[i]! + bent[i]! * by) * by
  }
  if (as === 'pressure') return figure
  return p[from]! + (as === 'factor' ? sign * Math.exp(figure) : figure * Math.abs(figure))
}

function jointStep(
  { as, joint, from }: Pick<JointStep, 'as' | 'joint' | 'from'>,
  p: Float64Array,
  ways: readonly InputSpread[],
): JointStep {
  const figure = (q: Float64Array) => figureOf(as, joint, from, q)
  const middle = figure(p)
  return {
    as,
    joint,
    from,
    sign: Math.sign(p[joint]! - (p[from] ?? 0)),
    middle,
    inputs: ways.map((way) => way.input),
    straight: Float64Array.from(ways, ({ down, up }) => (figure(up) - figure(down)) / 2),
    bent: Float64Array.from(ways, ({ down, up }) => (figure(up) + figure(down)) / 2 - middle),
  }
}

/** Steps that reach every free joint, each from one that is held or reached, or from none: those that come nearest to the points first. */
function bestSteps(
  { p, free, ends }: Solved,
  ways: readonly InputSpread[],
  points: readonly DrawnPoint[],
): JointStep[] {
  const offBy = (step: JointStep) =>
    points.reduce((sum, { scores, p: q }) => sum + Math.abs(guessed(step, scores, q) - q[step.joint]!), 0)
  const all = Array.from({ length: free }, (_, joint) => jointStep({ as: 'pressure', joint, from: NONE }, p, ways))
  for (const { i, j } of ends)
    for (const { joint, from } of [
      { joint: i, from: j },
      { joint: j, from: i },
    ]) {
      if (joint >= free) continue
      all.push(jointStep({ as: 'root', joint, from }, p, ways))
      const left = (q: Float64Array) => (q[joint]! - q[from]!) / (p[joint]! - p[from]!)
      if (ways.every(({ down, up }) => left(down) > 0 && left(up) > 0))
        all.push(jointStep({ as: 'factor', joint, from }, p, ways))
    }
  const inOrder = all.map((step) => ({ step, off: offBy(step) })).toSorted((a, b) => a.off - b.off)
  const reached = new Set([NONE, ...Array.from({ length: p.length - free }, (_, k) => free + k)])
  const steps: JointStep[] = []
  while (steps.length < free) {
    const { step } = inOrder.find((c) => !reached.has(c.step.joint) && reached.has(c.step.from))!
    reached.add(step.joint)
    steps.push(step)
  }
  return steps
}
const NONE = -1

/** Worth being looked for elsewhere: by a hundredth of a pascal at some joint. */
const hasMoved = (q: Float64Array, p: Float64Array): boolean => q.some((pa, k) => Math.abs(pa - p[k]!) > 0.01)

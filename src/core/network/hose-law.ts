/** Flow through a hose from its pressures. */
import { circleArea } from '../circle'
import { airViscosity } from '../gas/air'
import type { Gas, Hose } from './elements'
import { colebrook, frictionFactor, LAMINAR_RE, TURBULENT_RE } from './friction'
import { elementLaw, leakAlone, reverseFlow, type Flow } from './law'

/** A hose joins what it joins over a tenth of a bore at least: none is without friction, and its slope at rest is finite. */
const LEAST_PER_F = 0.1

/** What a hose's law is made of: p1^2 - p2^2 = m^2 unit (perF f(m perRe) + k). */
export type HoseTerms = {
  /** R T / A^2, m^-2 s^-2 kg... times m^2 it is a square of pressures */
  readonly unit: number
  /** Reynolds number a kg/s */
  readonly perRe: number
  /** roughness over bore */
  readonly rel: number
  readonly perF: number
  readonly k: number
}

/**
 * The terms of a hose with a bore, for a gas.
 *
 * @example
 * import { hoseTerms } from '@/core/network/hose-law'
 * import { makeHose } from '@/core/network/hose'
 *
 * const gas = { R: 287.05, gamma: 1.4, T: 353.15 }
 * console.log(
 *   hoseTerms(makeHose('h', 'a', 'b', { boreM: 0.0127, lengthM: 1, bends: [], mitres: [], k: 0 }), gas).perF,
 * ) // 78.74015748031496
 */
export function hoseTerms(hose: Hose, gas: Gas): HoseTerms {
  const area = circleArea(hose.boreM)
  return {
    unit: (gas.R * gas.T) / (area * area),
    perRe: hose.boreM / (area * airViscosity(gas.T)),
    rel: hose.roughnessM / hose.boreM,
    perF: Math.max(LEAST_PER_F, hose.lengthM / hose.boreM + hose.kPerF),
    k: hose.kFixed,
  }
}

/** Friction where turbulence begins, by relative roughness. */
const edgeOf = (rel: number): number => colebrook(TURBULENT_RE, rel)

export type Drop = { drop: number; slope: number }

/**
 * The law forwards: the drop p1^2 - p2^2 at a flow m >= 0, and its slope by m (laminar exact; above, f taken as standing still, which is
 * all that a stiff step in time needs).
 *
 * @example
 * import { hoseDrop, hoseTerms } from '@/core/network/hose-law'
 * import { makeHose } from '@/core/network/hose'
 *
 * const gas = { R: 287.05, gamma: 1.4, T: 353.15 }
 * const out = { drop: 0, slope: 0 }
 * hoseDrop(hoseTerms(makeHose('h', 'a', 'b', { boreM: 0.0127, lengthM: 1, bends: [], mitres: [], k: 0 }), gas))(
 *   2e-3,
 *   out,
 * )
 * console.log(out.drop) // 62460519.70962497
 */
export function hoseDrop({ unit, perRe, rel, perF, k }: HoseTerms): (m: number, out: Drop) => void {
  const edge = edgeOf(rel)
  return (m, out) => {
    const re = Math.max(1e-6, m * perRe)
    const loss = unit * (perF * frictionFactor(re, rel, edge) + k)
    out.drop = m * m * loss
    out.slope = re < LAMINAR_RE ? (64 * unit * perF) / perRe + 2 * m * unit * k : 2 * m * loss
  }
}

/** The equation in 1/sqrt(f) is so nearly straight that what is left after a step of this size is some 1e-12. */
const ROOT_TOLERANCE = 1e-5

/** A flow at a drop, and the slope d(drop)/dm there. */
type Inverse = {
  readonly take: (terms: HoseTerms, edge: number) => void
  readonly at: (drop: number, out: { m: number; slope: number }) => void
}

/**
 * Mass flow m at a drop of `p1^2 - p2^2 = m^2 unit (perF f + k)`, and the slope d(drop)/dm. Which of the three ranges of f holds is known
 * from the drop alone, since the drop grows with flow throughout:
 * - laminar, f = 64/Re: a quadratic in m;
 * - between, f linear in Re: a cubic in m, by Newton;
 * - turbulent: with x = 1/sqrt(f), Colebrook's x = -2 log10(rel/3.7 + 2.51 x/Re) and m = sqrt(drop/(unit (perF/x^2 + k))) are one
 *   equation in x, x + 2 log10(rel/3.7 + c sqrt(perF + k x^2)) = 0 with c = 2.51 sqrt(unit/drop)/perRe. It is nearly straight: two or
 *   three steps of Newton from the last answer.
 */
function dropInverse(): Inverse {
  let terms = NO_TERMS
  // fields of one object, which are written in place: numbers in variables of a closure are put on the heap at every change
  const now = {
    laminar: Number.NaN,
    laminarTo: Number.NaN,
    turbulentFrom: Number.NaN,
    /** df/dm */
    joinSlope: Number.NaN,
    /** 1/sqrt(f) of the last answer, which is near the next even where hose or gas are others */
    x: Number.NaN,
  }
  const dropAt = ({ unit, perRe, perF, k }: HoseTerms, re: number, f: number) =>
    (re / perRe) * (re / perRe) * unit * (perF * f + k)
  return {
    take(of, edge) {
      terms = of
      now.laminar = (64 * of.unit * of.perF) / of.perRe
      now.laminarTo = dropAt(of, LAMINAR_RE, 64 / LAMINAR_RE)
      now.turbulentFrom = dropAt(of, TURBULENT_RE, edge)
      now.joinSlope = ((edge - 64 / LAMINAR_RE) / (TURBULENT_RE - LAMINAR_RE)) * of.perRe
    },
    at(drop, out) {
      const { unit, perRe, rel, perF, k } = terms
      const { laminar, laminarTo, turbulentFrom, joinSlope } = now
      if (drop <= laminarTo) {
        const square = unit * k
        out.m = (2 * drop) / (laminar + Math.sqrt(laminar * laminar + 4 * square * drop))
        out.slope = laminar + 2 * square * out.m
        return
      }
      if (drop < turbulentFrom) {
        // from the chord between the ends of this range Newton is there in two or three steps, each the square of the last
        const along = (drop - laminarTo) / (turbulentFrom - laminarTo)
        let m = (LAMINAR_RE + (TURBULENT_RE - LAMINAR_RE) * along) / perRe
        let slope = 1
        for (let i = 0; i < 8; i++) {
          const loss = unit * (perF * (64 / LAMINAR_RE + joinSlope * (m - LAMINAR_RE / perRe)) + k)
          slope = m * (2 * loss + m * unit * perF * joinSlope)
          const step = (m * m * loss - drop) / slope
          m -= step
          if (Math.abs(step) <= 1e-8 * m) break
        }
        out.m = m
        out.slope = slope
        return
      }
      // what was no number must not stay
      let x = now.x > 0 ? now.x : FIRST_ROOT
      const c = (2.51 * Math.sqrt(unit / drop)) / perRe
      const a = rel / 3.7
      let bend = 0 // d/dx of the logarithm's part
      for (let i = 0; i < 8; i++) {
        const root = Math.sqrt(perF + k * x * x)
        const inner = a + c * root
        bend = (2 * Math.LOG10E * c * k * x) / (root * inner)
        const step = (x + 2 * Math.LOG10E * Math.log(inner)) / (1 + bend)
        x -= step
        if (step < ROOT_TOLERANCE && step > -ROOT_TOLERANCE) break
      }
      now.x = x
      const loss = perF / (x * x) + k
      out.m = Math.sqrt(drop / (unit * loss))
      // dx/d(ln drop) = share/(1 + bend); ln m = (ln drop - ln loss)/2
      const root = Math.sqrt(perF + k * x * x)
      const dx = (Math.LOG10E * c * root) / (a + c * root) / (1 + bend)
      out.slope = (2 * drop) / (out.m * (1 + (((2 * perF) / (x * x * x)) * dx) / loss))
    },
  }
}
/** 1/sqrt(f) of a friction of 0.04, to begin from. */
const FIRST_ROOT = 5
const NO_TERMS: HoseTerms = { unit: 1, perRe: 1, rel: Number.NaN, perF: 1, k: 0 }

/** A hose as flow runs through it one way. */
type Way = { terms: HoseTerms; readonly inverse: Inverse; readonly choked: Inverse; chokedTaken: boolean }
const makeWay = (): Way => ({ terms: NO_TERMS, inverse: dropInverse(), choked: dropInverse(), chokedTaken: false })
function takeWay(way: Way, terms: HoseTerms, edge: number): void {
  way.terms = terms
  way.inverse.take(terms, edge)
  way.chokedTaken = false
}

/**
 * Hose: p1^2 - p2^2 = G^2 R T (f L/D + K). The pressure at the low end never counts as lower than the isothermal sonic one, G sqrt(RT):
 * beyond it the hose is choked and more suction brings no more flow (Shapiro, Compressible Fluid Flow, isothermal limit).
 */
export function hoseLaw() {
  let shut = false
  let edge = 0
  /** what it is each way: its ends may lose more the one way than the other */
  const onward = makeWay()
  const backward = makeWay()
  let twoWays = false
  const at = { m: 0, slope: 1 }

  function along(way: Way, p1: number, p2: number, out: Flow): void {
    const drop = p1 * p1 - p2 * p2
    const { terms, inverse, choked } = way
    const { unit, perF, perRe } = terms
    if (drop <= 0) {
      // equal pressures: the laminar slope keeps the Jacobian regular
      const s = (64 * unit * perF) / perRe
      out.m = 0
      out.d1 = (2 * p1) / s
      out.d2 = (-2 * p2) / s
      return
    }
    inverse.at(drop, at)
    out.m = at.m
    out.d1 = (2 * p1) / at.slope
    out.d2 = (-2 * p2) / at.slope
    if (unit * at.m * at.m <= p2 * p2) return // G sqrt(RT) below p2: not choked
    // p2 = G sqrt(RT) put into the law: p1^2 = m^2 unit (perF f + k + 1)
    if (!way.chokedTaken) choked.take({ ...terms, k: terms.k + 1 }, edge)
    way.chokedTaken = true
    choked.at(p1 * p1, at)
    out.m = at.m
    out.d1 = (2 * p1) / at.slope
    out.d2 = 0
  }
  return elementLaw(
    'hose',
    (hose, gas) => {
      shut = hose.boreM <= 0
      if (shut) return
      const { rel } = onward.terms
      const terms = hoseTerms(hose, gas)
      if (terms.rel !== rel) edge = edgeOf(terms.rel)
      takeWay(onward, terms, edge)
      twoWays = hose.kBack !== undefined && hose.kBack !== hose.kFixed
      if (twoWays) takeWay(backward, { ...terms, k: hose.kBack! }, edge)
    },
    (p1, p2, out) => {
      if (shut) return leakAlone(p1, p2, out)
      if (p1 >= p2) return along(onward, p1, p2, out)
      along(twoWays ? backward : onward, p2, p1, out)
      reverseFlow(out)
    },
  )
}

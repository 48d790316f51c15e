/** Mass flow through one element from the pressures at its ends, with its derivatives. */
import { airViscosity, GAS_GAMMA } from '../gas/air'
import type { Element, Gas, Hose, Loss } from './elements'
import { colebrook, LAMINAR_RE, TURBULENT_RE } from './friction'

/** Filled by an element's law: flow kg/s from `from` to `to`, and its derivatives by each end's pressure, kg/(s Pa). */
export type Flow = { m: number; d1: number; d2: number }

export type Law = (p1: number, p2: number, out: Flow) => void

/** Below this pressure difference (Pa) a square-root law is blended to a straight one, so that its slope stays finite. */
const BLEND_PA = 0.01
/** A one-way valve opens over this pressure, so that it has no corner at its seat for Newton to bounce on. */
const SEAT_PA = 0.05
/** A hose joins what it joins over a tenth of a bore at least: none is without friction, and its slope at rest is finite. */
const LEAST_PER_F = 0.1
/**
 * Conductance that ties a shut branch to its neighbours, kg/(s Pa). SHUT_LEAK is too small to count as flow and enough for a regular matrix;
 * the solver may raise it for a while to feel its way to a hard answer.
 */
export type Tie = { leak: number }
export const SHUT_LEAK = 1e-16

/**
 * The nozzle function psi(r) = sqrt(2g/(g-1) (r^(2/g) - r^((g+1)/g))), constant at and below the critical ratio,
 * as a function of the pressure drop share x = 1 - r; and its derivative by r. Heywood, Internal Combustion Engine Fundamentals, app. C.
 */
export function nozzle(r: number, gamma: number): { psi: number; dPsi: number } {
  const n = gamma === GAS_GAMMA ? DIATOMIC : nozzleOf(gamma)
  if (r <= n.critical) return { psi: n.choked, dPsi: 0 }
  if (r >= 1) return { psi: 0, dPsi: 0 }
  const u = Math.exp(n.e1 * Math.log(r)) // r^(2/gamma)
  const v = u * Math.exp((1 - 1 / gamma) * Math.log(r)) // r^((gamma+1)/gamma)
  const psi = Math.sqrt(Math.max(0, n.c * (u - v)))
  return psi === 0 ? { psi, dPsi: 0 } : { psi, dPsi: n.c * (n.e1 * u - n.e2 * v) / (2 * r * psi) }
}

/**
 * Mass flow in kg/s through a hole from p1 to p2 (Pa absolute, p1 >= p2): Cd A p1 / sqrt(R T) psi(p2/p1), choked at and below the critical ratio.
 * @example orificeFlow(0.62, 2e-5, 103325, 101325, { R: 287.05, gamma: 1.4, T: 353.15 }) // 7.84e-4
 */
export function orificeFlow(cd: number, areaM2: number, p1: number, p2: number, gas: Gas): number {
  return p1 > p2 ? cd * areaM2 * p1 / Math.sqrt(gas.R * gas.T) * nozzle(p2 / p1, gas.gamma).psi : 0
}

/** What psi needs of gamma: critical ratio, psi there, exponents and factor. */
function nozzleOf(gamma: number) {
  const critical = (2 / (gamma + 1)) ** (gamma / (gamma - 1))
  const [c, e1, e2] = [2 * gamma / (gamma - 1), 2 / gamma, (gamma + 1) / gamma]
  return { critical, c, e1, e2, choked: Math.sqrt(c * (critical ** e1 - critical ** e2)) }
}
const DIATOMIC = nozzleOf(GAS_GAMMA)

/** Nozzle flow for p1 >= p2, straightened within BLEND_PA of equal pressures. Writes m, d1, d2. */
function nozzleFlow(cdA: number, gas: Gas, p1: number, p2: number, out: Flow): void {
  const dp = p1 - p2
  const rootRT = Math.sqrt(gas.R * gas.T)
  if (dp < 100 * BLEND_PA) {
    // incompressible to 1e-5 here: m = cdA sqrt(2 rho) dp / (dp^2 + blend^2)^(1/4)
    const rho = p1 / (rootRT * rootRT)
    const s = dp * dp + BLEND_PA * BLEND_PA
    const k = cdA * Math.sqrt(2 * rho)
    const g = s ** -0.25
    out.m = k * dp * g
    const slope = k * (g - 0.5 * dp * dp * g / s)
    out.d1 = slope + out.m / (2 * p1)
    out.d2 = -slope
    return
  }
  const r = p2 / p1
  const { psi, dPsi } = nozzle(r, gas.gamma)
  const k = cdA / rootRT
  out.m = k * p1 * psi
  out.d1 = k * (psi - r * dPsi)
  out.d2 = k * dPsi
}

/** Flow and slopes of a valve that is just leaving its seat: scaled up over SEAT_PA. */
function leaveSeat(over: number, out: Flow): void {
  if (over >= SEAT_PA) return
  const s = over / SEAT_PA
  out.d1 = out.d1 * s + out.m / SEAT_PA
  out.d2 = out.d2 * s - out.m / SEAT_PA
  out.m *= s
}

/** A law for p1 >= p2 as one for both directions. */
const bothDirections = (forward: Law): Law => (p1, p2, out) => {
  if (p1 >= p2) return forward(p1, p2, out)
  forward(p2, p1, out)
  const d1 = out.d1
  out.m = -out.m
  out.d1 = -out.d2
  out.d2 = -d1
}

function bothWays(cdA: number, gas: Gas, tie: Tie): Law {
  return cdA <= 0 ? shut(tie) : bothDirections((p1, p2, out) => nozzleFlow(cdA, gas, p1, p2, out))
}

function checkLaw(cdA: number, crackPa: number, leakCdA: number, gas: Gas, tie: Tie): Law {
  const leak = leakCdA > 0 ? bothWays(leakCdA, gas, tie) : undefined
  const extra: Flow = { m: 0, d1: 0, d2: 0 }
  return (p1, p2, out) => {
    const head = p1 - crackPa
    if (head > p2) { nozzleFlow(cdA, gas, head, p2, out); leaveSeat(head - p2, out) } else { out.m = 0; out.d1 = 0; out.d2 = 0 }
    if (leak) {
      leak(p1, p2, extra)
      out.m += extra.m; out.d1 += extra.d1; out.d2 += extra.d2
    }
    out.m += tie.leak * (p1 - p2); out.d1 += tie.leak; out.d2 -= tie.leak
  }
}

/** Area at `dp` and its slope, from a table that is linear between points and level outside. */
export function tableArea(table: readonly (readonly [number, number])[], dp: number): { area: number; slope: number } {
  const first = table[0]
  const last = table[table.length - 1]
  if (!first || !last) return { area: 0, slope: 0 }
  if (dp <= first[0]) return { area: first[1], slope: 0 }
  if (dp >= last[0]) return { area: last[1], slope: 0 }
  for (let i = 1; i < table.length; i++) {
    const a = table[i - 1]!
    const b = table[i]!
    if (dp <= b[0]) {
      const slope = (b[1] - a[1]) / (b[0] - a[0])
      return { area: a[1] + slope * (dp - a[0]), slope }
    }
  }
  return { area: last[1], slope: 0 }
}

function pcvLaw(cd: number, table: readonly (readonly [number, number])[], leakCdA: number, gas: Gas, tie: Tie): Law {
  const leak = leakCdA > 0 ? bothWays(leakCdA, gas, tie) : undefined
  const extra: Flow = { m: 0, d1: 0, d2: 0 }
  return (p1, p2, out) => {
    if (p1 > p2) {
      const { area, slope } = tableArea(table, p1 - p2)
      nozzleFlow(cd, gas, p1, p2, out) // per unit area
      const perArea = out.m
      out.m *= area
      out.d1 = out.d1 * area + perArea * slope
      out.d2 = out.d2 * area - perArea * slope
      leaveSeat(p1 - p2, out)
    } else { out.m = 0; out.d1 = 0; out.d2 = 0 }
    if (leak) {
      leak(p1, p2, extra)
      out.m += extra.m; out.d1 += extra.d1; out.d2 += extra.d2
    }
    out.m += tie.leak * (p1 - p2); out.d1 += tie.leak; out.d2 -= tie.leak
  }
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
function dropInverse(unit: number, perF: number, k: number, perRe: number, rel: number): (drop: number, out: { m: number; slope: number }) => void {
  const laminar = 64 * unit * perF / perRe
  const edge = colebrook(TURBULENT_RE, rel)
  const dropAt = (re: number, f: number) => (re / perRe) ** 2 * unit * (perF * f + k)
  const laminarTo = dropAt(LAMINAR_RE, 64 / LAMINAR_RE)
  const turbulentFrom = dropAt(TURBULENT_RE, edge)
  const joinSlope = (edge - 64 / LAMINAR_RE) / (TURBULENT_RE - LAMINAR_RE) * perRe // df/dm
  const a = rel / 3.7
  let x = 1 / Math.sqrt(edge)
  return (drop, out) => {
    if (drop <= laminarTo) {
      const square = unit * k
      out.m = 2 * drop / (laminar + Math.sqrt(laminar * laminar + 4 * square * drop))
      out.slope = laminar + 2 * square * out.m
      return
    }
    if (drop < turbulentFrom) {
      let m = 3000 / perRe
      let slope = 1
      for (let i = 0; i < 8; i++) {
        const loss = unit * (perF * (64 / LAMINAR_RE + joinSlope * (m - LAMINAR_RE / perRe)) + k)
        slope = m * (2 * loss + m * unit * perF * joinSlope)
        const step = (m * m * loss - drop) / slope
        m -= step
        if (Math.abs(step) <= 1e-13 * m) break
      }
      out.m = m
      out.slope = slope
      return
    }
    const c = 2.51 * Math.sqrt(unit / drop) / perRe
    let bend = 0 // d/dx of the logarithm's part
    for (let i = 0; i < 8; i++) {
      const root = Math.sqrt(perF + k * x * x)
      const inner = a + c * root
      bend = 2 * Math.LOG10E * c * k * x / (root * inner)
      const step = (x + 2 * Math.LOG10E * Math.log(inner)) / (1 + bend)
      x -= step
      if (step < 1e-7 && step > -1e-7) break
    }
    const loss = perF / (x * x) + k
    out.m = Math.sqrt(drop / (unit * loss))
    // dx/d(ln drop) = share/(1 + bend); ln m = (ln drop - ln loss)/2
    const root = Math.sqrt(perF + k * x * x)
    const dx = Math.LOG10E * c * root / (a + c * root) / (1 + bend)
    out.slope = 2 * drop / (out.m * (1 + 2 * perF / (x * x * x) * dx / loss))
  }
}

/**
 * Hose: p1^2 - p2^2 = G^2 R T (f L/D + K). The pressure at the low end never counts as lower than the isothermal sonic one, G sqrt(RT):
 * beyond it the hose is choked and more suction brings no more flow (Shapiro, Compressible Fluid Flow, isothermal limit).
 */
function hoseLaw(hose: Hose, gas: Gas, tie: Tie): Law {
  if (hose.boreM <= 0) return shut(tie)
  const area = Math.PI * hose.boreM * hose.boreM / 4
  const perRe = hose.boreM / (area * airViscosity(gas.T)) // Re = m perRe
  const rel = hose.roughnessM / hose.boreM
  const perF = Math.max(LEAST_PER_F, hose.lengthM / hose.boreM + hose.kPerF)
  const k = hose.kFixed
  const unit = gas.R * gas.T / (area * area)
  const inverse = dropInverse(unit, perF, k, perRe, rel)
  let choked: typeof inverse | undefined
  const at = { m: 0, slope: 1 }

  function forward(p1: number, p2: number, out: Flow): void {
    const drop = p1 * p1 - p2 * p2
    if (drop <= 0) { // equal pressures: the laminar slope keeps the Jacobian regular
      const s = 64 * unit * perF / perRe
      out.m = 0; out.d1 = 2 * p1 / s; out.d2 = -2 * p2 / s
      return
    }
    inverse(drop, at)
    out.m = at.m
    out.d1 = 2 * p1 / at.slope
    out.d2 = -2 * p2 / at.slope
    if (unit * at.m * at.m <= p2 * p2) return // G sqrt(RT) below p2: not choked
    // p2 = G sqrt(RT) put into the law: p1^2 = m^2 unit (perF f + k + 1)
    choked ??= dropInverse(unit, perF, k + 1, perRe, rel)
    choked(p1 * p1, at)
    out.m = at.m
    out.d1 = 2 * p1 / at.slope
    out.d2 = 0
  }
  return bothDirections(forward)
}

/** Nothing passes: a hose or hole of no size. */
const shut = (tie: Tie): Law => (p1, p2, out) => {
  out.m = tie.leak * (p1 - p2); out.d1 = tie.leak; out.d2 = -tie.leak
}

/** dp = a Q + b rho Q^2 with Q = m/rho at the mean density, solved for m; the square's root is straightened within BLEND_PA. */
function lossLaw(loss: Loss, gas: Gas): Law {
  const RT = gas.R * gas.T
  return (p1, p2, out) => {
    const rho = (p1 + p2) / (2 * RT)
    const dp = p1 - p2
    const size = Math.sqrt(dp * dp + BLEND_PA * BLEND_PA)
    // a m + b m^2 = rho dp; the root written so that it neither cancels nor divides by zero
    const root = Math.sqrt(loss.a * loss.a + 4 * loss.b * rho * size)
    const sum = loss.a + root
    out.m = 2 * rho * dp / sum
    const bend = out.m / sum * 2 * loss.b / root
    const byDp = 2 * rho / sum - bend * rho * dp / size
    const byRho = (2 * dp / sum - bend * size) / (2 * RT)
    out.d1 = byDp + byRho
    out.d2 = -byDp + byRho
  }
}

/** Area grows straight from `shutPa` to `openPa` on the inlet side; backwards all of it is open. */
function regulatorLaw(cdA: number, openPa: number, shutPa: number, gas: Gas, tie: Tie): Law {
  if (cdA <= 0) return shut(tie)
  return (p1, p2, out) => {
    if (p1 < p2) {
      nozzleFlow(cdA, gas, p2, p1, out)
      const d1 = out.d1
      out.m = -out.m; out.d1 = -out.d2; out.d2 = -d1
    } else {
      const share = Math.min(1, Math.max(0, (p1 - shutPa) / (openPa - shutPa)))
      const slope = share > 0 && share < 1 ? 1 / (openPa - shutPa) : 0
      nozzleFlow(cdA, gas, p1, p2, out)
      out.d1 = out.d1 * share + out.m * slope
      out.d2 *= share
      out.m *= share
    }
    out.m += tie.leak * (p1 - p2); out.d1 += tie.leak; out.d2 -= tie.leak
  }
}

/** Below this volumetric efficiency a pump fades out instead of stopping at a corner. */
const PUMP_FADE = 0.02

function pumpLaw(sweptM3s: number, clearance: number, gas: Gas, tie: Tie): Law {
  if (sweptM3s <= 0) return shut(tie)
  const perPa = sweptM3s / (gas.R * gas.T)
  return (p1, p2, out) => {
    const back = clearance * (p2 / p1) ** (1 / gas.gamma)
    const raw = 1 + clearance - back
    // x itself well above zero, none well below, a parabola between: no corner, never negative
    const share = raw >= PUMP_FADE ? raw : raw <= -PUMP_FADE ? 0 : (raw + PUMP_FADE) ** 2 / (4 * PUMP_FADE)
    const bend = raw >= PUMP_FADE ? 1 : raw <= -PUMP_FADE ? 0 : (raw + PUMP_FADE) / (2 * PUMP_FADE)
    out.m = perPa * p1 * share + tie.leak * (p1 - p2)
    out.d1 = perPa * (share + bend * back / gas.gamma) + tie.leak
    out.d2 = -perPa * p1 * bend * back / gas.gamma / p2 - tie.leak
  }
}

/** The law of an element for a gas. Laws keep no state but a hose's last friction, which only speeds its next inversion. */
export function flowLaw(element: Element, gas: Gas, tie: Tie): Law {
  switch (element.kind) {
    case 'hose': return hoseLaw(element, gas, tie)
    case 'orifice': return bothWays(element.cd * element.areaM2, gas, tie)
    case 'check': return checkLaw(element.cd * element.areaM2, element.crackPa, element.cd * (element.leakM2 ?? 0), gas, tie)
    case 'pcv': return pcvLaw(element.cd, element.area, element.cd * (element.leakM2 ?? 0), gas, tie)
    case 'loss': return lossLaw(element, gas)
    case 'regulator': return regulatorLaw(element.cd * element.areaM2, element.openPa, element.shutPa, gas, tie)
    case 'pump': return pumpLaw(element.sweptM3s, element.clearance, gas, tie)
  }
}

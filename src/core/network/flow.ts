/** Mass flow through one element from the pressures at its ends, with its derivatives. */
import { airViscosity, GAS_GAMMA } from '../gas/air'
import type { Element, Gas, Hose, Loss } from './elements'
import { colebrook, frictionFactor, frictionSlope } from './friction'

/** Filled by an element's law: flow kg/s from `from` to `to`, and its derivatives by each end's pressure, kg/(s Pa). */
export type Flow = { m: number; d1: number; d2: number }

export type Law = (p1: number, p2: number, out: Flow) => void

/** Below this pressure difference (Pa) a square-root law is blended to a straight one, so that its slope stays finite. */
const BLEND_PA = 0.01
/** A one-way valve opens over this pressure, so that it has no corner at its seat for Newton to bounce on. */
const SEAT_PA = 0.05
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

function bothWays(cdA: number, gas: Gas, tie: Tie): Law {
  if (cdA <= 0) return shut(tie)
  return (p1, p2, out) => {
    if (p1 >= p2) return nozzleFlow(cdA, gas, p1, p2, out)
    nozzleFlow(cdA, gas, p2, p1, out)
    const d1 = out.d1
    out.m = -out.m
    out.d1 = -out.d2
    out.d2 = -d1
  }
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
 * Hose: p1^2 - p2^2 = G^2 R T (f L/D + K). The law gives pressure from flow, so it is inverted here by Newton on the mass flow,
 * from the last answer. The pressure at the low end never counts as lower than the isothermal sonic one, G sqrt(RT): beyond it the
 * hose is choked and more suction brings no more flow (Shapiro, Compressible Fluid Flow, isothermal limit).
 */
function hoseLaw(hose: Hose, gas: Gas, tie: Tie): Law {
  if (hose.boreM <= 0) return shut(tie)
  const area = Math.PI * hose.boreM * hose.boreM / 4
  const mu = airViscosity(gas.T)
  const perRe = hose.boreM / (area * mu) // Re = m perRe
  const rel = hose.roughnessM / hose.boreM
  const edge = colebrook(4000, rel)
  const perF = hose.lengthM / hose.boreM + hose.kPerF
  const unit = gas.R * gas.T / (area * area) // p1^2 - p2^2 = m^2 unit (perF f + K)
  let last = 0

  function inverse(target: number): { m: number; slope: number } {
    let m = last > 0 ? last : 0
    const laminar = 64 * unit * perF / perRe // drop = laminar m when only laminar friction acts
    if (!(m > 0)) m = Math.sqrt(target / (unit * (perF * 0.03 + hose.kFixed)))
    // a flow so small that it is all laminar
    if (laminar > 0) {
      const k = unit * hose.kFixed
      const small = k > 0 ? 2 * target / (laminar + Math.sqrt(laminar * laminar + 4 * k * target)) : target / laminar
      if (small * perRe <= 2000) return { m: small, slope: laminar + 2 * k * small }
    }
    let low = 0
    let high = Infinity
    let s = 1
    for (let i = 0; i < 60; i++) {
      const re = m * perRe
      const f = frictionFactor(re, rel, edge)
      const loss = unit * (perF * f + hose.kFixed)
      s = m * (2 * loss + m * unit * perF * frictionSlope(re, rel, f, edge) * perRe)
      const off = m * m * loss - target
      if (off > 0) high = m
      else low = m
      if (Math.abs(off) <= 1e-12 * target) break
      let next = m - off / s
      if (!(next > low && next < high)) next = high === Infinity ? m * 2 : (low + high) / 2
      if (Math.abs(next - m) <= 1e-15 * m) { m = next; break }
      m = next
    }
    last = m
    return { m, slope: s }
  }

  function forward(p1: number, p2: number, out: Flow): void {
    const target = p1 * p1 - p2 * p2
    if (target <= 0) { // equal pressures: the laminar slope keeps the Jacobian regular
      const laminar = 64 * unit * perF / perRe
      const s = laminar > 0 ? laminar : unit * hose.kFixed * 1e-9
      out.m = 0; out.d1 = 2 * p1 / s; out.d2 = -2 * p2 / s
      return
    }
    const open = inverse(target)
    const sonic = unit * open.m * open.m // (G sqrt(RT))^2
    if (sonic > p2 * p2) {
      // choked: p1^2 = m^2 unit (perF f + K + 1), by Newton from the unchoked flow
      let m = open.m
      let slope = 1
      for (let i = 0; i < 6; i++) {
        const re = m * perRe
        const f = frictionFactor(re, rel, edge)
        const loss = unit * (perF * f + hose.kFixed + 1)
        slope = m * (2 * loss + m * unit * perF * frictionSlope(re, rel, f, edge) * perRe)
        m -= (m * m * loss - p1 * p1) / slope
      }
      out.m = m; out.d1 = 2 * p1 / slope; out.d2 = 0
      return
    }
    out.m = open.m
    out.d1 = 2 * p1 / open.slope
    out.d2 = -2 * p2 / open.slope
  }

  return (p1, p2, out) => {
    if (p1 >= p2) return forward(p1, p2, out)
    forward(p2, p1, out)
    const d1 = out.d1
    out.m = -out.m
    out.d1 = -out.d2
    out.d2 = -d1
  }
}

/** Nothing passes: a hose or hole of no size. */
const shut = (tie: Tie): Law => (p1, p2, out) => {
  out.m = tie.leak * (p1 - p2); out.d1 = tie.leak; out.d2 = -tie.leak
}

/** dp = a Q + b rho Q^2 with Q = m/rho at the mean density, solved for m. */
function lossLaw(loss: Loss, gas: Gas): Law {
  const RT = gas.R * gas.T
  const forward = (p1: number, p2: number, out: Flow) => {
    const rho = (p1 + p2) / (2 * RT)
    const dp = p1 - p2
    // a m + b m^2 = rho dp; the root written so that it neither cancels nor divides by zero
    const root = Math.sqrt(loss.a * loss.a + 4 * loss.b * rho * dp)
    const sum = loss.a + root
    if (!(sum > 0)) { // pure square law at rest
      const s = Math.sqrt(rho / (loss.b * BLEND_PA))
      out.m = s * dp; out.d1 = s; out.d2 = -s
      return
    }
    out.m = 2 * rho * dp / sum
    const dm = 1 / Math.max(root, Math.sqrt(4 * loss.b * rho * BLEND_PA)) // dm/d(rho dp)
    out.d1 = dm * (rho + dp / (2 * RT))
    out.d2 = dm * (-rho + dp / (2 * RT))
  }
  return (p1, p2, out) => {
    if (p1 >= p2) return forward(p1, p2, out)
    forward(p2, p1, out)
    const d1 = out.d1
    out.m = -out.m
    out.d1 = -out.d2
    out.d2 = -d1
  }
}

/** The law of an element for a gas. Laws keep no state but a hose's last flow, which only speeds its next inversion. */
export function flowLaw(element: Element, gas: Gas, tie: Tie): Law {
  switch (element.kind) {
    case 'hose': return hoseLaw(element, gas, tie)
    case 'orifice': return bothWays(element.cd * element.areaM2, gas, tie)
    case 'check': return checkLaw(element.cd * element.areaM2, element.crackPa, element.cd * (element.leakM2 ?? 0), gas, tie)
    case 'pcv': return pcvLaw(element.cd, element.area, element.cd * (element.leakM2 ?? 0), gas, tie)
    case 'loss': return lossLaw(element, gas)
  }
}

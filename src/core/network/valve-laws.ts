/** Holes and valves: everything whose open area the isentropic nozzle passes. */
import type { Gas } from './elements'
import { bothDirections, shut, type Flow, type Law, type Tie } from './law'
import { nozzleFlow } from './nozzle'

/** A one-way valve opens over this pressure, so that it has no corner at its seat for Newton to bounce on. */
const SEAT_PA = 0.05
/** Flow and slopes of a valve that is just leaving its seat: scaled up over SEAT_PA. */
function leaveSeat(over: number, out: Flow): void {
  if (over >= SEAT_PA) return
  const s = over / SEAT_PA
  out.d1 = out.d1 * s + out.m / SEAT_PA
  out.d2 = out.d2 * s - out.m / SEAT_PA
  out.m *= s
}

export function bothWays(cdA: number, gas: Gas, tie: Tie): Law {
  return cdA <= 0 ? shut(tie) : bothDirections((p1, p2, out) => nozzleFlow(cdA, gas, p1, p2, out))
}

export function checkLaw(cdA: number, crackPa: number, leakCdA: number, gas: Gas, tie: Tie): Law {
  const leak = leakCdA > 0 ? bothWays(leakCdA, gas, tie) : undefined
  const extra: Flow = { m: 0, d1: 0, d2: 0 }
  return (p1, p2, out) => {
    const head = p1 - crackPa
    if (head > p2) {
      nozzleFlow(cdA, gas, head, p2, out)
      leaveSeat(head - p2, out)
    } else {
      out.m = 0
      out.d1 = 0
      out.d2 = 0
    }
    if (leak) {
      leak(p1, p2, extra)
      out.m += extra.m
      out.d1 += extra.d1
      out.d2 += extra.d2
    }
    out.m += tie.leak * (p1 - p2)
    out.d1 += tie.leak
    out.d2 -= tie.leak
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

export function pcvLaw(
  cd: number,
  table: readonly (readonly [number, number])[],
  leakCdA: number,
  gas: Gas,
  tie: Tie,
): Law {
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
    } else {
      out.m = 0
      out.d1 = 0
      out.d2 = 0
    }
    if (leak) {
      leak(p1, p2, extra)
      out.m += extra.m
      out.d1 += extra.d1
      out.d2 += extra.d2
    }
    out.m += tie.leak * (p1 - p2)
    out.d1 += tie.leak
    out.d2 -= tie.leak
  }
}

/** Area grows straight from `shutPa` to `openPa` on the inlet side; backwards all of it is open. */
export function regulatorLaw(cdA: number, openPa: number, shutPa: number, gas: Gas, tie: Tie): Law {
  if (cdA <= 0) return shut(tie)
  return (p1, p2, out) => {
    if (p1 < p2) {
      nozzleFlow(cdA, gas, p2, p1, out)
      const d1 = out.d1
      out.m = -out.m
      out.d1 = -out.d2
      out.d2 = -d1
    } else {
      const share = Math.min(1, Math.max(0, (p1 - shutPa) / (openPa - shutPa)))
      const slope = share > 0 && share < 1 ? 1 / (openPa - shutPa) : 0
      nozzleFlow(cdA, gas, p1, p2, out)
      out.d1 = out.d1 * share + out.m * slope
      out.d2 *= share
      out.m *= share
    }
    out.m += tie.leak * (p1 - p2)
    out.d1 += tie.leak
    out.d2 -= tie.leak
  }
}

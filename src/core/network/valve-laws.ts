/** Holes and valves: everything whose open area the isentropic nozzle passes. */
import type { Gas } from './elements'
import { addLeak, lawOf, leakAlone, turnRound, type Flow } from './law'
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

/** A hole that is the same both ways. */
function bothWays(cdA: number, gas: Gas, p1: number, p2: number, out: Flow): void {
  if (p1 >= p2) return nozzleFlow(cdA, gas, p1, p2, out)
  nozzleFlow(cdA, gas, p2, p1, out)
  turnRound(out)
}

/** A seat's own leak, beside what its valve passes. */
function addSeatLeak(cdA: number, gas: Gas, p1: number, p2: number, out: Flow): void {
  if (cdA <= 0) return
  bothWays(cdA, gas, p1, p2, leaking)
  out.m += leaking.m
  out.d1 += leaking.d1
  out.d2 += leaking.d2
}
const leaking: Flow = { m: 0, d1: 0, d2: 0 }

/** Shut: only its leaks pass. */
function nothing(out: Flow): void {
  out.m = 0
  out.d1 = 0
  out.d2 = 0
}

export function orificeLaw() {
  let cdA = 0
  let gas: Gas = NO_GAS
  return lawOf(
    'orifice',
    (orifice, g) => {
      cdA = orifice.cd * orifice.areaM2
      gas = g
    },
    (p1, p2, out) => (cdA <= 0 ? leakAlone(p1, p2, out) : bothWays(cdA, gas, p1, p2, out)),
  )
}
const NO_GAS: Gas = { R: 1, gamma: 1.4, T: 1 }

export function checkLaw() {
  let [cdA, crackPa, leakCdA] = [0, 0, 0]
  let gas: Gas = NO_GAS
  return lawOf(
    'check',
    (check, g) => {
      cdA = check.cd * check.areaM2
      crackPa = check.crackPa
      leakCdA = check.cd * (check.leakM2 ?? 0)
      gas = g
    },
    (p1, p2, out) => {
      const head = p1 - crackPa
      if (head > p2) {
        nozzleFlow(cdA, gas, head, p2, out)
        leaveSeat(head - p2, out)
      } else nothing(out)
      addSeatLeak(leakCdA, gas, p1, p2, out)
      addLeak(p1, p2, out)
    },
  )
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

export function pcvLaw() {
  let [cd, leakCdA] = [0, 0]
  let table: readonly (readonly [number, number])[] = []
  let gas: Gas = NO_GAS
  return lawOf(
    'pcv',
    (pcv, g) => {
      cd = pcv.cd
      leakCdA = pcv.cd * (pcv.leakM2 ?? 0)
      table = pcv.area
      gas = g
    },
    (p1, p2, out) => {
      if (p1 > p2) {
        const { area, slope } = tableArea(table, p1 - p2)
        nozzleFlow(cd, gas, p1, p2, out) // per unit area
        const perArea = out.m
        out.m *= area
        out.d1 = out.d1 * area + perArea * slope
        out.d2 = out.d2 * area - perArea * slope
        leaveSeat(p1 - p2, out)
      } else nothing(out)
      addSeatLeak(leakCdA, gas, p1, p2, out)
      addLeak(p1, p2, out)
    },
  )
}

/** Area grows straight from `shutPa` to `openPa` on the inlet side; backwards all of it is open. */
export function regulatorLaw() {
  let [cdA, openPa, shutPa] = [0, 0, 0]
  let gas: Gas = NO_GAS
  return lawOf(
    'regulator',
    (regulator, g) => {
      cdA = regulator.cd * regulator.areaM2
      openPa = regulator.openPa
      shutPa = regulator.shutPa
      gas = g
    },
    (p1, p2, out) => {
      if (cdA <= 0) return leakAlone(p1, p2, out)
      if (p1 < p2) bothWays(cdA, gas, p1, p2, out)
      else {
        const share = Math.min(1, Math.max(0, (p1 - shutPa) / (openPa - shutPa)))
        const slope = share > 0 && share < 1 ? 1 / (openPa - shutPa) : 0
        nozzleFlow(cdA, gas, p1, p2, out)
        out.d1 = out.d1 * share + out.m * slope
        out.d2 *= share
        out.m *= share
      }
      addLeak(p1, p2, out)
    },
  )
}

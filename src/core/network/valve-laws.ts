/** Holes and valves: everything whose open area the isentropic nozzle passes. */
import { addLeak, elementLaw, leakAlone, type Flow } from './law'
import { addFlow, flowBothWays, makeHole, nozzleFlow, tuneHole } from './nozzle'

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

/** Shut: only its leaks pass. */
function nothing(out: Flow): void {
  out.m = 0
  out.d1 = 0
  out.d2 = 0
}

/** Law of an orifice: flow in kg/s and its slopes by the pressures in Pa at its ends, both ways (isentropic nozzle). */
export function orificeLaw() {
  const hole = makeHole()
  return elementLaw(
    'orifice',
    (orifice, gas) => tuneHole(hole, orifice.cd * orifice.areaM2, gas),
    (p1, p2, out) => (hole.cdA <= 0 ? leakAlone(p1, p2, out) : flowBothWays(hole, p1, p2, out)),
  )
}

/** Law of a check valve: an orifice on what is left above its cracking pressure, backwards no more than it leaks. */
export function checkLaw() {
  const seat = makeHole()
  const seatLeak = makeHole()
  let crackPa = 0
  return elementLaw(
    'check',
    (check, gas) => {
      tuneHole(seat, check.cd * check.areaM2, gas)
      tuneHole(seatLeak, check.cd * (check.leakM2 ?? 0), gas)
      crackPa = check.crackPa
    },
    (p1, p2, out) => {
      const head = p1 - crackPa
      if (head > p2) {
        nozzleFlow(seat, head, p2, out)
        leaveSeat(head - p2, out)
      } else nothing(out)
      addFlow(seatLeak, p1, p2, out)
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

/** Law of a PCV valve: an orifice whose area follows a table of the pressure difference, nothing backwards. */
export function pcvLaw() {
  const perArea = makeHole()
  const seatLeak = makeHole()
  let table: readonly (readonly [number, number])[] = []
  return elementLaw(
    'pcv',
    (pcv, gas) => {
      tuneHole(perArea, pcv.cd, gas)
      tuneHole(seatLeak, pcv.cd * (pcv.leakM2 ?? 0), gas)
      table = pcv.area
    },
    (p1, p2, out) => {
      if (p1 > p2) {
        const { area, slope } = tableArea(table, p1 - p2)
        nozzleFlow(perArea, p1, p2, out)
        const flux = out.m
        out.m *= area
        out.d1 = out.d1 * area + flux * slope
        out.d2 = out.d2 * area - flux * slope
        leaveSeat(p1 - p2, out)
      } else nothing(out)
      addFlow(seatLeak, p1, p2, out)
      addLeak(p1, p2, out)
    },
  )
}

/** Area grows straight from `shutPa` to `openPa` on the inlet side; backwards all of it is open. */
export function regulatorLaw() {
  const hole = makeHole()
  let [openPa, shutPa] = [0, 0]
  return elementLaw(
    'regulator',
    (regulator, gas) => {
      tuneHole(hole, regulator.cd * regulator.areaM2, gas)
      openPa = regulator.openPa
      shutPa = regulator.shutPa
    },
    (p1, p2, out) => {
      if (hole.cdA <= 0) return leakAlone(p1, p2, out)
      if (p1 < p2) flowBothWays(hole, p1, p2, out)
      else {
        const share = Math.min(1, Math.max(0, (p1 - shutPa) / (openPa - shutPa)))
        const slope = share > 0 && share < 1 ? 1 / (openPa - shutPa) : 0
        nozzleFlow(hole, p1, p2, out)
        out.d1 = out.d1 * share + out.m * slope
        out.d2 *= share
        out.m *= share
      }
      addLeak(p1, p2, out)
    },
  )
}

/** Mass flow through one element from the pressures at its ends, with its derivatives. */
import type { Element, Gas } from './elements'
import { hoseLaw } from './hose-law'
import { addLeak, BLEND_PA, elementLaw, leakAlone, type ElementLaw } from './law'
import { checkLaw, orificeLaw, pcvLaw, regulatorLaw } from './valve-laws'

/** dp = a Q + b rho Q^2 with Q = m/rho at the mean density, solved for m; the square's root is straightened within BLEND_PA. */
function lossLaw() {
  let [a, b, twiceRT] = [0, 0, 0]
  return elementLaw(
    'loss',
    (loss, gas) => {
      a = loss.a
      b = loss.b
      twiceRT = 2 * (gas.R * gas.T)
    },
    (p1, p2, out) => {
      const rho = (p1 + p2) / twiceRT
      const dp = p1 - p2
      const size = Math.sqrt(dp * dp + BLEND_PA * BLEND_PA)
      // a m + b m^2 = rho dp; the root written so that it neither cancels nor divides by zero
      const root = Math.sqrt(a * a + 4 * b * rho * size)
      const sum = a + root
      out.m = (2 * rho * dp) / sum
      const bend = ((out.m / sum) * 2 * b) / root
      const byDp = (2 * rho) / sum - (bend * rho * dp) / size
      const byRho = ((2 * dp) / sum - bend * size) / twiceRT
      out.d1 = byDp + byRho
      out.d2 = -byDp + byRho
    },
  )
}

/** Below this volumetric efficiency a pump fades out instead of stopping at a corner. */
const PUMP_FADE = 0.02

function pumpLaw() {
  let [perPa, clearance, gamma] = [0, 0, 1]
  return elementLaw(
    'pump',
    (pump, gas) => {
      perPa = pump.sweptM3s / (gas.R * gas.T)
      clearance = pump.clearance
      gamma = gas.gamma
    },
    (p1, p2, out) => {
      if (perPa <= 0) return leakAlone(p1, p2, out)
      const back = clearance * (p2 / p1) ** (1 / gamma)
      const raw = 1 + clearance - back
      // x itself well above zero, none well below, a parabola between: no corner, never negative
      const share = raw >= PUMP_FADE ? raw : raw <= -PUMP_FADE ? 0 : (raw + PUMP_FADE) ** 2 / (4 * PUMP_FADE)
      const bend = raw >= PUMP_FADE ? 1 : raw <= -PUMP_FADE ? 0 : (raw + PUMP_FADE) / (2 * PUMP_FADE)
      out.m = perPa * p1 * share
      out.d1 = perPa * (share + (bend * back) / gamma)
      out.d2 = (-perPa * p1 * bend * back) / gamma / p2
      addLeak(p1, p2, out)
    },
  )
}

function blankLaw(kind: Element['kind']): ElementLaw {
  switch (kind) {
    case 'hose':
      return hoseLaw()
    case 'orifice':
      return orificeLaw()
    case 'check':
      return checkLaw()
    case 'pcv':
      return pcvLaw()
    case 'loss':
      return lossLaw()
    case 'regulator':
      return regulatorLaw()
    case 'pump':
      return pumpLaw()
  }
}

/**
 * The law of an element for a gas. Laws keep no state but a hose's last friction, which only speeds its next inversion.
 *
 * @example
 * import { flowLaw } from '@/core/network/flow'
 *
 * const gas = { R: 287.05, gamma: 1.4, T: 353.15 }
 * const out = { m: 0, d1: 0, d2: 0 }
 * flowLaw({ id: 'o', kind: 'orifice', from: 'a', to: 'b', cd: 0.62, areaM2: 1e-5 }, gas).at(103325, 101325, out)
 * console.log(out.m) // 0.00039175564616500397
 */
export function flowLaw(element: Element, gas: Gas): ElementLaw {
  const law = blankLaw(element.kind)
  law.tune(element, gas)
  return law
}

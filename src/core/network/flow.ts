/** Mass flow through one element from the pressures at its ends, with its derivatives. */
import type { Element, Gas, Loss } from './elements'
import { hoseLaw } from './hose-law'
import { BLEND_PA, shut, type Law, type Tie } from './law'
import { bothWays, checkLaw, pcvLaw, regulatorLaw } from './valve-laws'

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
    out.m = (2 * rho * dp) / sum
    const bend = ((out.m / sum) * 2 * loss.b) / root
    const byDp = (2 * rho) / sum - (bend * rho * dp) / size
    const byRho = ((2 * dp) / sum - bend * size) / (2 * RT)
    out.d1 = byDp + byRho
    out.d2 = -byDp + byRho
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
    out.d1 = perPa * (share + (bend * back) / gas.gamma) + tie.leak
    out.d2 = (-perPa * p1 * bend * back) / gas.gamma / p2 - tie.leak
  }
}

/**
 * The law of an element for a gas. Laws keep no state but a hose's last friction, which only speeds its next inversion.
 * @example typeof flowLaw({ id: 'o', kind: 'orifice', from: 'a', to: 'b', cd: 0.62, areaM2: 1e-5 }, gas, { leak: 0 }) // 'function'
 */
export function flowLaw(element: Element, gas: Gas, tie: Tie): Law {
  switch (element.kind) {
    case 'hose':
      return hoseLaw(element, gas, tie)
    case 'orifice':
      return bothWays(element.cd * element.areaM2, gas, tie)
    case 'check':
      return checkLaw(element.cd * element.areaM2, element.crackPa, element.cd * (element.leakM2 ?? 0), gas, tie)
    case 'pcv':
      return pcvLaw(element.cd, element.area, element.cd * (element.leakM2 ?? 0), gas, tie)
    case 'loss':
      return lossLaw(element, gas)
    case 'regulator':
      return regulatorLaw(element.cd * element.areaM2, element.openPa, element.shutPa, gas, tie)
    case 'pump':
      return pumpLaw(element.sweptM3s, element.clearance, gas, tie)
  }
}

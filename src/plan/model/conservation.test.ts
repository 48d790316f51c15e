/** What goes in comes out or is caught: oil and water at every joint and can, over all classes, schools and states. */
import { carry } from '@/core/separation/carriage'
import { DRY_GAS_KG_PER_MOL, WATER_KG_PER_MOL } from '@/core/water/vapour'
import { ENGINE_CLASSES } from '../catalogue/engines'
import { activeVariant } from '../edit/edit'
import { newBuild } from '../schools/new-build'
import { SCHOOLS } from '../schools/schools'
import { airWater, blowByWater, carriageIn, sourcesOf } from './carriage'
import { blowByIn, engineModel } from './engine'
import { networkOf } from './network'
import { resolve } from './resolve'
import { solveNetwork } from '@/core/network/solve'

const TOLERANCE = 1e-9
const waterShare = (y: number) => (y * WATER_KG_PER_MOL) / (y * WATER_KG_PER_MOL + (1 - y) * DRY_GAS_KG_PER_MOL)

/** Largest relative imbalance of oil at a joint that makes none, and of water over the whole circuit. */
function imbalance(school: string, engineClass: (typeof ENGINE_CLASSES)[number]['key']): number {
  const build = newBuild({ name: 'x', engineClass, use: 'street', ambientC: 5, units: 'metric', school })
  const variant = activeVariant(build)
  const engine = engineModel(build)
  const r = resolve(variant)
  let worst = 0
  for (const operating of engine.states) {
    const blowBy = blowByIn(engine, operating)
    const network = networkOf(r, operating, engine.amb, blowBy)
    const solved = solveNetwork(network)
    if (!solved.ok) throw new Error(`${engineClass} ${school} ${operating.id}: ${solved.reason}`)
    const sources = sourcesOf(r)
    const running = { operating, network, solution: solved.value, blowBy, ambientPa: engine.amb.pressurePa }
    const load = carriageIn({ build, variant, sources, carry }, running)
    const made = new Set([sources.crankcase, ...sources.covers])
    const oil = new Map<string, { into: number; out: number }>()
    const at = (id: string) => {
      const known = oil.get(id) ?? { into: 0, out: 0 }
      oil.set(id, known)
      return known
    }
    const held = (id: string) => network.nodes[id]!.p !== undefined
    const yAir = airWater(build, engine.amb.pressurePa)
    // gas comes in as blow-by and out of boundaries, and goes into boundaries; what a can catches goes nowhere
    let [waterIn, waterOut] = [blowBy * waterShare(blowByWater(build.engine, yAir)), 0]
    for (const e of network.elements) {
      const m = solved.value.flow[e.id]!
      const oilIn = load.oil[e.id]
      if (!oilIn) continue
      const [from, to] = m > 0 ? [e.from, e.to] : [e.to, e.from]
      const carried = oilIn.mist + oilIn.splash
      const can = load.cans[e.id]
      at(from).out += carried
      at(to).into += carried - (can ? can.caught.mist + can.caught.splash : 0)
      if (held(from)) waterIn += Math.abs(m) * waterShare(yAir)
      if (held(to)) waterOut += load.water[e.id]! - (can?.waterCaught ?? 0)
      waterOut += can?.waterCaught ?? 0
    }
    for (const [id, { into, out }] of oil) {
      if (made.has(id) || held(id) || into < 1e-15) continue
      worst = Math.max(worst, Math.abs(into - out) / into)
    }
    worst = Math.max(worst, Math.abs(waterIn - waterOut) / waterIn)
  }
  return worst
}

test.each(ENGINE_CLASSES.map((c) => c.key))('%s: every school in every state', (engineClass) => {
  for (const s of SCHOOLS) expect([s.key, imbalance(s.key, engineClass) < TOLERANCE]).toEqual([s.key, true])
})

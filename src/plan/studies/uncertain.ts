/** The inputs that are estimated or read with an error: how far each may be off, and what measurement would replace it. */
import { RING_SHARE_RANGE } from '@/core/engine/states'
import type { Build, Part } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { defaultOf } from '../model/engine'

/** One standard deviation of a normal; a factor x/ `range` is taken as the 10 and 90 % points of a lognormal. */
const NINETY = 1.2816
const sigmaOf = (range: number) => Math.log(range) / NINETY

export type Uncertain = {
  readonly id: string
  readonly name: string
  /** what to do to know it better */
  readonly measure: string
  /** the range as a person reads it */
  readonly range: string
  /** how well that measurement would know it: its standard deviation over the present one */
  readonly left: number
  /** the build with this input moved by `z` standard deviations; or a factor on blow-by */
  readonly move: (build: Build, z: number) => Build
  readonly blowBy?: (z: number) => number
}

const times = (range: number, z: number) => Math.exp(sigmaOf(range) * z)
const same = (build: Build) => build

/** Several parts at once: catalogue figures of one kind are off together only by chance, so each part is an input of its own. */
const withPart = (build: Build, id: string, change: (p: Part) => Part): Build => ({
  ...build,
  variants: build.variants.map((v) =>
    v.id === build.active ? { ...v, parts: v.parts.map((p) => (p.id === id ? change(p) : p)) } : v,
  ),
})
const own = (p: Part) => 'model' in p && p.model === 'own'

/** Methods 3 and 4 give the ranges of ring share and default figures; those of parts are estimates of the trade. */
export function uncertainInputs(build: Build): readonly Uncertain[] {
  const { engine } = build
  const list: Uncertain[] = []
  if (engine.blowBy) {
    const meter = engine.blowBy.lpm !== undefined
    list.push({
      id: 'blowBy',
      name: 'Blow-by, as measured',
      measure: 'repeat the measurement',
      range: meter ? '± 5 %' : '± 8 %',
      left: 0.7,
      move: same,
      blowBy: (z) => 1 + (meter ? 0.05 : 0.08) * z,
    })
  } else
    list.push({
      id: 'blowBy',
      name: `Blow-by of ${engine.rings} rings`,
      measure: 'measure blow-by with a meter or an orifice',
      range: `×/÷ ${RING_SHARE_RANGE}`,
      left: 0.05 / sigmaOf(RING_SHARE_RANGE),
      move: same,
      blowBy: (z) => times(RING_SHARE_RANGE, z),
    })

  const inletFrom = engine.inletDepressionKpa ?? defaultOf(build, 'inletDepressionKpa')
  const inletRange = engine.inletDepressionKpa === undefined ? 1.5 : 1.08
  list.push({
    id: 'inlet',
    name: 'Inlet depression',
    measure: 'read it ahead of the throttle or compressor at rated speed',
    range: engine.inletDepressionKpa === undefined ? '×/÷ 1.5' : '×/÷ 1.08',
    left: sigmaOf(1.08) / sigmaOf(1.5),
    move: (b, z) => ({
      ...b,
      engine: { ...b.engine, inletDepressionKpa: Math.min(30, inletFrom * times(inletRange, z)) },
    }),
  })

  const idleFrom = engine.idleManifoldKpa ?? defaultOf(build, 'idleManifoldKpa')
  const idleSigma = engine.idleManifoldKpa === undefined ? 5 : 1
  list.push({
    id: 'idleManifold',
    name: 'Manifold pressure at idle',
    measure: 'log it at warm idle',
    range: idleSigma === 5 ? '± 5 kPa' : '± 1 kPa',
    left: 1 / idleSigma,
    move: (b, z) => ({
      ...b,
      engine: { ...b.engine, idleManifoldKpa: Math.min(95, Math.max(12, idleFrom + idleSigma * z)) },
    }),
  })

  for (const p of activeVariant(build).parts) {
    const add = (what: string, measure: string, range: number, change: (f: number) => (q: Part) => Part) =>
      list.push({
        id: p.id,
        name: `${p.name}, ${what}`,
        measure,
        range: `×/÷ ${range}`,
        left: sigmaOf(1.08) / sigmaOf(range),
        move: (b, z) => withPart(b, p.id, change(times(range, z))),
      })
    switch (p.kind) {
      case 'pcv':
        if (!own(p))
          add(
            'open area',
            'flow it on a bench, or read flow against suction',
            1.25,
            (f) => (q) => ({ ...q, areaMm2ByKpa: p.areaMm2ByKpa.map(([dp, a]) => [dp, a * f]) }) as Part,
          )
        break
      case 'can':
        add(
          'drop',
          'read the pressure across it',
          own(p) ? 1.1 : 1.3,
          (f) => (q) => ({ ...q, dropKpaAt100: p.dropKpaAt100 * f }) as Part,
        )
        break
      case 'filter':
        add(
          'drop',
          'read the pressure across it',
          own(p) ? 1.1 : 1.3,
          (f) => (q) => ({ ...q, dropKpaAt100: p.dropKpaAt100 * f }) as Part,
        )
        break
      case 'check':
        add(
          'seat',
          'measure the seat and the lift',
          own(p) ? 1.05 : 1.15,
          (f) => (q) => ({ ...q, seatMm: p.seatMm * f }) as Part,
        )
        break
      case 'regulator':
        add(
          'set point',
          'read crankcase pressure at a high idle',
          1.2,
          (f) => (q) => ({ ...q, setKpa: p.setKpa * f }) as Part,
        )
        break
      case 'passage':
        add(
          'bore',
          'measure the passages with a drill shank',
          1.12,
          (f) => (q) => ({ ...q, boreMm: p.boreMm * f }) as Part,
        )
        break
      default:
        break
    }
  }
  return list
}

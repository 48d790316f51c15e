/** Stages of a can as the document says them, for the core, and the drop that follows from them. */
import { clogged, dropLaw } from '@/core/separation/drop'
import type { Stage } from '@/core/separation/stages'
import { toSi } from '@/core/units/units'
import type { PartOf, StageSpec } from '../document/schema'

const mm = (v: number) => toSi('length', v, 'mm')
const cm2 = (v: number) => toSi('area', v, 'cm2')

/** A stage of a document (practical units) as the core takes it (SI). */
export function stageOf(s: StageSpec): Stage {
  switch (s.type) {
    case 'impactor':
      return { type: 'impactor', jets: s.jets, jetDiameter: mm(s.jetDiameterMm) }
    case 'cyclone':
      return { type: 'cyclone', inletWidth: mm(s.inletWidthMm), inletHeight: mm(s.inletHeightMm), turns: s.turns }
    case 'settling':
      return { type: 'settling', area: cm2(s.floorCm2) }
    case 'fibre':
      return {
        type: 'fibre',
        fibreDiameter: s.fibreUm * 1e-6,
        solidity: s.solidityPct / 100,
        thickness: mm(s.thicknessMm),
        area: cm2(s.faceCm2),
      }
  }
}

/** Stages of a can as clogged as it is: they cost that many times their own, and catch as what is left of them does. */
export const stagesOf = ({ stages, fouling }: Pick<PartOf<'can'>, 'stages' | 'fouling'>): readonly Stage[] =>
  stages.map((s) => clogged(stageOf(s), fouling ?? 1))

/** What drops of cans and filters are stated at: 100 l/min in m3/s, of air of 1.2 kg/m3, and K of gas as it comes warm from a crankcase. */
export const DROP_REFERENCE = { flow: 0.1 / 60, density: 1.2, gasK: 343.15 } as const

/** Drop at 100 l/min in kPa and its share in step with flow, as a document holds them, of stages between nipples of this bore. */
export function dropOf(
  stages: readonly StageSpec[],
  nippleMm: number,
): { readonly dropKpaAt100: number; readonly linearPct: number } {
  const { a, b } = dropLaw(stages.map(stageOf), mm(nippleMm), DROP_REFERENCE.gasK)
  const { flow, density } = DROP_REFERENCE
  const [linear, square] = [a * flow, b * density * flow * flow]
  return {
    dropKpaAt100: Number(((linear + square) / 1000).toPrecision(2)),
    linearPct: Math.round((100 * linear) / (linear + square)),
  }
}

/** Where the water goes that comes to a can: what the hoses to it condense, what the can does, what passes on. */
import { NO_FLOW } from '../model/results'
import { coolAndCondense } from '@/core/water/cooling'
import { DRY_GAS_KG_PER_MOL, WATER_KG_PER_MOL } from '@/core/water/vapour'
import { WATER_POURED } from '@/core/gas/oil'
import type { Variant } from '../document/schema'
import { CAN_U, hoseSurface } from '../model/carriage'
import { resolve } from '../model/resolve'
import type { SolvedState } from '../model/results'
import type { EngineModel } from '../model/engine'

/** m3/s of water */
export type WaterWay = { readonly comes: number; readonly hoses: number; readonly can: number; readonly goesOn: number }

/**
 * Of a solved state. The hoses come first, so they condense what they would alone; the can what is left of what both do together.
 * Undefined where no gas passes.
 */
export function waterWay(variant: Variant, s: SolvedState, can: string, { amb }: EngineModel): WaterWay | undefined {
  const passage = s.passages[can]
  const caught = s.cans[can]?.waterCaught ?? 0
  const m = Math.abs(passage?.flow ?? 0)
  if (!passage || m < NO_FLOW) return undefined
  const dry = (m - passage.water) / DRY_GAS_KG_PER_MOL
  const wet = passage.water / WATER_KG_PER_MOL
  const gasK = Math.max(s.operating.bonnetK, s.operating.gasK)
  const ua = CAN_U * hoseSurface(resolve(variant), can)
  const alone = coolAndCondense(
    { dryMolS: dry, y: wet / (wet + dry), tK: gasK, pPa: amb.pressurePa + passage.gaugeFrom },
    { ua, aroundK: s.operating.bonnetK },
  )
  const hoses = Math.min(caught, alone.condensed * WATER_KG_PER_MOL)
  const poured = (kg: number) => kg / WATER_POURED
  return {
    comes: poured(passage.water),
    hoses: poured(hoses),
    can: poured(caught - hoses),
    goesOn: poured(passage.water - caught),
  }
}

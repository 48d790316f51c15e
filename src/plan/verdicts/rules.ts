/** The rules, in the order of the gas's way. Each looks at the whole analysis and says nothing when it has nothing to say. */
import { freshAir, idleBypass, vacuumLeak } from './rules/air'
import { canReach, clearance, hoseLay, pulledOut, ventLow, weakMount } from './rules/bay'
import { boostInCrankcase, canSeesBoost } from './rules/boost'
import { deadEnd, notSolved, openEnd, portOpen, sensorLost, stuckValve, unjoined } from './rules/circuit'
import { catchRule, ventedStreet } from './rules/law'
import { breatherUnprotected, canSwapped, drainBack, dryCan, tornOff } from './rules/oil'
import { crankcasePressure, hoseVelocity } from './rules/pressure'
import { reading } from './rules/reading'
import { fill, freezing, oilWater } from './rules/service'
import { pulsation, reliefOpen, valveIdle } from './rules/valves'
import type { Rule } from './verdict'

export const RULES: readonly Rule[] = [
  notSolved,
  boostInCrankcase,
  canSeesBoost,
  crankcasePressure,
  freshAir,
  idleBypass,
  breatherUnprotected,
  hoseVelocity,
  pulsation,
  unjoined,
  fill,
  freezing,
  oilWater,
  canSwapped,
  tornOff,
  drainBack,
  valveIdle,
  vacuumLeak,
  openEnd,
  ventedStreet,
  catchRule,
  stuckValve,
  sensorLost,
  portOpen,
  reliefOpen,
  dryCan,
  deadEnd,
  clearance,
  hoseLay,
  ventLow,
  pulledOut,
  weakMount,
  canReach,
  reading,
]

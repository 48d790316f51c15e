/** Every comparison with the world outside. `./ivent docs` prints them, `checks.long.test.ts` runs them. */
import { runCases } from './worked-cases'
import type { Check } from './check'
import { aerosolChecks } from './checks/aerosol'
import { coverageChecks } from './checks/coverage'
import { readingChecks } from './checks/readings'
import { tradeChecks } from './checks/trade'
import { wholePlanChecks } from './checks/whole-plan'
import { engineChecks } from './checks/engine'
import { epanetChecks } from './checks/epanet'
import { gasChecks } from './checks/gas'
import { judgementChecks } from './checks/judgement'
import { pipeChecks } from './checks/pipes'
import { pulsationChecks } from './checks/pulsation'

export const immediateChecks = (): Check[] => [
  ...gasChecks(),
  ...pipeChecks(),
  ...engineChecks(),
  ...aerosolChecks(),
  ...pulsationChecks(),
  ...coverageChecks(),
  ...readingChecks(),
  ...tradeChecks(),
  ...wholePlanChecks(),
]
export const allChecks = async (): Promise<Check[]> => [
  ...immediateChecks(),
  ...judgementChecks(),
  ...(await epanetChecks()),
]
export const workedCases = () => runCases('verification/cases')

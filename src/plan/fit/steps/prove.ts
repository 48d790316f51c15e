/** Once it runs: soap, readings with an instrument that can show them, what the first drive tells, the first look. */
import { lowered, type UnitFormatter } from '../../document/words'
import { FIRST_LOOK } from '../../service/forecast'
import { isSolved, type CanForecast, type StateResult } from '../../model/results'
import type { Build } from '../../document/schema'
import { GRAVITY } from '@/core/gas/air'
import { watched } from './take-off'
import type { CardGround, CardStep } from './step'

const SOAP = 'soapy water on every joint, listen at seals.'

/** Below this a dial gauge shows nothing that can be read, Pa: a fiftieth of its range of 25 kPa. */
const LEAST_ON_A_DIAL = 500
/** Height of a column of water that is read without trouble, mm. */
const COLUMN_MM = 10

/**
 * What reads the crankcase of this plan: a column of water where a state gives less than a dial can show, a dial too where one gives
 * more than a hose of a metre holds. `undefined` while nothing is solved.
 */
export function instrumentFor(states: readonly StateResult[], say: UnitFormatter): string | undefined {
  const gauges = states.filter(isSolved).map((s) => Math.abs(s.crankcaseGauge))
  if (gauges.length === 0) return undefined
  const [least, most] = [Math.min(...gauges), Math.max(...gauges)]
  const column = `a column of water in a loop of clear hose, ${say.mm(COLUMN_MM)} of which are ${say.pressure((COLUMN_MM / 1000) * 1000 * GRAVITY)}`
  // a metre of water
  if (least < LEAST_ON_A_DIAL) return most > 10 * 1000 ? `${column}; a dial gauge where it runs out` : column
  return `a gauge that shows ${say.pressure(least / 5)}`
}

/** When what is new is looked into first: as the log has it, while nothing but the fitting was noted. */
function firstLook(build: Build, say: UnitFormatter, can: CanForecast | undefined): string {
  const begun = can?.emptyAt ?? can?.odometerNow ?? 0
  if (can && can.history.length === 0 && can.checkReason !== 'first look' && Number.isFinite(can.checkBy))
    return `after ${say.distance(can.checkBy - begun)}`
  return build.duty.hours.track > 0 ? 'after the first session' : `after ${say.distance(FIRST_LOOK)}`
}

/** What is known of a plan beside its parts, where it is worked out. */
export type CardFigures = { readonly states: readonly StateResult[]; readonly cans: readonly CanForecast[] }

/** Steps once all is fitted; what is read is judged against `states`, the first look follows the forecasts. */
export function proveSteps(ground: CardGround, { states, cans }: CardFigures): CardStep[] {
  const { build, variant, say } = ground
  const phase = 'Prove it'
  const instrument = instrumentFor(states, say) ?? 'a manometer'
  return [
    {
      key: 'leak',
      phase,
      proof: 'leak',
      says: `Blow ${say.pressure(2000)} and no more into the dipstick tube, engine off, the ends stopped: ${SOAP}`,
      caution: 'More than that pushes seals out.',
    },
    {
      key: 'reading',
      phase,
      proof: 'reading',
      says: `Read the crankcase at the dipstick tube, warm, in each state that you can, with ${instrument}: enter it here.`,
      caution: 'Hose and gauge clear of belt and exhaust; a second person drives.',
    },
    {
      key: 'rub',
      phase,
      proof: 'rub',
      says: 'Look after the first drive: for shine and rub marks, the clay under the bonnet, oil at every joint; trims at idle as before.',
    },
    ...(watched(ground)
      ? [
          {
            key: 'codes-after',
            phase,
            says: 'Read the fault codes after the first drive: a tee or a leak in the sensor’s line, or a part that the computer misses, sets one. What is new is of this work.',
          } as const,
        ]
      : []),
    ...variant.parts.flatMap((p): CardStep[] =>
      p.kind === 'can'
        ? [
            {
              key: `first-${p.id}`,
              phase,
              part: p.id,
              says: `Look into the ${lowered(p.name)} ${firstLook(
                build,
                say,
                cans.find((f) => f.part === p.id),
              )}: enter what is in it at the Log.`,
            },
          ]
        : [],
    ),
  ]
}

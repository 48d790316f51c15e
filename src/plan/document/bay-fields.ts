/** Figures of the bay: what the tape tells. */
import type { Field } from './fields'

/** Where something stands: how far ahead of the datum, to its left and above it. */
export const SPOT_FIELDS = {
  forwardMm: { label: 'Ahead', kept: 'Mm', min: -4000, max: 4000, digits: 4 },
  leftMm: { label: 'Left', kept: 'Mm', min: -3000, max: 3000, digits: 4 },
  upMm: { label: 'Up', kept: 'Mm', min: -2000, max: 2000, digits: 4 },
} as const satisfies Record<string, Field>
/** The pan's full mark, by the dipstick held against the block. */
export const LEVEL_FIELDS = {
  oilLevelMm: { label: 'Oil level in the pan, up', kept: 'Mm', min: -2000, max: 1000, optional: true, digits: 4 },
  // half way between what the car has on both sides: a mirrored bay is mirrored there
  middleMm: { label: 'Middle of the car, left', kept: 'Mm', min: -3000, max: 3000, optional: true, digits: 4 },
} as const satisfies Record<string, Field>
/** How far the lid or ring bracket of a can is turned, seen from above, its inlet to the left at 0. */
export const TURN_FIELDS = {
  turnDeg: { label: 'Turned', unit: '°', min: -360, max: 360, optional: true, digits: 3 },
} as const satisfies Record<string, Field>
/** How far a box reaches, its middle where it stands. */
export const BOX_FIELDS = {
  longMm: { label: 'Long', kept: 'Mm', min: 1, max: 4000, digits: 4 },
  wideMm: { label: 'Wide', kept: 'Mm', min: 1, max: 3000, digits: 4 },
  highMm: { label: 'High', kept: 'Mm', min: 1, max: 2000, digits: 4 },
  // a dipstick or a cap: the room that it needs above itself when it is drawn
  pullMm: { label: 'Pulled up by', kept: 'Mm', min: 0, max: 1500, optional: true, digits: 3 },
  surfaceC: { label: 'Surface, hot', kept: 'C', min: -40, max: 1000, optional: true },
} as const satisfies Record<string, Field>

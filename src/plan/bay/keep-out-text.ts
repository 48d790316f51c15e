/** Something that stands in the bay, read from the tape as it is called out: "battery, 240 x 175 x 190, corner at 300, -60, -250". */
import { fail, ok, type Result } from '@/core/result'
import type { UnitChoice } from '@/core/units/units'
import { BOX_FIELDS, SPOT_FIELDS } from '../document/bay-fields'
import type { Bay } from '../document/schema'
import { readField } from '../edit/typed'

type KeepOut = Bay['keepOuts'][number]

/** What a name says of its kind; the first that fits. */
const KIND_WORDS: readonly (readonly [RegExp, KeepOut['kind']])[] = [
  [/exhaust|turbo|downpipe|silencer|catalyst|manifold.*hot|hot/i, 'hot'],
  [/belt|fan|pulley|chain|linkage|cable|throttle arm/i, 'moving'],
  [/battery|fuse|relay|coil|control unit|harness|connector|alternator|electric/i, 'electrical'],
  [/fuel|injector|rail/i, 'fuel'],
  [/servo|master|brake|abs/i, 'brake'],
  [/steering|rack/i, 'steering'],
  [/dipstick|filler|cap|reservoir|plug/i, 'service'],
  [/engine|head|cover|block|gearbox|manifold|inlet|plenum|throttle/i, 'engine'],
  [/edge|bracket|clamp/i, 'sharp'],
]

const HOW = 'Say its name, three sizes and where it is, as “battery, 240 x 175 x 190, corner at 300, -60, -250”.'
const SIDES = {
  front: [0, 1],
  rear: [0, -1],
  left: [1, 1],
  right: [1, -1],
  upper: [2, 1],
  top: [2, 1],
  lower: [2, -1],
  bottom: [2, -1],
} as const

/** Splits "300, -60, -250" or "300 -60 -250" or "240 x 175 x 190" into three lengths. */
function three(text: string, separator: RegExp): readonly [string, string, string] | undefined {
  const parts = text
    .split(separator)
    .map((t) => t.trim())
    .filter((t) => t !== '')
  return parts.length === 3 ? (parts as unknown as readonly [string, string, string]) : undefined
}

/**
 * A body for the bay from one line of text. Sizes are long, wide, high; the place is ahead, left, up: of its middle ("middle at"), or of a
 * corner: the rear right lower one, unless others are named ("front left upper corner at"). Units may follow each figure.
 * @returns fails with what was not understood
 */
export function keepOutFromText(text: string, units: UnitChoice, id: string): Result<KeepOut> {
  const found =
    /^\s*([^,]+?)\s*,\s*(.+?)\s*,?\s+((?:(?:front|rear|left|right|upper|top|lower|bottom)\s+)*)(corner|middle)\s+(?:at\s+)?(.+)$/i.exec(
      text,
    )
  if (!found) return fail(HOW)
  const [name, size, sides, at, place] = found.slice(1) as [string, string, string, string, string]
  const sizes = three(size, /\s*[x×*]\s*/i)
  if (!sizes) return fail(`“${size}” are not three sizes, such as 240 x 175 x 190.`)
  const places = three(place, /\s*[,;]\s+|\s*;\s*|,(?=\s*-)|\s+(?=-?\d)/)
  if (!places) return fail(`“${place}” are not three distances, such as 300, -60, -250.`)
  const values: number[] = []
  const fields = [
    BOX_FIELDS.longMm,
    BOX_FIELDS.wideMm,
    BOX_FIELDS.highMm,
    SPOT_FIELDS.forwardMm,
    SPOT_FIELDS.leftMm,
    SPOT_FIELDS.upMm,
  ]
  for (const [i, typed] of [...sizes, ...places].entries()) {
    const field = fields[i]!
    const read = readField(field, units, typed)
    if (!read.ok) return fail(`${field.label}, “${typed}”: ${read.reason}`)
    values.push(read.value)
  }
  const [longMm, wideMm, highMm] = values as [number, number, number]
  const middle = values.slice(3)
  if (/corner/i.test(at)) {
    const toward = [-1, -1, -1]
    for (const word of sides.trim().toLowerCase().split(/\s+/)) {
      const side = SIDES[word as keyof typeof SIDES]
      if (side) toward[side[0]] = side[1]
    }
    for (const [k, size_] of [longMm, wideMm, highMm].entries()) middle[k] = middle[k]! - (toward[k]! * size_) / 2
  }
  const [forwardMm, leftMm, upMm] = middle as [number, number, number]
  return ok({
    id,
    name: name.charAt(0).toUpperCase() + name.slice(1),
    kind: KIND_WORDS.find(([words]) => words.test(name))?.[1] ?? 'panel',
    forwardMm,
    leftMm,
    upMm,
    longMm,
    wideMm,
    highMm,
    pullMm: undefined,
    surfaceC: undefined,
    round: undefined,
    lies: undefined,
    measured: true,
  })
}

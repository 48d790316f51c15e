/** Where the ports of a can sit on its body, in words. */
import { quantityText } from '@/core/units/format'
import type { UnitChoice } from '@/core/units/units'
import { canBody, endPlace } from '../catalogue/bay-geometry'
import type { Build, LineEnd, PartOf } from '../document/schema'
import { activeVariant } from '../edit/edit'

/** Directions from above, by eighths of a turn from straight ahead over the left. */
const EIGHTHS = [
  'ahead',
  'ahead and left',
  'left',
  'back and left',
  'back',
  'back and right',
  'right',
  'ahead and right',
]
/** A port nearer to the axis than this sits in the middle, m. */
const MIDDLE = 0.005

/** "Inlet looks ahead, 30 mm under the lid; ..." for a can of the active plan that has a place; empty without one. */
export function canPortsText(build: Build, can: PartOf<'can'>, units: UnitChoice): string {
  const body = canBody(build.bay, can)
  if (!body) return ''
  const [x, y, z] = body.floor
  const says = can.ports.flatMap((port) => {
    const at = endPlace(build.bay, activeVariant(build), { part: can.id, port: port.id } as LineEnd)?.at
    if (!at) return []
    const [dx, dy] = [at[0] - x, at[1] - y]
    if (Math.hypot(dx, dy) < MIDDLE) return [`${port.name.toLowerCase()} in the middle of the floor`]
    const eighth = ((Math.round((Math.atan2(dy, dx) * 4) / Math.PI) % 8) + 8) % 8
    const under = quantityText(z + body.heightM - at[2], 'length', units, 2)
    return [`${port.name.toLowerCase()} looks ${EIGHTHS[eighth]!}, ${under} under the lid`]
  })
  const text = says.join('; ')
  return text.charAt(0).toUpperCase() + text.slice(1)
}

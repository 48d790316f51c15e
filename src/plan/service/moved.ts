/** What an entry of the log has moved, in words: said when one is made, changed or taken out. */
import type { UnitFormatter } from '../document/words'
import type { CanForecast } from '../model/results'

/** Change of a distance that is worth a word, in proportion. */
const WORTH = 0.01

/** A sentence a can whose next look or filling has moved; none where nothing has. */
export function forecastChanges(
  before: readonly CanForecast[],
  after: readonly CanForecast[],
  say: UnitFormatter,
): readonly string[] {
  return after.flatMap((now) => {
    const was = before.find((c) => c.part === now.part)
    if (!was) return []
    const pairOf = (a: number, b: number): readonly [string, string] | undefined =>
      Number.isFinite(a) && Number.isFinite(b) && Math.abs(b - a) > WORTH * Math.max(Math.abs(a), 1)
        ? [say.distance(b), say.distance(a)]
        : undefined
    const full = pairOf(was.distance.mid, now.distance.mid)
    // by how far it still is: an odometer of 200 000 km hides what has moved
    const look = pairOf(was.checkBy - was.odometerNow, now.checkBy - now.odometerNow)
    const parts = [
      ...(full ? [`likely full after ${full[0]} instead of ${full[1]}`] : []),
      ...(look ? [`the next look in ${look[0]} instead of ${look[1]}`] : []),
      ...(now.changed && !was.changed ? [`it is taken for a change since ${now.changed.since}`] : []),
      ...(was.changed && !now.changed ? ['it is no longer taken for a change'] : []),
    ]
    return parts.length > 0 ? [`${now.name}: ${parts.join(', ')}.`] : []
  })
}

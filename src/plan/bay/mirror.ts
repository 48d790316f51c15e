/** The same bay the other way round: the whole body mirrored, or only what goes with the driver. */
import { fail, ok, type Result } from '@/core/result'
import { joinWords, lowered } from '../document/words'
import type { Bay, Build, Line } from '../document/schema'
import { withLengths } from './lay'

/** A build in the other bay, and what has turned with it, in words. */
export type TurnedBay = { readonly build: Build; readonly says: string }

type Placed = { readonly leftMm: number }
const flipped = <T extends Placed>(p: T, middleMm = 0): T => ({ ...p, leftMm: 2 * middleMm - p.leftMm })
const otherSide = (text: string): string =>
  text.replace(/\b(left|right)\b/gi, (word) => {
    const to = word.toLowerCase() === 'left' ? 'right' : 'left'
    return word[0] === word[0]!.toUpperCase() ? to[0]!.toUpperCase() + to.slice(1) : to
  })
const OTHER = { left: 'right', right: 'left' } as const

type Spot = Bay['spots'][number]
const spotOver = (s: Spot): Spot => ({
  ...flipped(s),
  points: s.points === 'left' || s.points === 'right' ? OTHER[s.points] : s.points,
  // the inlet points to the left at 0: what pointed so points to the right then
  turnDeg: s.turnDeg === undefined ? undefined : (((180 - s.turnDeg) % 360) + 360) % 360,
})

const inBay = (build: Build, bay: Bay, way: (w: Line['way']) => Line['way']): Build => ({
  ...build,
  bay,
  variants: build.variants.map((v) =>
    withLengths(bay, { ...v, lines: v.lines.map((l) => (l.way ? { ...l, way: way(l.way) } : l)) }),
  ),
})
const count = (n: number, one: string) => `${n} ${n === 1 ? one : `${one}s`}`

/** The body mirrored, datum and all: what stood to its left stands to its right. Fails without a bay. */
export function mirroredBay(build: Build): Result<TurnedBay> {
  const { bay } = build
  if (!bay) return fail('There is no bay yet to be mirrored.')
  const named = <T extends Placed & { readonly name: string }>(p: T): T => ({ ...flipped(p), name: otherSide(p.name) })
  const to: Bay = {
    ...bay,
    datum: otherSide(bay.datum),
    middleMm: bay.middleMm === undefined ? undefined : -bay.middleMm,
    spots: bay.spots.map(spotOver),
    keepOuts: bay.keepOuts.map(named),
    bonnet: bay.bonnet.map((p) => flipped(p)),
    mounts: bay.mounts?.map(named),
  }
  const mirrored = inBay(build, to, (way) => way?.map((p) => flipped(p)))
  const lids = bay.spots.filter((s) => s.turnDeg !== undefined).length
  const ports = bay.spots.filter((s) => s.points === 'left' || s.points === 'right').length
  const ways = build.variants.reduce((sum, v) => sum + v.lines.filter((l) => l.way).length, 0)
  const along = [
    count(bay.spots.length, 'place'),
    count(bay.keepOuts.length, 'body').replace('bodys', 'bodies'),
    ...(ways > 0 ? [count(ways, 'way') + ' of hoses'] : []),
    ...(ports > 0 ? [`${count(ports, 'port')} that ${ports === 1 ? 'points' : 'point'} to a side`] : []),
    ...(lids > 0 ? [`${count(lids, 'lid')} that ${lids === 1 ? 'is' : 'are'} clocked`] : []),
  ]
  return ok({
    build: mirrored,
    says: `Mirrored, measured from the ${lowered(to.datum)} now. TurnedBay with it: ${along.join(', ')}.`,
  })
}

/**
 * What goes with the driver, the brake servo and the steering, on the other side of the car. Fails where nothing does, or the middle is not known.
 *
 * @example
 * import { otherDrive } from '@/plan/bay/mirror'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(otherDrive(build).ok) // false
 */
export function otherDrive(build: Build): Result<TurnedBay> {
  const { bay } = build
  if (!bay) return fail('There is no bay yet.')
  if (bay.middleMm === undefined) return fail('Enter where the middle of the car lies first.')
  const { middleMm } = bay
  const moves = bay.keepOuts.filter((k) => k.kind === 'brake' || k.kind === 'steering')
  if (moves.length === 0) return fail('Nothing of the brakes or the steering stands in this bay.')
  const keepOuts = bay.keepOuts.map((k) => (moves.includes(k) ? flipped(k, middleMm) : k))
  const right = moves[0]!.leftMm > middleMm
  const names = moves.map((k) => lowered(k.name))
  const list = joinWords(names)
  return ok({
    build: inBay(build, { ...bay, keepOuts }, (way) => way),
    says: `${right ? 'Right' : 'Left'}-hand drive: ${list} ${names.length === 1 ? 'stands' : 'stand'} on the ${right ? 'right' : 'left'} now; all else stays.`,
  })
}

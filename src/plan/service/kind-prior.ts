/** What cars of one kind have taught: taken from each car's own log, joined to what is expected of the next, and read from its document. */
import { evidenceOf, nextOfGroup, type LogEvidence } from '@/core/service/group'
import { BLANK, DUTIES_ALIKE, PRIOR_SIGMA, TRACK_SIGMA, type Prior } from '@/core/service/prior'
import type { Build, Engine, KindPrior, Variant } from '../document/schema'
import { activeVariant } from '../edit/edit'
import type { CanForecast } from '../model/results'

/**
 * The class of an engine: engines that differ in size, boost or condition alone are of one.
 *
 * @example
 * import { engineKind } from '@/plan/service/kind-prior'
 *
 * console.log(engineKind({ layout: 'inline', cylinders: 4, induction: 'turbo' })) // 'inline-4-turbo'
 */
export const engineKind = ({ layout, cylinders, induction }: Pick<Engine, 'layout' | 'cylinders' | 'induction'>) =>
  `${layout}-${cylinders}-${induction}`

/** What the log of a car's can says by itself of the logarithms of its multipliers. */
type CanEvidence = {
  readonly id: string
  readonly emptyings: number
  readonly oil: LogEvidence | undefined
  readonly water: LogEvidence | undefined
  readonly track: LogEvidence | undefined
}
/** What a car's log has taught with the plan that is on it. */
export type CarEvidence = Pick<KindPrior, 'engine' | 'school'> & { readonly cans: readonly CanEvidence[] }

/** A build that starts from estimates, whatever other cars have taught. */
export const withoutOthers = (build: Build): Build => ({ ...build, kindPrior: undefined })

/**
 * What the log of a build has taught of the cans of its active plan. Only of cans that start from estimates: of one that other cars say much
 * of, what its own log adds cannot be known exactly enough.
 */
export function carEvidenceOf(build: Build, cans: readonly CanForecast[]): CarEvidence {
  return {
    engine: engineKind(build.engine),
    school: activeVariant(build).school,
    cans: cans
      .filter((c) => c.multiplier.entries > 0 && c.startsFrom === 'estimates')
      .map((c) => ({
        id: c.part,
        emptyings: c.multiplier.entries,
        oil: evidenceOf(c.before.oil, c.multiplier),
        water: c.waterMultiplier.entries > 0 ? evidenceOf(c.before.water, c.waterMultiplier) : undefined,
        track: c.trackMultiplier && c.before.track && evidenceOf(c.before.track, c.trackMultiplier),
      })),
  }
}

/** Cars that must have taught something before the next one goes by them. */
const LEAST_CARS = 2

const said = (x: LogEvidence | undefined): readonly LogEvidence[] => (x ? [x] : [])
/** Enough digits to tell every car apart, and a document that reads well. */
const rounded = (x: number) => Math.round(x * 1e4) / 1e4

/** What oil on track is likely to be where only the road's has been learned: the two lean on each other. */
function trackFrom(road: { readonly mu: number; readonly sigma: number }) {
  const slope = (DUTIES_ALIKE * TRACK_SIGMA) / PRIOR_SIGMA
  return {
    mu: slope * road.mu,
    sigma: Math.hypot(slope * road.sigma, TRACK_SIGMA * Math.sqrt(1 - DUTIES_ALIKE ** 2)),
  }
}

/**
 * What other cars of the kind of a plan have taught, as of a day; undefined where too few have.
 * @param others what each of them has taught, of any kind
 */
export function kindPriorFrom(
  others: readonly CarEvidence[],
  engine: Engine,
  { school, parts }: Pick<Variant, 'school' | 'parts'>,
  date: string,
): KindPrior | undefined {
  const kind = engineKind(engine)
  const alike = others.filter((t) => t.engine === kind && t.school === school && t.cans.length > 0)
  if (alike.length < LEAST_CARS) return undefined
  const cans = parts.flatMap((p) => {
    const same = alike.flatMap((t) => t.cans.filter((c) => c.id === p.id))
    if (p.kind !== 'can' || same.length < LEAST_CARS) return []
    const oil = nextOfGroup(
      same.flatMap((c) => said(c.oil)),
      PRIOR_SIGMA,
    )
    const water = nextOfGroup(
      same.flatMap((c) => said(c.water)),
      PRIOR_SIGMA,
    )
    const onTrack = same.flatMap((c) => said(c.track))
    const track = onTrack.length > 0 ? nextOfGroup(onTrack, TRACK_SIGMA) : trackFrom(oil)
    return [
      {
        id: p.id,
        oilMu: rounded(oil.mu),
        oilSigma: rounded(oil.sigma),
        waterMu: rounded(water.mu),
        waterSigma: rounded(water.sigma),
        trackMu: rounded(track.mu),
        trackSigma: rounded(track.sigma),
      },
    ]
  })
  if (cans.length === 0) return undefined
  const emptyings = alike.reduce((sum, t) => sum + t.cans.reduce((s, c) => s + c.emptyings, 0), 0)
  return { engine: kind, school, cars: alike.length, emptyings, date, cans }
}

/** Whether what other cars have taught is of this engine and this plan. */
export const isOfKind = ({ engine, school }: Pick<KindPrior, 'engine' | 'school'>, build: Build, variant: Variant) =>
  engine === engineKind(build.engine) && school === variant.school

/** What is expected of a can before its own log speaks: by other cars of its kind where the build goes by them. */
export function priorOfCan(build: Build, variant: Variant, can: string): Prior {
  const prior = build.kindPrior
  const known =
    prior && !prior.off && isOfKind(prior, build, variant) ? prior.cans.find((c) => c.id === can) : undefined
  if (!known) return BLANK
  return {
    oil: { mu: known.oilMu, sigma: known.oilSigma },
    water: { mu: known.waterMu, sigma: known.waterSigma },
    track: { mu: known.trackMu, sigma: known.trackSigma },
  }
}

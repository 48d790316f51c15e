/** What may be wrong with a build: nothing, one fault of some severity, or two of which one brings the other; each with its odds beforehand. */
import type { Build } from '../document/schema'
import { activeVariant, applyEdits } from '../edit/edit'
import type { FaultKind } from '../faults/faults'
import { gradedFaults, type GradedFault } from '../faults/graded-faults'

/** Odds before anything is known (methods 12, estimates). */
export const NOTHING_ODDS = 10
export const PRIOR_ODDS: Readonly<Record<FaultKind, number>> = {
  overfull: 3,
  off: 3,
  split: 3,
  folded: 2,
  'stuck-open': 2,
  'stuck-shut': 2,
  clogged: 2,
  'cap-loose': 2,
  torn: 2,
  blocked: 1,
  swapped: 1,
  'drain-blocked': 1,
  stopped: 1,
  'left-open': 1,
  rings: 1,
  leaks: 1,
  reversed: 1,
}
/** Where it is below 0 C outside, what can freeze. */
const FROZEN_ODDS = 10
/** Odds of what was worked on so lately, m, times those of the rest. */
const [WORKED_ON_TIMES, LATELY_KM] = [5, 500]
/** Of two faults together beside the first alone. */
const BROUGHT_ODDS = 0.15

export type Hypothesis = {
  readonly id: string
  readonly name: string
  /** parts and lines that are at fault; none where nothing is wrong */
  readonly of: readonly string[]
  readonly kinds: readonly FaultKind[]
  readonly odds: number
  readonly fault: GradedFault | undefined
  /** the build with it, so far on its way from least to most; undefined where that cannot be */
  readonly buildAt: (share: number) => Build | undefined
}

export const NOTHING = 'nothing'

/** Parts and lines that were worked on since: named by a *fitted* entry within the last so many km. */
function workedOn(build: Build): ReadonlySet<string> {
  const now = Math.max(0, ...build.log.map((e) => e.odometerKm))
  const parts = build.log.flatMap((e) =>
    e.kind === 'fitted' && e.part !== undefined && e.odometerKm >= now - LATELY_KM ? [e.part] : [],
  )
  const lines = activeVariant(build).lines.filter((l) => [l.from, l.to].some((e) => parts.includes(e.part)))
  return new Set([...parts, ...lines.map((l) => l.id)])
}

const made = (build: Build, fault: GradedFault, share: number): Build | undefined => {
  const edits = fault.editsAt(share)
  const broken = edits.length > 0 ? applyEdits(build, edits) : undefined
  return broken?.ok ? broken.value : undefined
}

/** What raises the crankcase so that it may lift a cap. */
const LIFTS: ReadonlySet<FaultKind> = new Set(['stuck-shut', 'blocked', 'clogged', 'folded', 'rings', 'drain-blocked'])

/**
 * All that is tried.
 * @param lifts whether a fault raises the crankcase so far that it may lift cap or dipstick
 */
export function hypothesesOf(build: Build, lifts: (fault: GradedFault) => boolean): readonly Hypothesis[] {
  const faults = gradedFaults(build)
  const lately = workedOn(build)
  const freezes = build.site.ambientC < 0
  const oddsOf = (f: GradedFault) => {
    const odds = freezes && (f.kind === 'clogged' || f.kind === 'blocked') ? FROZEN_ODDS : PRIOR_ODDS[f.kind]
    return lately.has(f.of) ? WORKED_ON_TIMES * odds : odds
  }
  const cap = faults.find((f) => f.kind === 'cap-loose')
  const single = faults.map((f): Hypothesis => ({
    id: f.id,
    name: f.name,
    of: [f.of],
    kinds: [f.kind],
    odds: oddsOf(f),
    fault: f,
    buildAt: (share) => made(build, f, share),
  }))
  const pairs = cap
    ? faults
        .filter((f) => LIFTS.has(f.kind) && lifts(f))
        .map((f): Hypothesis => ({
          id: `${f.id}+${cap.id}`,
          name: `${f.name}, and it has lifted cap or dipstick`,
          of: [f.of, cap.of],
          kinds: [f.kind, cap.kind],
          odds: BROUGHT_ODDS * oddsOf(f),
          fault: f,
          buildAt: (share) => {
            const broken = made(build, f, share)
            const again = broken && gradedFaults(broken).find((x) => x.id === cap.id)
            return broken && again && made(broken, again, 0.6)
          },
        }))
    : []
  const nothing: Hypothesis = {
    id: NOTHING,
    name: 'Nothing is wrong',
    of: [],
    kinds: [],
    odds: NOTHING_ODDS,
    fault: undefined,
    buildAt: () => build,
  }
  return [nothing, ...single, ...pairs]
}

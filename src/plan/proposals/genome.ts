/** A plan as a few choices: a circuit, its cans, bores, checks, valves and restrictors from stock, baffles in the cover. */
import { CANS } from '../catalogue/cans'
import { CHECKS, PCVS, checkFor } from '../catalogue/valves'
import { HOSE_BORES } from '../catalogue/hoses'
import { check } from '../catalogue/parts'
import type { Build, Line, Part, PartOf, Variant } from '../document/schema'
import { sameJson } from '../edit/diff'
import { activeVariant } from '../edit/edit'
import { perform, splice } from '../edit/edit-builders'
import { isUntouched, planName, SCHOOLS, variantOf } from '../schools/schools'
import { joinWords } from '../document/words'

/** What plans begin with: a school, or the plan as it stands. */
export type Circuit = { readonly key: string; readonly name: string; readonly plan: Variant }
/** The key of the plan as it stands, where it is no school as it is. */
export const PRESENT_PLAN = 'present'

/** What may be chosen, in the order of a genome; the first choice of each leaves what the circuit has. */
export const GENES = [
  'circuit',
  'can',
  'secondCan',
  'narrowBores',
  'wideBores',
  'checks',
  'restrictors',
  'baffles',
  'manifoldCheck',
  'pcv',
] as const
export type Gene = (typeof GENES)[number]
/** Choices as whole numbers, by `GENES`. */
export type Genome = readonly number[]

/** Where plans are looked for. */
export type PlanSpace = {
  readonly build: Build
  readonly circuits: readonly Circuit[]
  /** how many choices each gene has; 1: it is held */
  readonly sizes: readonly number[]
}

const BORE_STEPS = [0, 1, 2, -1] as const
const CHECK_STEPS = [0, 1, 2, -1] as const
const RESTRICTOR_TIMES = [1, 1.3, 0.75, 1.7] as const
/** A hose wider than this is of the breather side, mm. */
const WIDE_MM = 14.5

const SIZES: Readonly<Record<Exclude<Gene, 'circuit'>, number>> = {
  can: CANS.length + 1,
  secondCan: CANS.length + 1,
  narrowBores: BORE_STEPS.length,
  wideBores: BORE_STEPS.length,
  checks: CHECK_STEPS.length,
  restrictors: RESTRICTOR_TIMES.length,
  baffles: 2,
  manifoldCheck: 2,
  pcv: PCVS.length + 1,
}

/**
 * Where plans are looked for.
 * @param hold `circuit`: the plan as it stands keeps its circuit, its sizes are free; left out: schools and what edits make of them
 * @param free genes that may be chosen; left out: all
 */
export function planSpace(build: Build, hold?: 'circuit', free: readonly Gene[] = GENES): PlanSpace {
  const now = activeVariant(build)
  const present: Circuit = { key: PRESENT_PLAN, name: planName(now, build.engine), plan: { ...now, id: 'a' } }
  const schools = SCHOOLS.filter((s) => s.fits(build.engine)).map((s) => ({
    key: s.key,
    name: s.name,
    plan: variantOf(s, build.engine, 'a'),
  }))
  const circuits = hold === 'circuit' ? [present] : isUntouched(now, build.engine) ? schools : [...schools, present]
  return {
    build,
    circuits,
    sizes: GENES.map((g) => (!free.includes(g) ? 1 : g === 'circuit' ? circuits.length : SIZES[g])),
  }
}

/** The genome that leaves a circuit as it is. */
export const plainGenome = (circuit: number): Genome => GENES.map((g) => (g === 'circuit' ? circuit : 0))
/** What of a gene is chosen. */
export const choiceOf = (genome: Genome, gene: Gene): number => genome[GENES.indexOf(gene)]!

/** The nearest entry of a rising list, moved by so many steps. */
function stepped<T>(list: readonly T[], at: number, by: number): T {
  return list[Math.max(0, Math.min(list.length - 1, at + by))]!
}
const nearest = (list: readonly number[], x: number): number =>
  list.reduce((best, v, k) => (Math.abs(v - x) < Math.abs(list[best]! - x) ? k : best), 0)

const BORES = HOSE_BORES.map((b) => b.mm)
const SEATS = CHECKS.map((c) => c.spec.seatMm)

/** The hose that ends at the manifold with no check at its end; undefined where there is none. */
function openManifoldLine(plan: Variant): { readonly line: Line; readonly atEnd: boolean } | undefined {
  const manifolds = new Set(plan.parts.flatMap((p) => (p.kind === 'manifold' ? [p.id] : [])))
  const checks = new Set(plan.parts.flatMap((p) => (p.kind === 'check' ? [p.id] : [])))
  const line = plan.lines.find(
    (l) =>
      l.kind === 'hose' &&
      manifolds.has(l.from.part) !== manifolds.has(l.to.part) &&
      !checks.has(l.from.part) &&
      !checks.has(l.to.part),
  )
  return line && { line, atEnd: manifolds.has(line.to.part) }
}

/** A circuit with a check at its manifold: gas runs there and not back. */
function withManifoldCheck(build: Build, plan: Variant): Variant {
  const found = openManifoldLine(plan)
  if (!found) return plan
  const { line, atEnd } = found
  const valve = check('check', 'Check valve', checkFor(line.boreMm))
  const then = perform(
    { ...build, active: plan.id, variants: [plan] },
    splice(line.id, valve, atEnd ? 'to' : 'from', !atEnd),
  )
  return then.ok ? activeVariant(then.value) : plan
}

/** Whether a choice of a gene can change anything in a circuit. */
function matters({ plan }: Circuit, gene: Gene, checked: boolean): boolean {
  const count = (kind: Part['kind']) => plan.parts.filter((p) => p.kind === kind).length
  const bores = (wide: boolean) => plan.lines.some((l) => l.kind === 'hose' && l.boreMm > WIDE_MM === wide)
  switch (gene) {
    case 'circuit':
      return true
    case 'can':
      return count('can') > 0
    case 'secondCan':
      return count('can') > 1
    case 'narrowBores':
      return bores(false)
    case 'wideBores':
      return bores(true)
    case 'checks':
      return count('check') > 0 || checked
    case 'restrictors':
      return count('restrictor') > 0
    case 'baffles':
      return plan.pickUp !== 'multipass'
    case 'manifoldCheck':
      return openManifoldLine(plan) !== undefined
    case 'pcv':
      return count('pcv') > 0
  }
}

/** A fibre this fine makes a pad that costs pressure, um. */
const FINE_UM = 30
/** What of a can costs most pressure: what a fine pad costs is known less well than what an empty cup does. */
function costliestStage({ stages }: Pick<PartOf<'can'>, 'stages'>): 'cyclone' | 'fibre' | 'open' {
  const costly = stages.find((s) => s.type === 'cyclone' || (s.type === 'fibre' && s.fibreUm < FINE_UM))
  return costly?.type === 'cyclone' || costly?.type === 'fibre' ? costly.type : 'open'
}

/** The choice of a gene that is what the circuit has; undefined where there is none. */
function sameChoice({ plan }: Circuit, gene: Gene): number | undefined {
  const cans = plan.parts.filter((p) => p.kind === 'can')
  const pcv = plan.parts.find((p) => p.kind === 'pcv')
  const at = (list: readonly { readonly key: string }[], model: string | undefined) => {
    const k = list.findIndex((e) => e.key === model)
    return k < 0 ? undefined : k + 1
  }
  if (gene === 'can') return at(CANS, cans[0]?.model)
  if (gene === 'pcv') return at(PCVS, pcv?.model)
  return undefined
}

/** Makes plans of genomes; what is the same for every plan of a circuit is worked out once. */
export type PlanMaker = {
  readonly space: PlanSpace
  /** the genome with what changes nothing left out: one plan, one genome */
  readonly canonical: (genome: Genome) => Genome
  readonly plan: (genome: Genome) => Variant
  /** what a plan has otherwise than its circuit, in words */
  readonly differences: (genome: Genome) => readonly string[]
  readonly name: (genome: Genome) => string
  /** the plan whose bad end lies the same way: its circuit, with plain sizes and cans that cost pressure in the same manner */
  readonly alike: (genome: Genome) => { readonly key: string; readonly plan: Variant }
}

/**
 * Makes plans of genomes of a space.
 *
 * @example
 * import { plainGenome, planMaker, planSpace } from '@/plan/proposals/genome'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'x', engineClass: 'i4-turbo', use: 'street', ambientC: 15, units: 'metric' })
 * console.log(planMaker(planSpace(build)).name(plainGenome(1))) // 'Vacuum-side can'
 */
export function planMaker(space: PlanSpace): PlanMaker {
  const { build, circuits } = space
  const bases = circuits.map((c) => [c.plan, withManifoldCheck(build, c.plan)] as const)
  // a circuit with more baffles may be a school of its own: one plan is looked for in one place
  const isKnown = ({ plan: { parts, lines } }: Circuit) =>
    circuits.some(({ plan: p }) => p.pickUp === 'multipass' && sameJson([p.parts, p.lines], [parts, lines]))
  const matter = circuits.map((c) =>
    [false, true].map((checked) => GENES.map((g) => matters(c, g, checked) && !(g === 'baffles' && isKnown(c)))),
  )
  // a choice of what the circuit has already is no choice
  const same = circuits.map((c) => GENES.map((g) => sameChoice(c, g)))

  const canonical = (genome: Genome): Genome => {
    const acts = matter[genome[0]!]!
    const checked = choiceOf(genome, 'manifoldCheck') === 1 && acts[0]![GENES.indexOf('manifoldCheck')]!
    return genome.map((x, k) => (acts[checked ? 1 : 0]![k]! && same[genome[0]!]![k] !== x ? x : 0))
  }
  const plan = (genome: Genome): Variant => {
    const base = bases[genome[0]!]![choiceOf(genome, 'manifoldCheck') === 1 ? 1 : 0]
    let cans = 0
    const parts = base.parts.map((p) => chosenPart(p, genome, p.kind === 'can' ? cans++ : 0))
    const lines = base.lines.map((l) => chosenLine(l, genome))
    return { ...base, parts, lines, ...(choiceOf(genome, 'baffles') === 1 ? { pickUp: 'multipass' as const } : {}) }
  }
  const alike = (genome: Genome) => {
    const cans = plan(genome)
      .parts.filter((p) => p.kind === 'can')
      .map(costliestStage)
    const base = bases[genome[0]!]![0].parts.filter((p) => p.kind === 'can').map(costliestStage)
    const canLike = (nth: number) =>
      cans[nth] === undefined || cans[nth] === base[nth]
        ? 0
        : CANS.findIndex((c) => costliestStage(c.spec) === cans[nth]) + 1
    const choices: Readonly<Partial<Record<Gene, number>>> = {
      circuit: genome[0]!,
      can: canLike(0),
      secondCan: canLike(1),
      manifoldCheck: choiceOf(genome, 'manifoldCheck'),
    }
    const like = GENES.map((g) => choices[g] ?? 0)
    return { key: like.join(), plan: plan(like) }
  }
  const differences = (genome: Genome) => differencesIn(circuits[genome[0]!]!.plan, plan(genome), genome)
  return {
    space,
    canonical,
    plan,
    differences,
    alike,
    name: (genome) => nameWith(circuits[genome[0]!]!.name, differences(genome)),
  }
}

/** The name of a circuit with what a plan has otherwise. */
export const nameWith = (circuit: string, differences: readonly string[]): string =>
  differences.length === 0 ? circuit : `${circuit}, with ${differences.join(', ')}`

function chosenPart(p: Part, genome: Genome, nth: number): Part {
  if (p.kind === 'can') {
    const can = choiceOf(genome, nth === 0 ? 'can' : 'secondCan')
    return can === 0 ? p : { ...p, ...CANS[can - 1]!.spec }
  }
  if (p.kind === 'check') {
    const step = CHECK_STEPS[choiceOf(genome, 'checks')]!
    return step === 0 ? p : { ...p, ...stepped(CHECKS, nearest(SEATS, p.seatMm), step).spec }
  }
  if (p.kind === 'restrictor') {
    const times = RESTRICTOR_TIMES[choiceOf(genome, 'restrictors')]!
    return times === 1 ? p : { ...p, boreMm: Number((p.boreMm * times).toFixed(1)) }
  }
  if (p.kind === 'pcv') {
    const pcv = choiceOf(genome, 'pcv')
    return pcv === 0 ? p : { ...p, ...PCVS[pcv - 1]!.spec }
  }
  return p
}
function chosenLine(l: Line, genome: Genome): Line {
  if (l.kind !== 'hose') return l
  const by = BORE_STEPS[choiceOf(genome, l.boreMm > WIDE_MM ? 'wideBores' : 'narrowBores')]!
  return by === 0 ? l : { ...l, boreMm: stepped(BORES, nearest(BORES, l.boreMm), by) }
}

function differencesIn(plain: Variant, plan: Variant, genome: Genome): readonly string[] {
  const swapped = plan.parts.flatMap((p) => {
    const was = plain.parts.find((q) => q.id === p.id)
    if (p.kind === 'can' && was?.kind === 'can' && was.model !== p.model)
      return [CANS.find((c) => c.key === p.model)?.name.toLowerCase() ?? p.name]
    if (p.kind === 'pcv' && was?.kind === 'pcv' && was.model !== p.model)
      return [`${PCVS.find((v) => v.key === p.model)?.name.toLowerCase() ?? p.name} for a PCV valve`]
    return []
  })
  const bores = [
    ...new Set(
      plan.lines.flatMap((l) => {
        const was = plain.lines.find((q) => q.id === l.id)
        return was && was.boreMm !== l.boreMm ? [Number(l.boreMm.toFixed(1))] : []
      }),
    ),
  ].toSorted((a, b) => a - b)
  const moved = (kind: 'check' | 'restrictor') =>
    plan.parts.some((p) => {
      const was = plain.parts.find((q) => q.id === p.id)
      return p.kind === kind && was !== undefined && JSON.stringify(was) !== JSON.stringify(p)
    })
  const added = plan.parts.some((p) => p.kind === 'check' && !plain.parts.some((q) => q.id === p.id))
  return [
    ...new Set(swapped),
    ...(bores.length > 0 ? [`${joinWords(bores.map((mm) => `${mm} mm`))} lines`] : []),
    ...(added ? ['a check at the manifold'] : []),
    ...(moved('check') ? [CHECK_STEPS[choiceOf(genome, 'checks')]! > 0 ? 'wider checks' : 'smaller checks'] : []),
    ...(moved('restrictor')
      ? [RESTRICTOR_TIMES[choiceOf(genome, 'restrictors')]! > 1 ? 'a wider restrictor' : 'a smaller restrictor']
      : []),
    ...(choiceOf(genome, 'baffles') === 1 ? ['more baffles in the cover'] : []),
  ]
}

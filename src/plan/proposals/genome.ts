/** A plan as a few choices: a school, its cans, bores, checks and restrictors from stock, baffles in the cover. */
import { CANS } from '../catalogue/cans'
import { CHECKS } from '../catalogue/valves'
import { HOSE_BORES } from '../catalogue/hoses'
import type { Engine, Line, Part, Variant } from '../document/schema'
import { SCHOOLS, variantOf, type School } from '../schools/schools'

/** Choices as whole numbers: school, can, second can, bores of the vacuum side and of the breather side, checks, restrictors, baffles. */
export type Genome = readonly number[]
/** Steps from what the school has; 0 leaves it. */
const [BORE_STEPS, CHECK_STEPS, RESTRICTORS] = [
  [0, 1, 2, -1],
  [0, 1, 2, -1],
  [1, 1.3, 0.75, 1.7],
] as const
/** A hose wider than this is of the breather side, mm. */
const WIDE_MM = 14.5

/** How many choices each gene has for an engine. */
export function genesOf(engine: Engine): { readonly schools: readonly School[]; readonly sizes: readonly number[] } {
  const schools = SCHOOLS.filter((s) => s.fits(engine))
  const cans = CANS.length + 1
  return {
    schools,
    sizes: [
      schools.length,
      cans,
      cans,
      BORE_STEPS.length,
      BORE_STEPS.length,
      CHECK_STEPS.length,
      RESTRICTORS.length,
      2,
    ],
  }
}

/** The nearest entry of a rising list, moved by so many steps. */
function stepped<T>(list: readonly T[], at: number, by: number): T {
  return list[Math.max(0, Math.min(list.length - 1, at + by))]!
}
const nearest = (list: readonly number[], x: number): number =>
  list.reduce((best, v, k) => (Math.abs(v - x) < Math.abs(list[best]! - x) ? k : best), 0)

const BORES = HOSE_BORES.map((b) => b.mm)
const SEATS = CHECKS.map((c) => c.spec.seatMm)

function chosenPart(p: Part, canGene: number, checkStep: number, restrictor: number): Part {
  if (p.kind === 'can' && canGene > 0) return { ...p, ...CANS[canGene - 1]!.spec }
  if (p.kind === 'check' && checkStep !== 0)
    return { ...p, ...stepped(CHECKS, nearest(SEATS, p.seatMm), checkStep).spec }
  if (p.kind === 'restrictor' && restrictor !== 1) return { ...p, boreMm: Number((p.boreMm * restrictor).toFixed(1)) }
  return p
}
function chosenLine(l: Line, narrow: number, wide: number): Line {
  const by = l.boreMm > WIDE_MM ? wide : narrow
  return l.kind === 'hose' && by !== 0 ? { ...l, boreMm: stepped(BORES, nearest(BORES, l.boreMm), by) } : l
}

/** The plan that a genome stands for. */
export function planFromGenome(genome: Genome, engine: Engine, schools: readonly School[]): Variant {
  const [school, firstCan, secondCan, narrow, wide, check, restrictor, baffles] = genome as readonly [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ]
  const plan = variantOf(schools[school]!, engine, 'a')
  let cans = 0
  const parts = plan.parts.map((p) =>
    chosenPart(
      p,
      p.kind === 'can' ? (cans++ === 0 ? firstCan : secondCan) : 0,
      CHECK_STEPS[check]!,
      RESTRICTORS[restrictor]!,
    ),
  )
  const lines = plan.lines.map((l) => chosenLine(l, BORE_STEPS[narrow]!, BORE_STEPS[wide]!))
  return { ...plan, parts, lines, ...(baffles === 1 ? { pickUp: 'multipass' as const } : {}) }
}

/** What a plan has otherwise than its school, in words. */
export function differencesIn(genome: Genome, engine: Engine, schools: readonly School[]): readonly string[] {
  const [plain, plan] = [
    planFromGenome([genome[0]!, 0, 0, 0, 0, 0, 0, 0], engine, schools),
    planFromGenome(genome, engine, schools),
  ]
  const cans = plan.parts.flatMap((p) => {
    const was = plain.parts.find((q) => q.id === p.id)
    return p.kind === 'can' && was?.kind === 'can' && was.model !== p.model
      ? [CANS.find((c) => c.key === p.model)?.name.toLowerCase() ?? p.name]
      : []
  })
  const bores = [
    ...new Set(
      plan.lines.flatMap((l) => {
        const was = plain.lines.find((q) => q.id === l.id)
        return was && was.boreMm !== l.boreMm ? [`${Number(l.boreMm.toFixed(1))} mm`] : []
      }),
    ),
  ]
  const has = (kind: Part['kind']) => plan.parts.some((p) => p.kind === kind)
  return [
    ...cans,
    ...(bores.length > 0 ? [`${bores.join(' and ')} lines`] : []),
    ...(genome[5] !== 0 && has('check') ? [CHECK_STEPS[genome[5]!]! > 0 ? 'wider checks' : 'smaller checks'] : []),
    ...(genome[6] !== 0 && has('restrictor') ? ['another restrictor'] : []),
    ...(genome[7] === 1 ? ['more baffles in the cover'] : []),
  ]
}

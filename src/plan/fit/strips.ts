/** Every line of a plan as it is made: from port form to port form, piece by piece, or kept as the maker laid it. */
import { fail, ok, type Result } from '@/core/result'
import { formOf } from '../catalogue/forms'
import { HOSE_BORES } from '../catalogue/hoses'
import type { Build, Line, LineEnd, Part, Variant } from '../document/schema'
import { layOf, type Lay } from '../bay/lay'
import { stockVariant } from './stock'
import { barbFor, chainsTo, hoseSold, rubberHose, type EndChain, type EndOfHose, type HoseSold } from './ends'
import { BARBS, DASHES, dashOf } from '../catalogue/forms'
import type { Piece } from '../catalogue/pieces'
import { ownPieces } from './own-pieces'

export type StripEnd = {
  readonly end: LineEnd
  readonly part: Part
  readonly port: string
  /** form of the port, and whether the builder has looked at it */
  readonly form: string
  readonly looked: boolean
  readonly chain: Result<EndChain>
  readonly others: readonly EndChain[]
  /** turn of the hose end, degrees; 0 straight */
  readonly turnDeg: number
}

export type Strip = {
  readonly line: Line
  /** the maker's own hose stays as it is */
  readonly kept: boolean
  /** what the hose is cut from; undefined for one that is kept */
  readonly hose: Result<HoseSold> | undefined
  readonly ends: readonly [StripEnd, StripEnd]
  /** measured in the bay, or as it was entered */
  readonly lay: Lay | undefined
  /** path of the middle of the hose between ports, m */
  readonly pathM: number
  readonly cutM: number
  readonly slackM: number
  /** P-clamps or ties, a hand and a half apart */
  readonly clips: number
}

/** What moves with the engine; everything else hangs on the body. */
const ON_ENGINE: ReadonlySet<Part['kind']> = new Set([
  'crankcase',
  'cover',
  'passage',
  'pcv',
  'manifold',
  'pump',
  'exhaust',
  'blowerInlet',
])
/**
 * Slack of a line from engine to body, for the rock of the engine; what a hose gains on a barb and loses on a screwed
 * end, m (estimates).
 */
const [SLACK, ON_BARB, IN_END] = [0.025, 0.022, -0.028]
/** Between clips of a hose (common practice, no source), m. */
const CLIP_EVERY = 0.3
/** A hose that is narrower by less passes the same, mm. */
const SAME_BORE = 0.8
/** Steps in which hose is cut, m. */
export const CUT_STEP = 0.005

/** Dash that a hose of this bore is fitted with. */
const dashNear = (mm: number) => DASHES.toSorted((a, b) => Math.abs(a.hoseMm - mm) - Math.abs(b.hoseMm - mm))[0]!.dash

/** Bore of the widest braided hose that is sold, mm. */
const WIDEST_BRAIDED = Math.max(...HOSE_BORES.flatMap((h) => (h.name.startsWith('-') ? [h.mm] : [])))

/** A port narrower than this share of its hose is a hole that meters, not a smaller nipple. */
const METERS = 0.55

/** The least dash whose hose passes what this bore does. */
const dashFor = (mm: number) => (DASHES.find((d) => d.hoseMm >= mm - SAME_BORE) ?? DASHES.at(-1)!).dash

/** Kinds whose own ends are threaded bosses. */
const BOSSED: ReadonlySet<Part['kind']> = new Set(['can', 'tank', 'pump'])

/** What the form of a port is when nobody has looked: by the kind of its part, and by whether the maker gave it. */
export function usualForm(part: Part, portId: string, line: Line, stock: Variant): string {
  const port = part.ports.find((p) => p.id === portId)
  // a hole that meters stands in a nipple of the hose's own size
  const meters = port?.boreMm !== undefined && port.boreMm < METERS * line.boreMm
  const size = port?.boreMm === undefined || meters ? line.boreMm : Math.min(line.boreMm, port.boreMm + 3.2)
  const known = stock.parts.some((p) => p.id === part.id)
  const used = stock.lines.some((l) => [l.from, l.to].some((e) => e.part === part.id && e.port === portId))
  if (part.kind === 'atmosphere') return 'open'
  if (part.kind === 'filter') return `tube-${barbFor(size)}`
  if (part.kind === 'cover' && portId === 'filler') return 'neck'
  if (part.kind === 'cover' && portId === 'pcv') return 'seat'
  // a bung is welded where the nipple would not pass enough
  if (part.kind === 'cover' && port?.lossKpaAt100 !== undefined)
    return line.boreMm > WIDEST_BRAIDED + SAME_BORE ? `barb-${barbFor(line.boreMm)}` : `flare-${dashFor(line.boreMm)}`
  if (part.kind === 'crankcase')
    return line.kind === 'drain' ? (line.boreMm > 10.5 ? 'pipe-1/2' : 'pipe-3/8') : `boss-${dashNear(line.boreMm)}`
  if (part.kind === 'can' && portId !== 'in' && portId !== 'out') return 'pipe-3/8'
  if (BOSSED.has(part.kind)) return `boss-${dashNear(line.boreMm)}`
  if (part.kind === 'exhaust') return `tube-${barbFor(size)}`
  // the maker's engine has no outlet there: one has to be made
  if (known && !used && (part.kind === 'inlet' || part.kind === 'chargePipe' || part.kind === 'manifold'))
    return `hole-${holeFor(line.boreMm)}`
  return `barb-${barbFor(size)}`
}
const holeFor = (mm: number) => BARBS.slice(0, 8).toSorted((a, b) => Math.abs(a - mm) - Math.abs(b - mm))[0]!

/** A port of a part, and the line that ends at it. */
type PortOnLine = { readonly part: Part; readonly port: string; readonly line: Line }

type PortForm = Pick<StripEnd, 'form' | 'looked'>
/** The form of a port as it was looked at, or as it usually is. */
export function portForm(build: Build, { part, port: portId, line }: PortOnLine, stock: Variant): PortForm {
  const noted = build.fit?.ends.find((e) => e.id === `${part.id}.${portId}`)
  return noted && formOf(noted.form)
    ? { form: noted.form, looked: true }
    : { form: usualForm(part, portId, line, stock), looked: false }
}

/** Ends that hoses of a bore are wanted at: braided where both ports can take screwed ends at least as easily as clamps. */
function hoseFor(line: Line, forms: readonly [string, string], own: readonly Piece[]): Result<HoseSold> {
  const sold = hoseSold(line.boreMm)
  if (!sold.ok) return sold
  const options = [sold.value, ...other(sold.value)]
  const joints = (hose: HoseSold) =>
    forms.reduce((sum, f) => {
      const chains = chainsTo(f, hose, own)
      return sum + (chains.ok ? chains.value[0]!.joints : Infinity)
    }, 0)
  // none that passes less than the plan assumes, then the fewest joints; of equals the bore that was asked for
  const narrow = (h: HoseSold) => (h.mm < line.boreMm - SAME_BORE ? 1 : 0)
  const able = options
    .filter((h) => Number.isFinite(joints(h)))
    .toSorted((a, b) => narrow(a) - narrow(b) || joints(a) - joints(b))
  return ok(able[0] ?? sold.value)
}
/** The other kind of hose next in bore, and where that passes less, the next that does not. */
function other(hose: HoseSold): HoseSold[] {
  if (hose.kind === 'rubber')
    return [...new Set([dashNear(hose.mm), dashFor(hose.mm)])].map((dash) => ({
      kind: 'braided',
      mm: dashOf(dash)!.hoseMm,
      name: `-${dash}`,
      dash,
    }))
  return [rubberHose(barbFor(hose.mm))]
}

type EndAt = Pick<StripEnd, 'end' | 'part' | 'turnDeg'> & { readonly at: PortForm }
function stripEnd({ end, part, turnDeg, at }: EndAt, hose: Result<HoseSold>, own: readonly Piece[]): StripEnd {
  const { form, looked } = at
  const chains = hose.ok ? chainsTo(form, hose.value, own) : hose
  const chain: Result<EndChain> = chains.ok ? ok(chains.value[0]!) : fail(chains.reason)
  return {
    end,
    part,
    port: part.ports.find((p) => p.id === end.port)?.name ?? end.port,
    form,
    looked,
    chain,
    others: chains.ok ? chains.value.slice(1) : [],
    turnDeg,
  }
}

const GAINS: Readonly<Record<EndOfHose['kind'], number>> = { clamp: ON_BARB, 'hose end': IN_END, 'as it is': 0 }
/** What a hose gains on an end, or loses in it, m. */
export const gainOf = ({ chain }: StripEnd): number => (chain.ok ? GAINS[chain.value.hoseEnd.kind] : 0)

/** Whether a line is the maker's own: the same ports, the same bore. */
function isKept(line: Line, stock: Variant): boolean {
  const at = (e: LineEnd) => `${e.part}.${e.port}`
  const pair = (l: Line) => [at(l.from), at(l.to)].toSorted().join(' ')
  return stock.lines.some(
    (l) => l.kind === line.kind && pair(l) === pair(line) && Math.abs(l.boreMm - line.boreMm) < 0.5,
  )
}

/**
 * Every hose and drain of a plan as it is made, in the order of the plan.
 *
 * @example
 * import { stripsOf } from '@/plan/fit/strips'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(stripsOf(build, build.variants[0]).length) // 3
 */
export function stripsOf(build: Build, variant: Variant): readonly Strip[] {
  const stock = stockVariant(build)
  const own = ownPieces(build)
  return variant.lines.flatMap((line): Strip[] => {
    if (line.kind === 'direct') return []
    const kept = isKept(line, stock)
    const parts = [line.from, line.to].map((e) => variant.parts.find((p) => p.id === e.part))
    if (!parts[0] || !parts[1]) return []
    const forms = [
      portForm(build, { part: parts[0], port: line.from.port, line }, stock),
      portForm(build, { part: parts[1], port: line.to.port, line }, stock),
    ] as const
    const hose = kept ? undefined : hoseFor(line, [forms[0].form, forms[1].form], own)
    const laid = layOf(build.bay, variant, line)
    const lay = laid.ok ? laid.value : undefined
    const entered = line.bends.reduce((sum, b) => sum + (b.angleDeg * Math.PI * b.radiusMm) / 180, line.lengthMm) / 1000
    const pathM = lay?.lengthM ?? entered
    const turns = lay?.endsDeg ?? ([line.from.elbowDeg ?? 0, line.to.elbowDeg ?? 0] as const)
    const usedHose = hose ?? hoseSold(line.boreMm)
    const ends = [
      stripEnd({ end: line.from, part: parts[0], turnDeg: turns[0], at: forms[0] }, usedHose, own),
      stripEnd({ end: line.to, part: parts[1], turnDeg: turns[1], at: forms[1] }, usedHose, own),
    ] as const
    const slackM = ON_ENGINE.has(parts[0].kind) === ON_ENGINE.has(parts[1].kind) ? 0 : SLACK
    const cut = pathM + slackM + gainOf(ends[0]) + gainOf(ends[1])
    return [
      {
        line,
        kept,
        hose,
        ends,
        lay,
        pathM,
        slackM,
        cutM: Math.max(CUT_STEP, Math.ceil(cut / CUT_STEP - 1e-9) * CUT_STEP),
        clips: Math.max(0, Math.floor(pathM / CLIP_EVERY)),
      },
    ]
  })
}

/** The hoses that are made, not kept. */
export const madeOf = (strips: readonly Strip[]): readonly Strip[] => strips.filter((s) => !s.kept)

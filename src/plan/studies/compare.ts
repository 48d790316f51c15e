/** Several circuits of one build side by side over its duty, and in words what makes the difference. */
import type { Job } from '@/core/job'
import { fullLoadState, type StateId } from '@/core/engine/states'
import type { Range } from '@/core/service/fill'
import { quantityText } from '@/core/units/format'
import { analyse, figuresOf } from '../analyse'
import type { Analysis } from '../model/results'
import { HOSE_BORES } from '../catalogue/catalogue'
import type { Build, Line, Part, Variant } from '../document/schema'
import { isThrough, KINDS } from '../document/kinds'
import { ranges } from './ranges'
import { schoolOf } from '../schools/schools'
import { bypassShare } from '../verdicts/rules'
import { isSolved, STATE_NAMES } from '../verdicts/verdict'

export type Comparison = {
  readonly id: string
  readonly letter: string
  readonly name: string
  readonly sealed: boolean
  readonly law: string
  readonly states: readonly {
    readonly id: StateId
    readonly gauge: number | undefined
    readonly band: Range | undefined
  }[]
  /** m3 of oil per metre that reaches the intake on this duty; and per track session */
  readonly intakeOil: number
  /** m3 a metre, all cans */
  readonly caught: number
  readonly water: number
  /** metres until the can that fills first may be full; Infinity with nothing to empty */
  readonly interval: number
  readonly bypass: number | undefined
  readonly parts: number
  readonly joints: number
  readonly hoseM: number
  readonly open: Readonly<Record<'stop' | 'fix' | 'watch', number>>
}

export const MOST_COMPARED = 6
const DRAWS = 250
const withActive = (build: Build, id: string): Build => ({ ...build, active: id })

/** Compares up to six variants. Yields the share done. */
export function* compare(build: Build, today: string): Job<readonly Comparison[]> {
  const variants = build.variants.slice(0, MOST_COMPARED)
  const rows: Comparison[] = []
  for (const [i, v] of variants.entries()) {
    const b = withActive(build, v.id)
    const a = analyse(b, today)
    const spread = ranges(b, DRAWS)
    let bands
    for (;;) {
      const s = spread.next()
      if (s.done) {
        bands = s.value
        break
      }
      yield (i + s.value) / variants.length
    }
    const idle = a.states.filter(isSolved).find((s) => s.id === 'idle')
    const hoses = v.lines.filter((l) => l.kind !== 'direct')
    const count = (severity: string) => a.verdicts.filter((x) => x.severity === severity).length
    rows.push({
      id: v.id,
      letter: String.fromCharCode(65 + i),
      name: v.name,
      sealed: !v.parts.some((p) => p.kind === 'atmosphere'),
      law: schoolOf(v.school)?.law ?? 'Your own plan: ask the local authority.',
      states: a.states.map((s) => ({
        id: s.id,
        gauge: s.solved ? s.crankcaseGauge : undefined,
        band: bands.states.find((x) => x.id === s.id)?.crankcase,
      })),
      intakeOil: a.intakeOil,
      caught: a.cans.reduce((s, c) => s + c.perMetre.oil, 0),
      water: a.cans.reduce((s, c) => s + c.perMetre.water, 0),
      interval: a.cans.reduce((s, c) => Math.min(s, c.distance.low), Infinity),
      bypass: idle && bypassShare(idle, v.parts),
      parts: v.parts.filter((p) => !KINDS[p.kind].engine && p.kind !== 'atmosphere').length,
      joints:
        hoses.length * 2 +
        v.lines.filter(
          (l) =>
            l.kind === 'direct' &&
            [l.from, l.to].some((e) => !KINDS[v.parts.find((p) => p.id === e.part)!.kind].engine),
        ).length,
      hoseM: hoses.reduce((s, l) => s + l.lengthMm / 1000, 0),
      open: { stop: count('stop'), fix: count('fix'), watch: count('watch') },
    })
    yield (i + 1) / variants.length
  }
  return rows
}

export type Difference = {
  readonly what: string
  readonly effect: string
  /** size of the effect, for ordering */ readonly weight: number
}
type Change = { readonly what: string; readonly apply: (v: Variant) => Variant }

const boreName = (mm: number, units: Build['units']): string => {
  const known = HOSE_BORES.find((b) => Math.abs(b.mm - mm) < 0.06)
  return known ? known.name : quantityText(mm / 1000, 'length', units, 3)
}
const bendText = (l: Line) =>
  l.bends.length === 0 ? 'no bends' : `${l.bends.length} ${l.bends.length === 1 ? 'bend' : 'bends'}`

function lineChanges(a: Line, b: Line, units: Build['units']): Change[] {
  const set = (what: string, change: Partial<Line>): Change => ({
    what,
    apply: (v) => ({ ...v, lines: v.lines.map((l) => (l.id === a.id ? { ...l, ...change } : l)) }),
  })
  const name = `the ${a.name.toLowerCase()}`
  const list: Change[] = []
  if (a.boreMm !== b.boreMm)
    list.push(
      set(`${boreName(b.boreMm, units)} instead of ${boreName(a.boreMm, units)} on ${name}`, { boreMm: b.boreMm }),
    )
  if (a.lengthMm !== b.lengthMm)
    list.push(
      set(
        `${quantityText(b.lengthMm / 1000, 'length', units, 3)} instead of ${quantityText(a.lengthMm / 1000, 'length', units, 3)} of ${name}`,
        { lengthMm: b.lengthMm },
      ),
    )
  if (JSON.stringify(a.bends) !== JSON.stringify(b.bends))
    list.push(set(`${bendText(b)} instead of ${bendText(a)} in ${name}`, { bends: b.bends }))
  return list
}

const IGNORED = new Set(['id', 'name', 'ports', 'at', 'kind'])
function partChange(a: Part, b: Part): Change | undefined {
  const figures = (p: Part) =>
    JSON.stringify(
      Object.fromEntries(
        Object.entries(p)
          .filter(([k]) => !IGNORED.has(k))
          .toSorted(([x], [y]) => x.localeCompare(y)),
      ),
    )
  if (a.kind !== b.kind || figures(a) === figures(b)) return undefined
  const model = (p: Part) => ('model' in p && p.model ? `${p.model} ` : '')
  const what =
    model(a) === model(b)
      ? `other figures of the ${a.name.toLowerCase()}`
      : `a ${model(b)}${KINDS[b.kind].name.toLowerCase()} instead of a ${model(a)}one as the ${a.name.toLowerCase()}`
  return {
    what,
    apply: (v) => ({
      ...v,
      parts: v.parts.map((p) => (p.id === a.id ? ({ ...b, ports: p.ports, id: p.id, name: p.name } as Part) : p)),
    }),
  }
}

/** Full-load crankcase pressure and oil to the intake, told as what changed; undefined when nothing that shows did. */
function effectOf(
  build: Build,
  before: Omit<Analysis, 'verdicts'>,
  after: Omit<Analysis, 'verdicts'>,
): { effect: string; weight: number } {
  const id = fullLoadState(build.engine.induction)
  const gauge = (a: Omit<Analysis, 'verdicts'>) => a.states.filter(isSolved).find((s) => s.id === id)?.crankcaseGauge
  const [g0, g1] = [gauge(before), gauge(after)]
  const said: string[] = []
  let weight = 0
  const where = STATE_NAMES[id].toLowerCase()
  if (g0 === undefined || g1 === undefined) {
    said.push(g1 === undefined ? `leaves ${where} without an answer` : `gives ${where} an answer`)
    weight = 1e4
  } else if (Math.abs(g1 - g0) > 20) {
    said.push(
      `${g1 < g0 ? 'lowers' : 'raises'} ${where} pressure in the crankcase by ${quantityText(Math.abs(g1 - g0), 'pressure', build.units, 2)}`,
    )
    weight += Math.abs(g1 - g0)
  }
  const oil = (after.intakeOil - before.intakeOil) * 1e12
  if (Math.abs(oil) > 0.5) {
    said.push(
      `${oil < 0 ? 'keeps' : 'lets'} ${quantityText(Math.abs(oil) * 1e-6, 'volume', build.units, 2)} of oil per 1 000 km ${oil < 0 ? 'out of' : 'into'} the intake`,
    )
    weight += Math.abs(oil) * 50
  }
  return { effect: said.length === 0 ? 'changes nothing that shows' : said.join(' and '), weight }
}

/** What sets variant `b` apart from `a`, each difference with what it does on its own, most telling first. */
export function differences(build: Build, aId: string, bId: string): readonly Difference[] {
  const a = build.variants.find((v) => v.id === aId)
  const b = build.variants.find((v) => v.id === bId)
  if (!a || !b || a === b) return []
  const base = withActive(build, aId)
  const before = figuresOf(base, '2026-01-01')
  const changes: Change[] = []
  for (const l of a.lines) {
    const other = b.lines.find(
      (x) => x.id === l.id && x.kind === l.kind && x.from.part === l.from.part && x.to.part === l.to.part,
    )
    if (other && l.kind === 'hose') changes.push(...lineChanges(l, other, build.units))
  }
  for (const p of a.parts) {
    const other = b.parts.find((x) => x.id === p.id)
    const change = other && partChange(p, other)
    if (change) changes.push(change)
  }
  if (a.pickUp !== b.pickUp)
    changes.push({
      what: `${b.pickUp ?? build.engine.pickUp} pick-up instead of ${a.pickUp ?? build.engine.pickUp}`,
      apply: (v) => ({ ...v, pickUp: b.pickUp }),
    })
  const single = changes.map((c): Difference => {
    const changed = { ...base, variants: base.variants.map((v) => (v === a ? c.apply(v) : v)) }
    return { what: c.what, ...effectOf(build, before, figuresOf(changed, '2026-01-01')) }
  })
  const only = (x: Variant, y: Variant) =>
    x.parts
      .filter((p) => isThrough(p.kind) && p.kind !== 'passage' && !y.parts.some((q) => q.id === p.id))
      .map((p) => p.name.toLowerCase())
  const [gone, come] = [only(a, b), only(b, a)]
  const whole = effectOf(build, before, figuresOf(withActive(build, bId), '2026-01-01'))
  const list: Difference[] = []
  if (come.length + gone.length > 0)
    list.push({
      what: [come.length > 0 ? `with ${come.join(', ')}` : '', gone.length > 0 ? `without ${gone.join(', ')}` : '']
        .filter(Boolean)
        .join(', '),
      ...whole,
      weight: Infinity,
    })
  return [...list, ...single.toSorted((x, y) => y.weight - x.weight)]
}

/** Rows as a sheet: heads and cells as text in the build's units, for print and CSV. */
export function comparisonSheet(
  build: Build,
  rows: readonly Comparison[],
): readonly (readonly [head: string, ...cells: string[]])[] {
  const text = (si: number, d: Parameters<typeof quantityText>[1], digits = 2) =>
    quantityText(si, d, build.units, digits)
  const perThousand = build.units.system === 'metric' ? 1e6 : 1609344
  const per = build.units.system === 'metric' ? '1 000 km' : '1 000 miles'
  const row = (head: string, of: (r: Comparison) => string): readonly [string, ...string[]] => [head, ...rows.map(of)]
  return [
    row('Plan', (r) => `${r.letter} ${r.name}`),
    ...(rows[0]?.states ?? []).map((s, i) =>
      row(`Crankcase, ${STATE_NAMES[s.id].toLowerCase()}`, (r) => {
        const x = r.states[i]!
        return x.gauge === undefined
          ? 'no answer'
          : `${text(x.gauge, 'pressure')}${x.band ? ` (${text(x.band.low, 'pressure').replace(/\s?[^\d−.]+$/, '')} to ${text(x.band.high, 'pressure')})` : ''}`
      }),
    ),
    row(`Oil to the intake per ${per}`, (r) => text(r.intakeOil * perThousand, 'volume')),
    row(`Oil caught per ${per}`, (r) => text(r.caught * perThousand, 'volume')),
    row(`Water caught per ${per}`, (r) => text(r.water * perThousand, 'volume')),
    row('Look within', (r) => (Number.isFinite(r.interval) ? text(r.interval, 'distance') : 'nothing to empty')),
    row('Air past the throttle at idle', (r) =>
      r.bypass === undefined ? 'no answer' : `${Math.round(r.bypass * 100)} %`,
    ),
    row('Parts', (r) => String(r.parts)),
    row('Joints', (r) => String(r.joints)),
    row('Hose', (r) =>
      build.units.system === 'metric' ? `${r.hoseM.toFixed(1)} m` : `${(r.hoseM / 0.3048).toFixed(1)} ft`,
    ),
    row('Stop, fix, watch', (r) => `${r.open.stop}, ${r.open.fix}, ${r.open.watch}`),
    row('Law', (r) => `${r.sealed ? 'sealed' : 'vented'}. ${r.law}`),
  ]
}

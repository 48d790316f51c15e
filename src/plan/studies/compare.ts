/** Several plans of one build side by side over its duty. */
import type { Job } from '@/core/job'
import type { StateId } from '@/core/engine/states'
import type { Range } from '@/core/service/fill'
import { quantityText } from '@/core/units/format'
import { analyse } from '../analyse'
import type { Build } from '../document/schema'
import { KINDS } from '../document/kinds'
import { perform, showPlan } from '../edit/deeds'
import { STATE_NAMES } from '../explain/words'
import { resolve } from '../model/resolve'
import { bypassShare, solvedIn } from '../model/results'
import { schoolOf } from '../schools/schools'
import { ranges } from './ranges'

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
/** The build with one of its plans shown. */
export const showing = (build: Build, id: string): Build => {
  const shown = perform(build, showPlan(id))
  return shown.ok ? shown.value : build
}

/** Compares up to six variants. Yields the share done. */
export function* compare(build: Build, today: string): Job<readonly Comparison[]> {
  const variants = build.variants.slice(0, MOST_COMPARED)
  const rows: Comparison[] = []
  for (const [i, v] of variants.entries()) {
    const b = showing(build, v.id)
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
    const idle = solvedIn(a, 'idle')
    const resolved = resolve(v)
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
      hoseM: hoses.reduce((s, l) => s + resolved.lines.get(l.id)!.shape.lengthM, 0),
      open: { stop: count('stop'), fix: count('fix'), watch: count('watch') },
    })
    yield (i + 1) / variants.length
  }
  return rows
}

/** Rows as a sheet: heads and cells as text in the build's units, for print and CSV. */
export function comparisonSheet(
  build: Build,
  rows: readonly Comparison[],
): readonly (readonly [head: string, ...cells: string[]])[] {
  const text = (si: number, d: Parameters<typeof quantityText>[1], digits = 2) =>
    quantityText(si, d, build.units, digits)
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
    row('Oil to the intake', (r) => text(r.intakeOil, 'perDistance')),
    row('Oil caught', (r) => text(r.caught, 'perDistance')),
    row('Water caught', (r) => text(r.water, 'perDistance')),
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

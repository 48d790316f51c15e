/** What a figure depends on most: every fact and estimate of the build raised by a tenth, one at a time, and everything worked out again. */
import type { Job } from '@/core/job'
import { ACTIVITIES, ACTIVITY_FACTS } from '@/core/service/rates'
import { evaluate } from '../analyse'
import { makeEvaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import {
  ENGINE_FIELDS,
  fieldsOfPart,
  isCurve,
  LINE_FIELDS,
  OVERRIDE_FIELDS,
  PORT_FIELDS,
  SITE_FIELDS,
  type Field,
} from '../document/fields'
import type { Build, Line, Part } from '../document/schema'
import { perform, setField, setLine, setPart, type EditBuilder } from '../edit/edit-builders'
import { activeVariant } from '../edit/edit'
import { isOfCan, readFigure, type FigureRef } from '../explain/figures'
import { crankcaseCc, defaultOf } from '../model/engine'
import { barbOf, portLoss, resolve } from '../model/resolve'
import type { Worked } from '../model/results'
import { atState, lowered } from '../document/words'

export type Influence = {
  readonly name: string
  /** by how much it was raised, as a person says it */
  readonly by: 'a tenth' | '10 K'
  readonly from: number
  readonly to: number
}
const UP = 1.1
const WARMER = 10

type Candidate = { readonly name: string; readonly by: Influence['by']; readonly builder: EditBuilder }
type Numbers = Readonly<Record<string, unknown>>

/** A number raised: a temperature by 10 K, anything else by a tenth. */
const raised = (field: Field, value: number): Pick<Candidate, 'by'> & { readonly to: number } =>
  field.kept === 'C' ? { by: '10 K', to: value + WARMER } : { by: 'a tenth', to: value * UP }

/** Every number of a part, named by its field; a curve is raised as a whole; of a cover its ports' baffles. */
function ofPart(p: Part, baffled: ReadonlySet<string>): Candidate[] {
  const own = Object.entries(fieldsOfPart(p.kind)).flatMap(([key, field]): Candidate[] => {
    const value = (p as Numbers)[key]
    const name = `${p.name}, ${field.label.toLowerCase()}`
    if (isCurve(field)) {
      const points = (value as readonly (readonly [number, number])[]).map(([x, y]) => [x, y * UP])
      return [{ name, by: 'a tenth', builder: setPart(p.id, { [key]: points }) }]
    }
    const number = typeof value === 'number' ? value : field.standIn
    if (number === undefined || number === 0) return []
    const { by, to } = raised(field, number)
    return [{ name, by, builder: setPart(p.id, { [key]: to }) }]
  })
  const ports = p.ports.flatMap((port): Candidate[] => {
    const put = (change: object): EditBuilder =>
      setPart(p.id, { ports: p.ports.map((q) => (q === port ? { ...q, ...change } : q)) })
    const of = `${p.name}, ${port.name.toLowerCase()}`
    return [
      ...(baffled.has(`${p.id}.${port.id}`)
        ? [
            {
              name: `${of}: baffle and nipple`,
              by: 'a tenth' as const,
              builder: put({ lossKpaAt100: portLoss(port) * UP }),
            },
          ]
        : []),
      ...(port.boreMm === undefined
        ? []
        : [
            {
              name: `${of}: ${PORT_FIELDS.boreMm.label.toLowerCase()}`,
              by: 'a tenth' as const,
              builder: put({ boreMm: port.boreMm * UP }),
            },
          ]),
    ]
  })
  return [...own, ...ports]
}

function ofLine(l: Line): Candidate[] {
  if (l.kind !== 'hose') return []
  const end = (side: 'from' | 'to'): Candidate => ({
    name: `${l.name}, barb bore`,
    by: 'a tenth',
    builder: setLine(l.id, { [side]: { ...l[side], barbMm: (l[side].barbMm ?? barbOf(l.boreMm)) * UP } }),
  })
  return [
    ...(['boreMm', 'lengthMm'] as const).map((key): Candidate => ({
      name: `${l.name}, ${LINE_FIELDS[key].label.toLowerCase()}`,
      by: 'a tenth',
      builder: setLine(l.id, { [key]: l[key] * UP }),
    })),
    end('from'),
    end('to'),
    ...(l.bends.length > 0
      ? [
          {
            name: `${l.name}, angle of its bends`,
            by: 'a tenth' as const,
            builder: setLine(l.id, { bends: l.bends.map((b) => ({ ...b, angleDeg: Math.min(180, b.angleDeg * UP) })) }),
          },
        ]
      : []),
  ]
}

/** Facts that nobody has entered stand at their defaults. */
function ofEngine(build: Build): Candidate[] {
  const { engine } = build
  return Object.entries(ENGINE_FIELDS).flatMap(([key, field]: [string, Field]): Candidate[] => {
    // a fraction of a cylinder is none
    if (field.whole) return []
    const entered = (engine as Numbers)[key] as number | undefined
    const standIn: Partial<Record<string, number>> = {
      idleManifoldKpa: defaultOf(build, 'idleManifoldKpa'),
      inletDepressionKpa: defaultOf(build, 'inletDepressionKpa'),
      inletFouling: defaultOf(build, 'inletFouling'),
      oilC: defaultOf(build, 'oilC'),
      crankcaseCc: crankcaseCc(engine),
      blowByTimes: 1,
    }
    const value = entered ?? standIn[key]
    if (value === undefined || value === 0) return []
    const { by, to } = raised(field, value)
    return [{ name: field.label, by, builder: setField(['engine', key], to) }]
  })
}

function ofDuty({ duty, site, engine }: Build): Candidate[] {
  const hours = ACTIVITIES.flatMap((a): Candidate[] =>
    duty.hours[a] > 0
      ? [
          {
            name: `Hours of ${lowered(ACTIVITY_FACTS[a].name)}`,
            by: 'a tenth',
            builder: setField(['duty', 'hours', a], duty.hours[a] * UP),
          },
        ]
      : [],
  )
  const ambient = raised(SITE_FIELDS.ambientC, site.ambientC)
  const overrides = Object.entries(engine.overrides).flatMap(([state, of]) =>
    Object.entries(of ?? {}).flatMap(([key, value]): Candidate[] => {
      const field = (OVERRIDE_FIELDS as Readonly<Record<string, Field>>)[key]
      if (!field || typeof value !== 'number') return []
      const { by, to } = raised(field, value)
      return [
        {
          name: `${field.label} ${atState(state as never)}, as entered`,
          by,
          builder: setField(['engine', 'overrides', state], { ...of, [key]: to }),
        },
      ]
    }),
  )
  const measured = engine.blowBy
  return [
    ...hours,
    { name: SITE_FIELDS.ambientC.label, by: ambient.by, builder: setField(['site', 'ambientC'], ambient.to) },
    {
      name: SITE_FIELDS.humidityPct.label,
      by: 'a tenth',
      builder: setField(['site', 'humidityPct'], Math.min(100, site.humidityPct * UP)),
    },
    ...overrides,
    ...(measured?.lpm === undefined
      ? []
      : [
          {
            name: 'Blow-by, as measured',
            by: 'a tenth' as const,
            builder: setField(['engine', 'blowBy'], { ...measured, lpm: measured.lpm * UP }),
          },
        ]),
  ]
}

/** Every fact and estimate that can be raised alone. */
export function candidatesOf(build: Build): readonly Candidate[] {
  const variant = activeVariant(build)
  const baffled = new Set(resolve(variant).topology.baffled.keys())
  return [
    ...ofEngine(build),
    ...ofDuty(build),
    ...variant.lines.flatMap(ofLine),
    ...variant.parts.flatMap((p) => ofPart(p, baffled)),
  ]
}

/** Whether a fact is the very figure that is asked about: what was measured is not its own cause. */
const isItself = (ref: FigureRef, { engine }: Build, name: string): boolean =>
  ref.kind === 'blowBy' && engine.blowBy?.state === ref.state && name === 'Blow-by, as measured'

/**
 * The `most` strongest influences on a figure, strongest first; those that do not move it by a thousandth are left out. Yields the share
 * done: what follows from a log takes some hundredths of a second each.
 * @param today for figures that follow from the log; the others do not depend on it
 *
 * @example
 * import { finish } from '@/core/job'
 * import { newBuild } from '@/plan/schools/new-build'
 * import { influences } from '@/plan/studies/sensitivity'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const [first] = finish(influences(build, '2026-11-24', { kind: 'intakeOil' }))
 * console.log(first.name) // 'Rated speed'
 */
export function* influences(build: Build, today: string, ref: FigureRef, most = 4): Job<Influence[]> {
  const evaluator = makeEvaluator()
  // what the log has taught counts where it is part of the figure
  const workedOut = (b: Build): Worked =>
    isOfCan(ref) || ref.kind === 'intakeOil'
      ? evaluate(b, today, evaluator)
      : { ...figuresOf(b, evaluator), cans: [], oilLearned: 1 }
  const from = readFigure(build, workedOut(build), ref, evaluator)
  if (from === undefined || !Number.isFinite(from)) return []
  const candidates = candidatesOf(build).filter(({ name }) => !isItself(ref, build, name))
  const found: Influence[] = []
  for (const [i, { name, by, builder }] of candidates.entries()) {
    const then = perform(build, builder)
    const to = then.ok ? readFigure(then.value, workedOut(then.value), ref, evaluator) : undefined
    if (to !== undefined && Number.isFinite(to) && Math.abs(to - from) > 1e-3 * Math.abs(from))
      found.push({ name, by, from, to })
    yield (i + 1) / candidates.length
  }
  return found.toSorted((a, b) => Math.abs(b.to - b.from) - Math.abs(a.to - a.from)).slice(0, most)
}

/** Every fault that can be looked for in a build, and how far each may go: the failures that are tried as what-if, and what only a search asks for. */
import { hose, port, space } from '../catalogue/parts'
import type { Build, Line, Part } from '../document/schema'
import {
  addPart,
  chain,
  editsOf,
  freshId,
  join,
  reverseValve,
  setField,
  setLine,
  setPart,
  type EditBuilder,
} from '../edit/edit-builders'
import { activeVariant, applyEdits, type Edit } from '../edit/edit'
import { PART_FIELDS } from '../document/fields'
import { measuredFlowOf } from '../model/engine'
import { fromSi } from '@/core/units/units'
import { tee } from '../catalogue/parts'
import { faultsOf, openHole, type Fault } from './faults'

/** How far a fault goes, from the least that is considered to the most, even in the logarithm (methods 12). */
export type FaultExtent = {
  readonly least: number
  readonly most: number
  /** one of its figures in words */
  readonly says: (value: number) => string
}
export type GradedFault = Fault & {
  /** none where it is so or is not */
  readonly extent: FaultExtent | undefined
  /** the fault so far on the way from least to most, 0 to 1; the usual one without an extent */
  readonly editsAt: (share: number) => readonly Edit[]
}

/**
 * A figure of an extent.
 * @param share 0 to 1 of the way from least to most
 *
 * @example
 * import { extentAt } from '@/plan/faults/graded-faults'
 *
 * console.log(extentAt({ least: 2, most: 32, says: String }, 0.5)) // 8
 */
export const extentAt = ({ least, most }: Pick<FaultExtent, 'least' | 'most'>, share: number): number =>
  least * (most / least) ** share

type Grade = { readonly extent: FaultExtent; readonly builder: (value: number) => EditBuilder }
const percent = (x: number) => `${Math.round(100 * x)} %`
const round = (x: number) => x.toPrecision(2).replace(/\.0$/, '')

/** Bore of a round hole of so many mm2, mm. */
const boreOf = (mm2: number) => Math.sqrt((4 * mm2) / Math.PI)
const HOLE: FaultExtent = { least: 3, most: 80, says: (mm2) => `a hole of ${round(mm2)} mm²` }
const DROP: FaultExtent = { least: 2, most: 30, says: (x) => `${round(x)} times the drop` }
const FOLDED: FaultExtent = { least: 0.6, most: 0.1, says: (x) => `folded to ${percent(x)} of its bore` }
const RINGS: FaultExtent = { least: 1.5, most: 4, says: (x) => `${round(x)} times the blow-by` }
const LEAK: FaultExtent = { least: 0.05, most: 0.6, says: (x) => `leaks by ${percent(x)} of its opening` }
const OVERFULL: FaultExtent = { least: 0.05, most: 0.3, says: (x) => `${percent(x)} of the sump too much` }

/** Blow-by so many times what it is, whether it was measured or follows from the rings. */
const moreBlowBy =
  (times: number): EditBuilder =>
  (build) => {
    const { blowBy, blowByTimes = 1 } = build.engine
    const flow = blowBy && measuredFlowOf(build)
    if (!blowBy || flow === undefined)
      return setField(['engine', 'blowByTimes'], Math.min(10, blowByTimes * times))(build)
    return setField(['engine', 'blowBy'], {
      state: blowBy.state,
      lpm: Math.min(2000, fromSi('gasFlow', flow, 'l/min') * times),
    })(build)
  }

/** How far one of the failures goes; undefined where it is so or is not. */
function gradeOf(build: Build, fault: Fault): Grade | undefined {
  const variant = activeVariant(build)
  const part = variant.parts.find((p) => p.id === fault.of)
  const line = variant.lines.find((l) => l.id === fault.of)
  switch (fault.kind) {
    case 'clogged':
      return part?.kind === 'can' || part?.kind === 'filter'
        ? {
            extent: DROP,
            builder: (x) => setPart(part.id, { fouling: Math.min(DROP.most, (part.fouling ?? 1) * x) }),
          }
        : undefined
    case 'folded':
      return line && { extent: FOLDED, builder: (x) => setLine(line.id, { boreMm: Math.max(1, line.boreMm * x) }) }
    case 'cap-loose':
      return part && { extent: HOLE, builder: (mm2) => openHole(part, undefined, boreOf(mm2), 'Gap at the cap') }
    case 'rings':
      return { extent: RINGS, builder: moreBlowBy }
    case 'overfull':
      return {
        extent: OVERFULL,
        builder: (x) => setField(['engine', 'oilLevelPct'], Math.min(30, (build.engine.oilLevelPct ?? 0) + 100 * x)),
      }
    default:
      return undefined
  }
}

/** A hole in the middle of a hose. */
const splitHose =
  (l: Line, mm2: number): EditBuilder =>
  (build) => {
    const v = activeVariant(build)
    const middle = tee(freshId(v, `${l.id}-split`), `Split in ${l.name}`)
    const air = space('atmosphere', freshId(v, `${l.id}-split-air`), 'Open air', port('a', 'Open'))
    const rest: Line = {
      ...l,
      id: freshId(v, `${l.id}-rest`),
      from: { part: middle.id, port: 'b' },
      lengthMm: l.lengthMm / 2,
      bends: [],
    }
    const hole: Line = {
      ...hose(freshId(v, `${l.id}-split-hole`), 'Split', { from: 'x.y', to: 'x.y', boreMm: boreOf(mm2), lengthMm: 5 }),
      from: { part: middle.id, port: 'c' },
      to: { part: air.id, port: 'a', barbMm: boreOf(mm2) },
    }
    return chain(
      addPart(middle),
      addPart(air),
      setLine(l.id, { to: { part: middle.id, port: 'a' }, lengthMm: l.lengthMm / 2 }),
      join(rest),
      join(hole),
    )(build)
  }

type OwnFault = Omit<Fault, 'edits'> & {
  readonly extent?: FaultExtent
  readonly builder: (value: number) => EditBuilder
}

function ownFaultsOfPart(p: Part, crankcase: Part | undefined): OwnFault[] {
  if (p.kind === 'pcv' || p.kind === 'check')
    return [
      {
        id: `${p.id}-leaks`,
        kind: 'leaks',
        of: p.id,
        name: `${p.name} leaks back`,
        extent: LEAK,
        builder: (x) => setPart(p.id, { leakPct: Math.min(PART_FIELDS.check.leakPct.max, (p.leakPct ?? 0) + 100 * x) }),
      },
      {
        id: `${p.id}-reversed`,
        kind: 'reversed',
        of: p.id,
        name: `${p.name} the wrong way round`,
        builder: () => reverseValve(p.id),
      },
    ]
  if (p.kind === 'regulator' && crankcase)
    // torn it holds nothing back, and air comes in through it
    return [
      {
        id: `${p.id}-torn`,
        kind: 'torn',
        of: p.id,
        name: `${p.name} with a torn diaphragm`,
        extent: HOLE,
        builder: (mm2) =>
          chain(setPart(p.id, { stuck: 'open' }), openHole(crankcase, undefined, boreOf(mm2), 'Torn diaphragm')),
      },
    ]
  return []
}

/**
 * Every fault of the active plan and its engine that can be looked for.
 *
 * @example
 * import { gradedFaults } from '@/plan/faults/graded-faults'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(gradedFaults(build).length) // 19
 */
export function gradedFaults(build: Build): readonly GradedFault[] {
  const variant = activeVariant(build)
  const crankcase = variant.parts.find((p) => p.kind === 'crankcase')
  const madeOf = (...builders: readonly EditBuilder[]): readonly Edit[] => {
    const edits = editsOf(build, ...builders)
    return edits.ok ? edits.value : []
  }
  const known = faultsOf(build).map((fault): GradedFault => {
    const grade = gradeOf(build, fault)
    if (!grade) return { ...fault, extent: undefined, editsAt: () => fault.edits }
    const { extent, builder } = grade
    return { ...fault, extent, editsAt: (share) => madeOf(builder(extentAt(extent, share))) }
  })
  const own = [
    ...variant.parts.flatMap((p) => ownFaultsOfPart(p, crankcase)),
    ...variant.lines
      .filter((l) => l.kind === 'hose')
      .map((l): OwnFault => ({
        id: `${l.id}-split`,
        kind: 'split',
        of: l.id,
        name: `${l.name} split`,
        extent: HOLE,
        builder: (mm2) => splitHose(l, mm2),
      })),
  ].map(({ extent, builder, ...fault }): GradedFault => {
    const editsAt = (share: number) => madeOf(builder(extent ? extentAt(extent, share) : 1))
    return { ...fault, extent, editsAt, edits: editsAt(0.5) }
  })
  return [...known, ...own].filter((f) => f.edits.length > 0)
}

/** The build with a fault of its usual extent; undefined when it can have no such fault. */
export function withFault(build: Build, id: string): Build | undefined {
  const fault = gradedFaults(build).find((f) => f.id === id)
  const broken = fault && applyEdits(build, fault.edits)
  return broken?.ok ? broken.value : undefined
}

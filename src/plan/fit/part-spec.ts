/** What a part must be that goes over the counter: what it is called there, and what to ask of it. */
import { airDensity, KG_PER_STANDARD_LITRE } from '@/core/gas/air'
import { canPortsText } from '../bay/can-ports'
import { hasTap } from '../bay/place'
import { CANS } from '../catalogue/cans'
import { formName, formOf, type Form } from '../catalogue/forms'
import { DISCHARGE, PCVS } from '../catalogue/valves'
import { KINDS } from '../document/kinds'
import type { Build, Part, PartOf, StageSpec, Variant } from '../document/schema'
import { type UnitFormatter, joinWords, lowered } from '../document/words'
import { isSolved, type StateResult } from '../model/results'
import { couplingBoreMm } from './couplings'
import { portForm } from './strips'

export type PartSpec = {
  /** "mesh can, 500 ml" */
  readonly name: string
  /** each a demand: its ends, what it passes at what drop, what it stands */
  readonly asks: readonly string[]
}
/** A plan, and the maker's circuit that it is held against. */
type PlanAndStock = { readonly build: Build; readonly variant: Variant; readonly stock: Variant }
export type SpecGround = PlanAndStock & {
  readonly states: readonly StateResult[]
  readonly say: UnitFormatter
}

/** Drop at which what a valve passes is stated, Pa. */
const STATED_DROP = 1000

/** kg/s through a sharp opening of `areaM2` at that drop, in air of 20 C (incompressible: a hundredth of the pressure). */
const passes = (areaM2: number, cd: number): number =>
  cd * areaM2 * Math.sqrt(2 * STATED_DROP * airDensity(101_325, 293.15))
const circle = (mm: number): number => (Math.PI / 4) * (mm / 1000) ** 2

const stageText = (s: StageSpec, say: UnitFormatter): string => {
  switch (s.type) {
    case 'impactor':
      return s.jets === 1
        ? `one jet of ${say.mm(s.jetDiameterMm)} on a plate`
        : `${s.jets} holes of ${say.mm(s.jetDiameterMm)} before a plate`
    case 'cyclone':
      return `an inlet of ${say.mm(s.inletWidthMm)} by ${say.mm(s.inletHeightMm)} along the wall`
    case 'settling':
      return `a calm bowl of ${s.floorCm2} cm²`
    case 'fibre':
      return `${say.mm(s.thicknessMm)} of ${s.fibreUm > 50 ? 'wire mesh' : 'fibre'}, ${s.fibreUm} µm, ${s.solidityPct} % solid, ${s.faceCm2} cm² to the gas`
  }
}

/** Forms of a part's ports that something ends at, as looked at or as they usually are. */
function formsOf(
  { build, variant, stock }: PlanAndStock,
  part: Part,
): { readonly port: string; readonly form: Form }[] {
  return part.ports.flatMap((port) => {
    const line = variant.lines.find((l) => [l.from, l.to].some((e) => e.part === part.id && e.port === port.id))
    if (!line) return []
    const led =
      line.kind === 'direct' ? { ...line, kind: 'hose' as const, boreMm: couplingBoreMm(variant, line) } : line
    const form = formOf(portForm(build, { part, port: port.id, line: led }, stock).form)
    return form ? [{ port: lowered(port.name), form }] : []
  })
}

/** "in and out -10 O-ring boss, drain 3/8 pipe thread, female" */
function endsText(plan: PlanAndStock, part: Part): string[] {
  const byForm = new Map<string, string[]>()
  for (const { port, form } of formsOf(plan, part))
    byForm.set(formName(form), [...(byForm.get(formName(form)) ?? []), port])
  const text = [...byForm].map(([form, ports]) => `${joinWords(ports)} ${form}`).join(', ')
  return text === '' ? [] : [text]
}

/** The pressures and the heat that parts meet over all states. */
function meets({ states, say }: SpecGround, parts: readonly Part[]): string[] {
  const solved = states.filter(isSolved)
  const gauges = solved.flatMap((s) => parts.flatMap((p) => p.ports.flatMap((q) => s.gauge[`${p.id}.${q.id}`] ?? [])))
  if (gauges.length === 0) return []
  const hottest = Math.max(...solved.map((s) => s.operating.gasK))
  return [
    `made for ${say.signed(Math.min(...gauges))} to ${say.signed(Math.max(...gauges))} and oil mist of ${say.temperature(hottest)}`,
  ]
}

const canName = (can: PartOf<'can'>): string => CANS.find((c) => c.key === can.model)?.name ?? 'can'

function canSpec(ground: SpecGround, can: PartOf<'can'>): PartSpec {
  const { say } = ground
  return {
    name: `${lowered(canName(can))}, ${say.volume(can.bowlMl / 1e6)}`,
    asks: [
      can.stages.map((s) => stageText(s, say)).join(', then '),
      `at most ${say.pressure(can.dropKpaAt100 * 1000)} at ${say.flow((100 / 60) * KG_PER_STANDARD_LITRE)}`,
      can.drain !== undefined
        ? 'what it catches runs back by itself'
        : hasTap(can)
          ? 'a 3/8 pipe thread in its floor, for the tap'
          : 'a bowl that comes off, or a tap',
    ],
  }
}

function valveSpec(ground: SpecGround, part: Part): PartSpec | undefined {
  const { say } = ground
  const at = (seatMm: number, cd: number) => `${say.flow(passes(circle(seatMm), cd))} at ${say.pressure(STATED_DROP)}`
  switch (part.kind) {
    case 'check':
      return {
        name: `check valve, ${say.mm(part.seatMm)} seat`,
        asks: [
          `opens at ${say.pressure(part.crackKpa * 1000)}`,
          `passes ${at(part.seatMm, part.cd ?? DISCHARGE.check)}: sized by that, not by its thread`,
          'diaphragm or flap that oil mist does not swell',
        ],
      }
    case 'pcv': {
      const [shut, open] = [part.areaMm2ByKpa.at(-1)!, part.areaMm2ByKpa[0]!]
      return {
        name: `PCV valve${part.model === 'own' || !part.model ? '' : `, ${lowered(PCVS.find((p) => p.key === part.model)?.name ?? part.model)}`}`,
        asks: [
          `${open[1]} mm² open, ${shut[1]} mm² at ${say.pressure(shut[0] * 1000)} of suction`,
          'passes one way only',
        ],
      }
    }
    case 'relief':
      return {
        name: `relief cap, ${say.mm(part.seatMm)} seat`,
        asks: [
          `opens at ${say.pressure(part.openKpa * 1000)}`,
          `passes ${at(part.seatMm, part.cd ?? DISCHARGE.relief)}`,
          'on the filler neck of this engine, with its seal',
        ],
      }
    case 'regulator':
      return {
        name: `crankcase regulator, ${say.mm(part.boreMm)}`,
        asks: [`holds ${say.signed(part.setKpa * 1000)} within ${say.pressure(part.bandKpa * 1000)}`],
      }
    default:
      return undefined
  }
}

function plainSpec(ground: SpecGround, part: Part): PartSpec {
  const { variant, say } = ground
  const boreMm = Math.max(
    0,
    ...variant.lines.flatMap((l) =>
      l.kind !== 'direct' && [l.from, l.to].some((e) => e.part === part.id) ? [l.boreMm] : [],
    ),
  )
  switch (part.kind) {
    case 'restrictor':
      return {
        name: `restrictor, ${say.mm(part.boreMm)} hole`,
        asks: ['turned brass or alloy, the hole sharp and clean'],
      }
    case 'filter':
      return {
        name: `vent filter for a ${say.mm(boreMm || 12.7)} mouth`,
        asks: [
          `at most ${say.pressure(part.dropKpaAt100 * 1000)} at ${say.flow((100 / 60) * KG_PER_STANDARD_LITRE)}`,
          'can be washed',
          'with its own clamp',
        ],
      }
    case 'sensor':
      return {
        name: 'adapter for the maker’s sensor, in the line',
        asks: [`${say.mm(part.boreMm)} through it, the sensor upright`],
      }
    case 'pump':
      return {
        name: `vacuum pump, ${part.ccPerTurn} cc a turn`,
        asks: [`driven at ${part.ratio} of the crank`, 'wet vanes, or a scavenge stage of the dry sump'],
      }
    case 'tank':
      return { name: lowered(part.name), asks: ['baffled, its vent at the top'] }
    case 'tee':
      return {
        name: `tee, ${part.ports.length === 3 ? 'three' : String(part.ports.length)} ends of ${say.mm(boreMm || 12.7)}`,
        asks: [],
      }
    default:
      return { name: lowered(part.name), asks: [] }
  }
}

/** Where the ports of cans sit, of each where there are several. */
function sidesOf({ build }: SpecGround, parts: readonly Part[]): string[] {
  return parts.flatMap((p) => {
    const sides = p.kind === 'can' ? lowered(canPortsText(build, p, build.units)) : ''
    if (sides === '') return []
    return [parts.length > 1 ? `${lowered(p.name)}: ${sides}` : sides]
  })
}

/**
 * What goes by one name in the list: parts of the same kind, model, sizes and ends. Kept with what lies in the drawer, so it holds no
 * words of a screen.
 */
export function partKey(plan: PlanAndStock, part: Part): string {
  const sizes = [
    'bowlMl',
    'surfaceCm2',
    'seatMm',
    'boreMm',
    'openKpa',
    'crackKpa',
    'ccPerTurn',
    'dropKpaAt100',
  ].flatMap((f) => (f in part ? [String((part as unknown as Record<string, number>)[f])] : []))
  const model = 'model' in part && part.model ? part.model : ''
  const own = part.kind === 'tank' || KINDS[part.kind].engine ? part.name : model
  return ['part', part.kind, own, ...sizes, ...formsOf(plan, part).map((f) => f.form.key)]
    .join(' ')
    .replaceAll(/\s+/g, ' ')
    .slice(0, 90)
}

/** What parts of one key must be: their name at the counter and their demands; with `states`, what pressure and heat they stand. */
export function partSpec(ground: SpecGround, parts: readonly [Part, ...Part[]]): PartSpec {
  const [part] = parts
  const spec = part.kind === 'can' ? canSpec(ground, part) : (valveSpec(ground, part) ?? plainSpec(ground, part))
  return {
    ...spec,
    asks: [...endsText(ground, part), ...sidesOf(ground, parts), ...spec.asks, ...meets(ground, parts)],
  }
}

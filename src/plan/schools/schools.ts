/** The schools: ways to plumb it that people swear by, each as a circuit that fills itself from the engine's facts. */
import type { Engine, Variant } from '../document/schema'
import { sameJson } from '../edit/diff'
import { freshAirOf, withFreshAir, yardstickOf } from '../catalogue/fresh-air'
import {
  baffleUpgrade,
  bothSides,
  bothSidesFiller,
  breatherSideCan,
  regulatorDelete,
  reliefCapAdded,
  separatorOwnReturn,
  separatorSharedDrain,
  stock,
  stockRegulator,
  twoOutlets,
  vacuumSideCan,
} from './sealed'
import { tankVent, ventedCan, ventedReturn } from './vented'

export type School = {
  readonly key: string
  readonly name: string
  /** what it is for; what it costs in service; what it asks of the law */
  readonly about: string
  readonly service: string
  readonly law: string
  readonly sealed: boolean
  /** whether it makes sense for an engine at all */
  readonly fits: (engine: Engine) => boolean
  readonly build: (engine: Engine) => Omit<Variant, 'id' | 'name' | 'school'>
}

const SEALED_LAW =
  'Stays sealed. Where the crankcase system may not be altered at all, even a can needs leave: ask the local authority.'
const OPEN_LAW =
  'Open to the air: as a rule not allowed on public roads. For closed courses, where the rulebook sets the catch tank.'

const anyEngine = () => true

export const SCHOOLS: readonly School[] = [
  {
    key: 'stock',
    name: 'As the maker laid it',
    about:
      'PCV valve to the manifold, breather to the inlet tract, nothing that catches. The yardstick for all the others.',
    service: 'None but the PCV valve.',
    law: 'As approved.',
    sealed: true,
    fits: (e) => freshAirOf(e) !== 'regulator',
    build: stock,
  },
  {
    key: 'stock-regulator',
    name: 'Stock diaphragm regulator',
    about: 'A diaphragm holds the crankcase at a small vacuum whatever the manifold does.',
    service: 'The diaphragm tears with age; it squeals first.',
    law: 'As approved.',
    sealed: true,
    fits: (e) => freshAirOf(e) === 'regulator',
    build: stockRegulator,
  },
  {
    key: 'vacuum-side-can',
    name: 'Vacuum-side can',
    about:
      'A can between PCV valve and manifold. Catches at part throttle, where a street car spends its life; at full throttle the gas goes the other way, unseen by it.',
    service: 'One bowl to empty.',
    law: SEALED_LAW,
    sealed: true,
    fits: anyEngine,
    build: vacuumSideCan,
  },
  {
    key: 'breather-side-can',
    name: 'Breather-side can',
    about:
      'A can between cover and inlet tract. Catches at full throttle and in boost; almost dry on a gently driven car. For engines whose vacuum side is cast inside.',
    service: 'One bowl to empty.',
    law: SEALED_LAW,
    sealed: true,
    fits: anyEngine,
    build: breatherSideCan,
  },
  {
    key: 'both-sides',
    name: 'Both sides, two cans',
    about:
      'A can on either side, so that whichever way the gas runs it passes one. For boosted and direct-injected engines on street and track.',
    service: 'Two bowls to empty, four hose ends more.',
    law: SEALED_LAW,
    sealed: true,
    fits: anyEngine,
    build: bothSides,
  },
  {
    key: 'both-sides-filler',
    name: 'Can and filler-cap separator',
    about:
      'A can on the vacuum side and a separator in the oil-filler cap on the fresh-air side; what the cap catches runs back down the neck.',
    service: 'One bowl; the cap looks after itself while the neck is clear.',
    law: SEALED_LAW,
    sealed: true,
    fits: anyEngine,
    build: bothSidesFiller,
  },
  {
    key: 'two-outlets',
    name: 'One can, two checked outlets',
    about:
      'One can whose outlet goes through checks to manifold and to inlet tract: whichever sucks takes the gas. All states pass the can; a restrictor keeps idle steady.',
    service: 'One bowl, three checks to blow through once a year.',
    law: SEALED_LAW,
    sealed: true,
    fits: anyEngine,
    build: twoOutlets,
  },
  {
    key: 'separator-shared',
    name: 'Separator, shared drain',
    about:
      'A separator right above a wide vent port: gas goes up and oil comes down through the same opening. For long full-throttle running.',
    service: 'No bowl to empty, so long as the gas is slow enough for oil to fall against it.',
    law: SEALED_LAW,
    sealed: true,
    fits: anyEngine,
    build: separatorSharedDrain,
  },
  {
    key: 'separator-return',
    name: 'Separator, own return',
    about:
      'A separator with a drain hose of its own to block, pan or turbo drain. For engines that make more oil than a bowl can hold.',
    service: 'No bowl to empty; the drain must fall all the way. Water goes back too: change oil sooner in winter.',
    law: SEALED_LAW,
    sealed: true,
    fits: anyEngine,
    build: separatorOwnReturn,
  },
  {
    key: 'vented-can',
    name: 'Vented can',
    about: 'Covers to a filtered can, no suction, vacuum ports plugged. Simple and strong, for drag and race.',
    service: 'A large bowl, looked at between sessions; oil smell.',
    law: OPEN_LAW,
    sealed: false,
    fits: anyEngine,
    build: ventedCan,
  },
  {
    key: 'vented-return',
    name: 'Vented can, return to the filler',
    about:
      'For singles and twins that pump their crankcase: a one-way valve, a can above it, and what it catches back down the filler.',
    service: 'The valve is a wearing part; the can drains itself at rest.',
    law: OPEN_LAW,
    sealed: false,
    // for engines that pump
    fits: (e) => e.cylinders <= 2,
    build: ventedReturn,
  },
  {
    key: 'tank-vent',
    name: 'Remote tank vent',
    about:
      'Dry sump: the scavenge pump takes the gas to the oil tank, whose vent is led high and rearward to a can and filter.',
    service: 'The can after long runs; an overfilled tank throws oil.',
    law: OPEN_LAW,
    sealed: false,
    fits: (e) => e.sump === 'dry',
    build: tankVent,
  },
  {
    key: 'regulator-delete',
    name: 'Regulator delete',
    about:
      'The stock regulator taken off, its holes plugged, a can teed into the sensor’s vacuum line with check and restrictor. For conversions whose unit is no longer made. What the sensor reads is late, and a leak there sets a fault code.',
    service: 'One bowl; the restrictor to be kept clear.',
    law: 'An approved part is removed: ask the local authority before it sees the road.',
    sealed: true,
    fits: (e) => freshAirOf(e) === 'regulator',
    build: regulatorDelete,
  },
  {
    key: 'relief-cap',
    name: 'Relief cap added',
    about:
      'The vacuum-side can with a one-way filler cap that opens on over-pressure: when ice or a full can shuts the way out, a cap goes and not a seal.',
    service: 'One bowl; the cap sticks when it is never looked at.',
    law: 'Sealed but for emergencies; some inspectors count the cap as a vent.',
    sealed: true,
    fits: anyEngine,
    build: reliefCapAdded,
  },
  {
    key: 'baffle-upgrade',
    name: 'Better baffles',
    about:
      'A multi-pass baffle in the cam cover, before any can: less is thrown at the pick-up, so less has to be caught. For high-output engines.',
    service: 'One bowl, fuller of water than of oil.',
    law: SEALED_LAW,
    sealed: true,
    fits: anyEngine,
    build: baffleUpgrade,
  },
]

/** A school by its key; undefined for none. */
export const schoolOf = (key: string): School | undefined => SCHOOLS.find((s) => s.key === key)

/**
 * The school's circuit for an engine, as a variant.
 *
 * @example
 * import { newBuild } from '@/plan/schools/new-build'
 * import { SCHOOLS, variantOf } from '@/plan/schools/schools'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const school = SCHOOLS.find((s) => s.key === 'both-sides')
 * console.log(variantOf(school, build.engine, 'b').parts.filter((p) => p.kind === 'can').length) // 2
 */
export function variantOf(school: School, engine: Engine, id: string): Variant {
  return withFreshAir({ id, name: school.name, school: school.key, ...school.build(engine) }, engine)
}

/** The circuit as the maker of an engine laid it. */
export const makersCircuit = (engine: Engine): Variant => variantOf(schoolOf(yardstickOf(engine))!, engine, 'maker')

/**
 * Whether a plan is its school's circuit, line by line; where its parts were dragged to in the picture, and what the
 * tape made of its lengths, do not count.
 */
export function isUntouched(variant: Variant, engine: Engine): boolean {
  const school = schoolOf(variant.school)
  if (!school) return false
  const placeless = ({ parts, lines, pickUp }: Variant) => ({
    parts: parts.map(({ at: _at, ...p }) => p),
    lines: lines.map(({ id, name, kind, from, to, boreMm }) => ({
      id,
      name,
      kind,
      boreMm,
      ends: [from, to].map(({ part, port, barbMm }) => ({ part, port, barbMm })),
    })),
    pickUp,
  })
  return sameJson(placeless(variant), placeless(variantOf(school, engine, variant.id)))
}

/** What the law says of a plan: its school's words while it is that school, else those of a sealed or an open circuit. */
export function legalNote(variant: Variant, engine: Engine): string {
  if (isUntouched(variant, engine)) return schoolOf(variant.school)!.law
  return variant.parts.some((p) => p.kind === 'atmosphere') ? OPEN_LAW : SEALED_LAW
}

/**
 * A plan's name; one that bears its school's name and has been changed says so.
 *
 * @example
 * import { newBuild } from '@/plan/schools/new-build'
 * import { planName } from '@/plan/schools/schools'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(planName({ ...build.variants[0], lines: [] }, build.engine)) // 'Vacuum-side can, changed'
 */
export function planName(variant: Variant, engine: Engine): string {
  const school = schoolOf(variant.school)
  return school && variant.name === school.name && !isUntouched(variant, engine)
    ? `${variant.name}, changed`
    : variant.name
}

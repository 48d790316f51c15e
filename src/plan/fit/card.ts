/**
 * The job card of a plan: tools, cautions, and the steps in the order in which a careful fitter works. It tells of
 * this plan's parts alone.
 */
import type { Build, Variant } from '../document/schema'
import { unitFormatter } from '../document/words'
import { bracketFor } from './bracket'
import { bungsOf } from './bungs'
import { couplingsOf } from './couplings'
import { drillings, spanners } from './lists'
import { compareWithStock } from './stock'
import { fitSteps, putBackSteps } from './steps/put-on'
import { instrumentFor, proveSteps, type CardFigures } from './steps/prove'
import { makeSteps, mockUpSteps } from './steps/make'
import { PHASES, type CardGround, type CardStep } from './steps/step'
import { preparationSteps, takeOffSteps } from './steps/take-off'
import { madeOf, stripsOf } from './strips'

export type Card = {
  readonly tools: readonly string[]
  readonly cautions: readonly string[]
  readonly steps: readonly CardStep[]
}

const WELDING =
  'Weld a bung only on a bare, degreased cover off the engine; leave it to a licensed welder where the law asks that.'
const ON_ROADS =
  'On public roads the crankcase system is an emission control: keep it sealed; ask the local authority. ' +
  'In racing the rulebook decides.'

function toolsOf({ made, couplings, bungs, drills, say }: CardGround, { states }: CardFigures): string[] {
  const braided = made.some((s) => s.hose?.ok && s.hose.value.kind === 'braided')
  const pieces = [...made, ...couplings].flatMap((s) =>
    s.ends.flatMap((e) => (e.chain?.ok ? e.chain.value.pieces : [])),
  )
  const clamped =
    couplings.some((c) => c.kind === 'sleeve' || c.kind === 'mouth') ||
    made.some((s) => s.ends.some((e) => e.chain.ok && e.chain.value.hoseEnd.kind === 'clamp'))
  const hexes = spanners(made)
  return [
    ...(hexes.length > 0 ? [`spanners for ${hexes.map((h) => say.mm(h)).join(', ')} hexagons`] : []),
    ...(clamped ? ['screwdriver or nut driver for clamps', 'sharp blade'] : []),
    ...(braided ? ['cutting tape and a fine-tooth saw or cut-off wheel', 'vice with soft jaws'] : []),
    ...(pieces.some((p) => p.sealing === 'tape') ? ['PTFE tape'] : []),
    ...drills.map((d) => `${say.length(d.drillM)} drill for the ${d.what}`),
    ...(drills.length > 0 ? ['grease, paper and a magnet for chips'] : []),
    ...(bungs.length > 0 ? ['masking tape, degreaser, air with a regulator'] : []),
    'clean engine oil for barbs and O-rings',
    'marker, labels and tape in two colours',
    instrumentFor(states, say) ?? 'manometer',
    'modelling clay',
  ].filter((t, i, all) => all.indexOf(t) === i)
}

function cautionsOf({ build, made, bungs, drills }: CardGround): string[] {
  return [
    'Cold engine: an hour off at least. Battery off where a hand comes near the starter or alternator.',
    ...(made.some((s) => s.line.kind === 'drain')
      ? ['A car that is lifted stands on stands on level ground, never on the jack.']
      : []),
    ...(build.bay?.keepOuts.some((k) => k.kind === 'fuel')
      ? ['Fuel lines stand in the way: no spark, no grinding near them.']
      : []),
    ...(drills.length > 0
      ? ['Drilling: goggles; the part off the engine, or chips caught with grease and a magnet; nothing falls in.']
      : []),
    ...(bungs.length > 0 ? [WELDING] : []),
    ...(made.some((s) => s.ends.some((e) => e.part.kind === 'manifold'))
      ? ['Hose to the manifold is reinforced and rated for vacuum: other hose folds.']
      : []),
    'Used oil and what a can holds go where used oil is taken.',
    ON_ROADS,
  ]
}

/** Phase by phase; within one as they were listed: what is placed, then what is drilled, then line by line. */
const inOrder = (steps: readonly CardStep[]): readonly CardStep[] =>
  steps.toSorted((a, b) => PHASES.indexOf(a.phase) - PHASES.indexOf(b.phase))

/**
 * The card for a plan, with its states and the forecasts of its cans where they are worked out. A line that the maker's hose stays on has
 * no step; nor has a part that is not in the plan.
 *
 * @example
 * import { jobCard } from '@/plan/fit/card'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(jobCard(build, build.variants[0]).steps.length) // 26
 */
export function jobCard(build: Build, variant: Variant, figures: CardFigures = { states: [], cans: [] }): Card {
  const strips = stripsOf(build, variant)
  const say = unitFormatter(build.units)
  const against = compareWithStock(build, variant)
  const ground: CardGround = {
    build,
    variant,
    say,
    against,
    made: madeOf(strips),
    couplings: couplingsOf(build, variant),
    bungs: bungsOf(strips),
    drills: drillings(strips, say),
    brackets: new Map(
      against.added.flatMap(({ kind, id }) => {
        const bracket = kind === 'can' ? bracketFor(build, variant, id) : undefined
        return bracket?.ok ? [[id, bracket.value] as const] : []
      }),
    ),
  }
  return {
    tools: toolsOf(ground, figures),
    cautions: cautionsOf(ground),
    steps: inOrder([
      ...preparationSteps(ground),
      ...takeOffSteps(ground),
      ...mockUpSteps(ground),
      ...makeSteps(ground),
      ...fitSteps(ground),
      ...putBackSteps(),
      ...proveSteps(ground, figures),
    ]),
  }
}

/** Longest name of a step and longest words that a tick keeps. */
export const MOST_KEY = 90
export const MOST_SAID = 600
export type Ticked = {
  readonly state: 'done' | 'changed'
  readonly at: string
  readonly seconds: number | undefined
  readonly said: string
}

/** What is ticked of a step; one whose words were others then holds no more. */
export function tickOf(build: Build, plan: string, step: CardStep): Ticked | undefined {
  const tick = build.fit?.ticks.find((t) => t.plan === plan && t.step === step.key.slice(0, MOST_KEY))
  return (
    tick && {
      state: tick.says === step.says.slice(0, MOST_SAID) ? 'done' : 'changed',
      at: tick.at,
      seconds: tick.seconds,
      said: tick.says,
    }
  )
}

/** A hunt as a page shows it: the car, its tools, what was found so far, and, once it is named, what it was. */
import { scaled, type Job } from '@/core/job'
import type { Build } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { predict, type Predictions } from '../finder/predictions'
import { drawPracticeCar, type PracticeCar } from './practice-car'
import { playHunt, reviewHunt, toolsOf, type HuntReview, type TakenStep } from './hunt'
import type { HuntStep, HuntTool } from './hunt-tools'

/** Everything that may be named. */
export type Suspect = { readonly id: string; readonly name: string }
export type HuntView = {
  readonly seed: number
  readonly car: string
  readonly plan: string
  readonly complaint: string
  readonly minutes: number
  readonly tools: readonly HuntTool[]
  readonly taken: readonly Omit<TakenStep, 'evidence' | 'look'>[]
  readonly spent: number
  readonly isHot: boolean
  readonly suspects: readonly Suspect[]
  /** as its owner knows it, without its fault */
  readonly build: Build
  readonly review: HuntReview | undefined
}

/** Hunts that keep what was worked out of the last car. */
export function makeHunts(): {
  /** @param named what it is taken for; left out while it is looked for. Yields the share done */
  readonly view: (seed: number, steps: readonly HuntStep[], named: string | undefined) => Job<HuntView>
} {
  let kept: { readonly practiceCar: PracticeCar; readonly predictions: Predictions } | undefined
  return {
    *view(seed, steps, named) {
      if (kept?.practiceCar.seed !== seed) {
        const practiceCar = drawPracticeCar(seed)
        kept = { practiceCar, predictions: yield* scaled(predict(practiceCar.build), 0.1, 0.8) }
      }
      const { practiceCar, predictions } = kept
      const { taken, spent, isHot } = playHunt(practiceCar, predictions, steps)
      return {
        seed,
        car: practiceCar.build.about,
        plan: activeVariant(practiceCar.build).name,
        complaint: practiceCar.complaint,
        minutes: practiceCar.minutes,
        tools: toolsOf(practiceCar.build, predictions),
        taken: taken.map(({ evidence: _evidence, look: _look, ...t }) => t),
        spent,
        isHot,
        suspects: predictions.hypotheses
          .map(({ id, name }) => ({ id, name }))
          .toSorted((a, b) => a.name.localeCompare(b.name)),
        build: { ...practiceCar.build, name: `Practice, car ${seed}` },
        review: named === undefined ? undefined : reviewHunt(practiceCar, predictions, { steps, named }),
      }
    },
  }
}

/** Figures of what the gas carries and what is kept of it. */
import { OIL_POURED } from '@/core/gas/oil'
import { activeVariant } from '../../edit/edit'
import { isSolved, oilSum, solvedIn } from '../../model/results'
import { input, named, type WorkingOf } from '../figure'
import { STATE_NAMES } from '../../document/words'

/** Working of the oil that a place carries, kg/s (methods 5). */
export const oilWorking: WorkingOf<'oil'> = (build, a, ref) => {
  const p = solvedIn(a, ref.state)!.passages[ref.id]
  const { lines, parts } = activeVariant(build)
  const name = [...lines, ...parts].find((x) => x.id === ref.id)?.name ?? ''
  return {
    title: `${name}, oil carried ${named(ref.state)}`,
    relation: 'gas flow × (mist + splash) less what was caught upstream',
    source: 'Mist 0.15 to 0.6 g/m³ with load, splash with (rpm/6000)²: estimates, range ×/÷ 3, which the log corrects.',
    inputs: [
      input('Mist', (p?.oil.mist ?? 0) / OIL_POURED, 'liquidRate', 'estimated'),
      input('Splash', (p?.oil.splash ?? 0) / OIL_POURED, 'liquidRate', 'estimated'),
      input('Gas flow', p?.flow ?? 0, 'gasFlow', 'computed'),
    ],
  }
}

/** Working of the share of oil that a can keeps, 0-1 (methods 5). */
export const keptWorking: WorkingOf<'kept'> = (build, a, ref) => {
  const c = solvedIn(a, ref.state)!.cans[ref.id]!
  const name = activeVariant(build).parts.find((p) => p.id === ref.id)?.name ?? ''
  return {
    title: `${name}, share of oil kept ${named(ref.state)}`,
    relation: '1 − Π (1 − E) over its stages, summed over droplet sizes',
    source:
      'Impaction and settling: Hinds, Aerosol Technology. Fibre: Landahl & Herrmann; Lee & Liu. Cyclone: Lapple. Re-entrainment: Souders & Brown.',
    inputs: [
      input('Oil in', oilSum(c.oilIn) / OIL_POURED, 'liquidRate', 'estimated'),
      input('Oil caught', oilSum(c.caught) / OIL_POURED, 'liquidRate', 'computed'),
      input('Velocity across it', c.faceVelocity, 'speed', 'computed'),
      input('Share not torn off again', c.kept, 'share', 'computed'),
    ],
  }
}

/** Working of the oil that reaches the intake on the duty, m3/m (methods 5 and 7). */
export const intakeOilWorking: WorkingOf<'intakeOil'> = (_, a) => ({
  title: 'Oil to the intake',
  relation:
    'oil that reaches manifold, inlet tract and charge pipe, over the distance driven on this duty, times what was learned',
  source: 'Sum over the states of each kind of driving (shares of hours are estimates).',
  inputs: [
    ...a.states
      .filter(isSolved)
      .map((s) =>
        input(
          `${STATE_NAMES[s.id]}, per hour`,
          Object.values(s.into).reduce((sum, i) => sum + oilSum(i.oil), 0) / OIL_POURED,
          'liquidRate',
          'computed',
        ),
      ),
    input('Multiplier learned', a.oilLearned, 'number', a.oilLearned === 1 ? 'estimated' : 'measured'),
  ],
})

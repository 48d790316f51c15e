/** Figures of what the gas carries and what is kept of it. */
import { OIL_POURED } from '@/core/gas/oil'
import { corneringFactor } from '@/core/separation/source'
import { ACTIVITIES, ACTIVITY_FACTS, stateShare } from '@/core/service/rates'
import { activeVariant } from '../../edit/edit'
import { isIntake } from '../../document/kinds'
import { pickUpOf } from '../../model/carriage'
import { corneringOf } from '../../model/duty'
import { isSolved, solvedIn, type SolvedState } from '../../model/results'
import { sub, type Draft } from '../draft'
import { type WorkingOf } from '../figure'
import { originAt } from '../origin'
import { atState, STATE_NAMES } from '../../document/words'

const SOURCE =
  'Mist 0.15 to 0.6 g/m³ with load, splash with (rpm/6000)² and the oil level: estimates, range ×/÷ 3, which the log corrects. What is thrown and caught by size: Hinds; Pui; Landahl & Herrmann.'
const carried = (name: string, draft: Draft, symbol: string, kgS: number) =>
  draft.given(symbol, name, kgS / OIL_POURED, { dimension: 'liquidRate', origin: 'solved' })

const nameIn = (build: Parameters<typeof activeVariant>[0], id: string): string => {
  const { lines, parts } = activeVariant(build)
  return [...lines, ...parts].find((x) => x.id === id)?.name ?? ''
}

/** Working of the oil that a place carries, m3/s as poured (methods 5). */
export const oilWorking: WorkingOf<'oil'> = ({ build, a }, ref, draft) => {
  const p = solvedIn(a, ref.state)!.passages[ref.id]!
  carried('Mist', draft, 'q_m', p.oil.mist)
  carried('Splash', draft, 'q_s', p.oil.splash)
  draft.step('q', 'Oil carried', 'q_m + q_s', 'liquidRate')
  return {
    title: `${nameIn(build, ref.id)}, oil carried ${atState(ref.state)}`,
    result: 'q',
    solved:
      'Carried joint by joint, size by size, from where it is made: gas mixes at each joint, bends throw splash to the wall, cans take out what their stages catch.',
    source: SOURCE,
  }
}

/** Working of the oil that a can catches, m3/s as poured (methods 5). */
export const caughtWorking: WorkingOf<'caught'> = ({ build, a }, ref, draft) => {
  const s = solvedIn(a, ref.state)!
  const c = s.cans[ref.id]!
  carried('Mist that it keeps', draft, 'c_m', c.caught.mist)
  carried('Splash that it keeps', draft, 'c_s', c.caught.splash)
  draft.step('c', 'Oil caught', 'c_m + c_s', 'liquidRate')
  carried('Oil that comes to it', draft, 'i', c.oilIn.mist + c.oilIn.splash)
  draft.step('o', 'Oil that goes on', 'i − c', 'liquidRate')
  draft.check('what comes to it is kept or goes on', 'i', 'c + o')
  return {
    title: `${nameIn(build, ref.id)}, caught ${atState(ref.state)}`,
    result: 'c',
    solved:
      'Stage by stage and size by size: each stage passes 1 − E(d) of a droplet d; what runs along the wall is kept whole.',
    source: SOURCE,
  }
}

/** Working of what a can keeps of the oil that comes to it, 0-1 (methods 5). */
export const keptWorking: WorkingOf<'kept'> = ({ build, a }, ref, draft) => {
  const c = solvedIn(a, ref.state)!.cans[ref.id]!
  carried('Mist that comes to it', draft, 'i_m', c.oilIn.mist)
  carried('Splash that comes to it', draft, 'i_s', c.oilIn.splash)
  carried('Mist that it keeps', draft, 'c_m', c.caught.mist)
  carried('Splash that it keeps', draft, 'c_s', c.caught.splash)
  draft.step('k', 'Share that it keeps', '(c_m + c_s)/(i_m + i_s)', 'share')
  draft.given('v', 'Velocity across its section', c.faceVelocity, { dimension: 'speed', origin: 'computed' })
  draft.given('s', 'Share of the catch that is not torn off again', c.kept, { dimension: 'share', origin: 'computed' })
  return {
    title: `${nameIn(build, ref.id)}, catches ${atState(ref.state)}`,
    result: 'k',
    solved:
      'Catch by size: the droplet curve in the Parts tab shows every stage. Above the Souders-Brown velocity a part is torn off again.',
    source: SOURCE,
  }
}

/** Working of the oil that reaches the intake on the duty, m3/m (methods 5 and 7). */
export const intakeOilWorking: WorkingOf<'intakeOil'> = ({ build, a }, _, draft) => {
  const variant = activeVariant(build)
  const intake = variant.parts.filter((p) => isIntake(p.kind)).map((p) => p.id)
  const states = a.states.filter(isSolved)
  const present = a.states.map((s) => s.id)
  const driven = ACTIVITIES.filter((x) => build.duty.hours[x] > 0)
  driven.forEach((x, i) =>
    draft.given(`h${sub(i + 1)}`, `${ACTIVITY_FACTS[x].name}, hours`, build.duty.hours[x], {
      dimension: 'number',
      origin: originAt(build, ['duty', 'hours', x]),
    }),
  )
  const oil = (s: SolvedState, of: 'mist' | 'splash') => intake.reduce((sum, id) => sum + (s.into[id]?.oil[of] ?? 0), 0)
  const terms: string[] = []
  states.forEach((s, k) => {
    const shares = driven.map((x) => stateShare(x, s.id, present))
    if (shares.every((share) => share === 0)) return
    const mark = sub(k + 1)
    const factors = driven.map((x) => corneringFactor(pickUpOf(build, variant), corneringOf(build, x)))
    const hours = (times: readonly number[]) =>
      driven
        .flatMap((_x, i) =>
          shares[i] === 0 ? [] : [`h${sub(i + 1)}·${shares[i]!}${times[i] === 1 ? '' : `·${times[i]!}`}`],
        )
        .join(' + ')
    carried(`${STATE_NAMES[s.id]}: mist to the intake`, draft, `a${mark}`, oil(s, 'mist'))
    carried(`${STATE_NAMES[s.id]}: splash to the intake on the road`, draft, `b${mark}`, oil(s, 'splash'))
    draft.step(`H${mark}`, `Hours in ${STATE_NAMES[s.id].toLowerCase()}`, hours(factors.map(() => 1)))
    draft.step(`C${mark}`, 'the same, times what cornering throws', hours(factors))
    terms.push(`a${mark}·H${mark} + b${mark}·C${mark}`)
  })
  draft.step('q', 'Oil over all those hours', `3600·(${terms.length > 0 ? terms.join(' + ') : '0'})`, 'volume')
  draft.step(
    'd',
    'Distance over all those hours',
    `1000·(${driven.map((x, i) => `h${sub(i + 1)}·${ACTIVITY_FACTS[x].kmPerHour}`).join(' + ')})`,
    'distance',
  )
  draft.given('M', 'Times what the log has taught', a.oilLearned, {
    dimension: 'number',
    origin: a.oilLearned === 1 ? 'estimated' : 'learned',
  })
  draft.step('u', 'Oil to the intake a distance', 'M·q/d', 'perDistance')
  return {
    title: 'Oil to the intake',
    result: 'u',
    source: SOURCE,
    note: 'Shares of hours in states, and kilometres an hour of each kind of driving, are estimates.',
  }
}

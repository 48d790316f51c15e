/** Workings of what is made: the length of a line in its bay, of a cut hose, of a bracket before it is bent, how that rings; a cover's baffle. */
import { airViscosity, meanFreePath, STANDARD_PRESSURE } from '@/core/gas/air'
import { oilDensity } from '@/core/gas/oil'
import { JET_CD } from '@/core/separation/drop'
import type { Build, Line } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { layOf } from '../bay/lay'
import { DROP_REFERENCE } from '../catalogue/stages'
import type { CoverBaffle } from '../catalogue/cover-baffle'
import type { BracketPlan } from '../fit/bracket'
import { CUT_STEP, gainOf, type Strip } from '../fit/strips'
import { makeDraft, sub, type Draft } from './draft'
import { lineOrigin } from './origin'
import type { WorkingText } from './figure'
import type { Working } from './workings'

function finished(draft: Draft, { result, ...text }: WorkingText): Working {
  const line = draft.lines.find((l) => l.symbol === result)!
  return { ...text, result: line.value, symbol: result, lines: draft.lines, checks: draft.checks }
}
const entered = { dimension: 'length', origin: 'entered' } as const

/** Working of a line's length through its points in the bay, m (methods 9); undefined where it cannot be laid. */
export function lengthWorking(build: Build, line: Line): Working | undefined {
  const lay = layOf(build.bay, activeVariant(build), line)
  if (!lay.ok) return undefined
  const { corners, bendsDeg, radiusM } = lay.value
  const draft = makeDraft()
  const runs = corners.slice(1).map((p, i) => {
    const before = corners[i]!
    return draft.given(
      `s${sub(i + 1)}`,
      `Straight from point ${i + 1} to ${i + 2}`,
      Math.hypot(...p.map((v, k) => v - before[k]!)),
      {
        dimension: 'length',
        origin: 'measured',
      },
    )
  })
  draft.given('r', 'Least bend radius of this hose', radiusM, { dimension: 'length', origin: 'estimated' })
  const bends = bendsDeg.map((deg, i) => {
    const turn = draft.given(`t${sub(i + 1)}`, `Turn at point ${i + 2}`, (deg * Math.PI) / 180, {
      dimension: 'angle',
      origin: 'computed',
    })
    return ` − 2·r·tan(${turn}/2) + r·${turn}`
  })
  draft.step('L', 'Length of its middle', runs.join(' + ') + bends.join(''), 'length')
  return finished(draft, {
    title: `${line.name}, length`,
    result: 'L',
    source: 'Straight runs and arcs that touch them: each bend takes two tangents and gives its arc (methods 9).',
  })
}

/** Working of what a hose is cut to, m. */
export function cutWorking(build: Build, strip: Strip): Working {
  const draft = makeDraft()
  draft.given('L', `Path between its ports${strip.lay ? ', in the bay' : ''}`, strip.pathM, {
    dimension: 'length',
    origin: lineOrigin(build, strip.line.id, 'lengthMm'),
  })
  draft.given('k', 'Slack: the engine rocks', strip.slackM, { dimension: 'length', origin: 'estimated' })
  strip.ends.forEach((end, i) =>
    draft.given(`e${sub(i + 1)}`, `Gained on a barb or lost in an end, at end ${i + 1}`, gainOf(end), {
      dimension: 'length',
      origin: 'estimated',
    }),
  )
  draft.constant('c', 'Steps in which hose is cut', CUT_STEP, 'length')
  draft.step('x', 'Cut to', 'max(c; c·ceil((L + k + e₁ + e₂)/c − 1e−9))', 'length')
  return finished(draft, {
    title: `${strip.line.name}, cut`,
    result: 'x',
    source: 'Path of the middle, ends and slack (estimates).',
  })
}

/** Workings of a bracket: its strip before bending, m, and its first frequency, Hz (methods 11). */
export function bracketWorkings({ bracket: b, can }: BracketPlan): { readonly flat: Working; readonly rings: Working } {
  const flat = makeDraft()
  const legs = b.legsM.map((l, i) =>
    flat.given(`l${sub(i + 1)}`, `Leg ${i + 1}, outside`, l, { dimension: 'length', origin: 'computed' }),
  )
  flat.given('t', 'Thickness', b.thicknessM, entered)
  flat.given('r', 'Inside radius of the bends', b.insideRadiusM, { dimension: 'length', origin: 'estimated' })
  flat.given('k', 'Where the neutral line lies in the thickness', b.kFactor, {
    dimension: 'number',
    origin: 'estimated',
  })
  flat.given('a', 'Turned through at each bend', (b.angleDeg * Math.PI) / 180, {
    dimension: 'angle',
    origin: 'entered',
  })
  flat.step('b', 'A bend, against its two legs', 'a·(r + k·t) − 2·tan(a/2)·(r + t)', 'length')
  flat.step('L', 'Flat length', `${legs.join(' + ')} + ${Math.max(0, legs.length - 1)}·b`, 'length')
  const rings = makeDraft()
  const one = b.supports === 1
  rings.constant('E', 'Stiffness of the metal, Pa', b.youngs)
  rings.constant('ρ', 'Density of the metal', b.density, 'concentration')
  rings.given('w', 'Width', b.widthM, entered)
  rings.given('t', 'Thickness', b.thicknessM, entered)
  rings.given('L', one ? 'From the support to the middle of the can' : 'Between the supports', b.freeLengthM, {
    dimension: 'length',
    origin: 'computed',
  })
  rings.given('m', 'Can, full', b.endMassKg, { dimension: 'mass', origin: 'estimated' })
  rings.step('I', 'Second moment of its section, m⁴', 'w·t^3/12')
  rings.step('s', 'Stiffness, N/m', `${one ? 3 : 192}·E·I/L^3`)
  rings.step('b', 'Its own weight', 'ρ·w·t·L', 'mass')
  rings.step('f', 'First frequency, Hz', `√(s/(m + ${one ? '33/140' : '13/35'}·b))/(2·π)`)
  return {
    flat: finished(flat, {
      title: `Bracket of the ${can.toLowerCase()}, flat`,
      result: 'L',
      source: 'Bend allowance (Machinery’s Handbook).',
    }),
    rings: finished(rings, {
      title: `Bracket of the ${can.toLowerCase()}, first frequency`,
      result: 'f',
      source: 'Blevins, Formulas for Natural Frequency and Mode Shape.',
    }),
  }
}

/**
 * Workings of a cover's baffle: its drop at 100 l/min, and the droplet of which half is kept (none where even the coarsest passes).
 * @param d50 that droplet, m, as `judgeBaffle` has it
 */
export function baffleWorkings(
  b: CoverBaffle,
  d50: number | undefined,
): { readonly drop: Working; readonly half: Working | undefined } {
  const { flow, density, gasK } = DROP_REFERENCE
  const begun = () => {
    const draft = makeDraft()
    draft.constant('Q', 'Gas, m³/s', flow)
    draft.given('N', 'Plates', b.plates, { dimension: 'number', origin: 'entered' })
    draft.given('n', 'Holes a plate', b.holes, { dimension: 'number', origin: 'entered' })
    draft.given('D', 'Hole', b.holeMm / 1000, entered)
    draft.step('A', 'All holes of a plate', 'n·π·D^2/4', 'area')
    return draft
  }
  const drop = begun()
  drop.constant('ρ', 'Density of the gas', density, 'concentration')
  drop.constant('C', 'Discharge of a hole', JET_CD)
  drop.step('p', 'Pressure drop', 'N·ρ/2·(Q/(C·A))^2', 'pressure')
  const half = begun()
  if (d50 !== undefined) {
    half.given('d', 'Droplet of which half is kept', d50, { dimension: 'length', origin: 'solved' })
    half.constant('ρ', 'Density of the oil', oilDensity(gasK), 'concentration')
    half.constant('μ', 'Viscosity of the gas, Pa·s', airViscosity(gasK))
    half.constant('λ', 'Mean free path of the gas', meanFreePath(STANDARD_PRESSURE, gasK), 'length')
    half.step('Cc', 'Slip', '1 + 2·λ/d·(1.257 + 0.4·exp(−0.55·d/λ))')
    half.step('S', 'Stokes number at the holes', 'ρ·d^2·Cc·Q/(9·μ·D·A)')
    half.step('E', 'A plate keeps', '1/(1 + (0.24/S)^2)')
    half.check('half is kept by all', '1 − (1 − E)^N', '0.5')
  }
  return {
    drop: finished(drop, {
      title: 'Cover baffle, drop',
      result: 'p',
      source: 'Orifices in parallel on a plate (ISO 5167), plates in series.',
    }),
    half:
      d50 === undefined
        ? undefined
        : finished(half, {
            title: 'Cover baffle, half kept',
            result: 'd',
            solved: 'The size is sought at which the plates keep half.',
            source: 'Impaction at round jets (Hinds, Aerosol Technology, 5.5).',
          }),
  }
}

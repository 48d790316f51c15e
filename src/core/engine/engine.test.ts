import { KG_PER_STANDARD_LITRE } from '../gas/air'
import { blowBy, leakAreaFor, makeBlowBy } from './blowby'
import { closedCycle, cycleOf, cylinderVolume, writePressures } from './cylinder'
import {
  chargeOf,
  fullLoadState,
  operatingState,
  ratedAir,
  RING_SHARE,
  statesOf,
  type EngineFacts,
  type StateId,
} from './states'

const amb = { pressurePa: 101325, temperatureK: 293.15 }
type Sized = Pick<EngineFacts, 'cylinders' | 'induction' | 'ratedRpm' | 'boostPa'> & {
  readonly cc: number
  readonly boreMm: number
  readonly compression: number
}
const engine = ({ cylinders, cc, boreMm, compression, induction, ratedRpm, boostPa }: Sized): EngineFacts => {
  const stroke = (cc * 1e-6) / cylinders / ((Math.PI * (boreMm / 1000) ** 2) / 4)
  return {
    cylinders,
    displacementM3: cc * 1e-6,
    cylinder: { boreM: boreMm / 1000, strokeM: stroke, rodM: 1.6 * stroke, compression },
    induction,
    idleRpm: 800,
    ratedRpm,
    boostPa,
    idleManifoldPa: 35e3,
    overrunManifoldPa: 24e3,
    inletDepressionPa: 4000,
    inletFouling: 1,
    oilInUseK: 368.15,
  }
}
const five = engine({
  cylinders: 5,
  cc: 2480,
  boreMm: 82.5,
  compression: 10,
  induction: 'turbo',
  ratedRpm: 6500,
  boostPa: 120e3,
})
const eight = engine({
  cylinders: 8,
  cc: 5680,
  boreMm: 101,
  compression: 10.5,
  induction: 'na',
  ratedRpm: 6000,
  boostPa: 0,
})

function blowByLpm(e: EngineFacts, id: StateId): number {
  const full = operatingState(fullLoadState(e.induction), e, amb)
  const { cylinders, cylinder } = e
  const leakM2 = leakAreaFor(RING_SHARE.normal * ratedAir(e, amb), {
    cylinders,
    cylinder,
    charge: chargeOf(full, cylinders),
    crankcasePa: amb.pressurePa,
  })
  const s = operatingState(id, e, amb)
  const kgS = blowBy({ leakM2, cylinders, cylinder }, chargeOf(s, cylinders), amb.pressurePa)
  return (kgS / KG_PER_STANDARD_LITRE) * 60
}

test('the slider-crank closes on displacement and compression ratio', () => {
  const c = five.cylinder
  expect((cylinderVolume(c, Math.PI) - cylinderVolume(c, 0)) * 5).toBeCloseTo(five.displacementM3, 9)
  expect(cylinderVolume(c, Math.PI) / cylinderVolume(c, 0)).toBeCloseTo(10, 9)
})

test('a motored cycle compresses by the polytropic law', () => {
  const c = five.cylinder
  const pressures = closedCycle(c, { pPa: 1e5, tK: 320, heatJ: 0 })
  const ratio = cylinderVolume(c, (-130 * Math.PI) / 180) / cylinderVolume(c, 0)
  expect(Math.max(...pressures) / 1e5).toBeCloseTo(ratio ** 1.32, 1)
})

// methods 3, sanity for normal rings (common practice, no source)
test('normal rings: a boosted five blows near 10 l/min at idle and 130 to 160 in boost, a 5.7 l eight near 20 and 145', () => {
  expect(blowByLpm(five, 'idle')).toBeGreaterThan(7)
  expect(blowByLpm(five, 'idle')).toBeLessThan(13)
  expect(blowByLpm(five, 'boost')).toBeGreaterThan(130)
  expect(blowByLpm(five, 'boost')).toBeLessThan(160)
  expect(blowByLpm(eight, 'idle')).toBeGreaterThan(15)
  expect(blowByLpm(eight, 'idle')).toBeLessThan(28)
  expect(Math.abs(blowByLpm(eight, 'pull') - 145)).toBeLessThan(15)
})

test('blow-by grows with load and falls away on overrun', () => {
  const order = (['overrun', 'idle', 'cruise', 'spool', 'boost'] as const).map((id) => blowByLpm(five, id))
  expect(order).toEqual(order.toSorted((a, b) => a - b))
})

test('an engine without a charger knows no boost and no spool', () => {
  expect(statesOf('na')).toEqual(['idle', 'cruise', 'pull', 'overrun'])
  expect(statesOf('turbo')).toHaveLength(6)
})

test('the inlet tract is at its rated depression at rated flow and falls with the square of flow', () => {
  const boost = operatingState('boost', five, amb)
  expect(boost.inletDepressionPa).toBeCloseTo(4000, 6)
  const cruise = operatingState('cruise', five, amb)
  expect(cruise.inletDepressionPa / 4000).toBeCloseTo((cruise.airKgS / boost.airKgS) ** 2, 9)
})

test('an override replaces one figure and moves what follows from it', () => {
  const plain = operatingState('cruise', five, amb)
  const logged = operatingState('cruise', five, amb, { manifoldPa: 80e3 })
  expect(logged.manifoldPa).toBe(80e3)
  expect(logged.rpm).toBe(plain.rpm)
  expect(logged.airKgS).toBeGreaterThan(plain.airKgS)
})

test('charge air: 20 K above the surroundings, a tenth of a kelvin more a kPa of boost, none less for a vacuum', () => {
  expect(operatingState('boost', five, amb).manifoldK).toBeCloseTo(293.15 + 20 + 12, 9)
  expect(operatingState('idle', five, amb).manifoldK).toBeCloseTo(313.15, 9)
  // air by hand: ve p/(R T) V N/2, of the boosted state
  const { airKgS, manifoldPa, rpm, manifoldK } = operatingState('boost', five, amb)
  const ve = airKgS / ((manifoldPa / (287.05 * manifoldK)) * 2480e-6 * (rpm / 120))
  expect(ve).toBeGreaterThan(0.85)
  expect(ve).toBeLessThan(1.05)
})

test('an open throttle stands below the surroundings by what the inlet tract loses, never below half', () => {
  const pull = operatingState('pull', eight, amb)
  const clean = operatingState('pull', { ...eight, inletDepressionPa: 0 }, amb)
  expect(clean.manifoldPa).toBeCloseTo(0.985 * amb.pressurePa, 6)
  const lost = clean.manifoldPa - pull.manifoldPa
  expect(lost).toBeGreaterThan(3500)
  expect(lost).toBeLessThan(4200)
  expect(operatingState('pull', { ...eight, inletDepressionPa: 90e3 }, amb).manifoldPa).toBe(amb.pressurePa / 2)
  expect(operatingState('pull', eight, amb, { manifoldPa: 88e3 }).manifoldPa).toBe(88e3)
})

test('the slider-crank burns about top dead centre: pressure peaks a few degrees after it, and heat adds what it adds', () => {
  const { cylinder } = five
  const fired = closedCycle(cylinder, { pPa: 1e5, tK: 320, heatJ: 800 })
  const motored = closedCycle(cylinder, { pPa: 1e5, tK: 320, heatJ: 0 })
  const peakAt = fired.indexOf(Math.max(...fired)) * 2 - 130
  expect(peakAt).toBeGreaterThan(5)
  expect(peakAt).toBeLessThan(35)
  // up to the spark, 15 degrees before the top, nothing burns
  for (let i = 0; i * 2 - 130 <= -15; i++) expect(fired[i]).toBe(motored[i])
  expect(fired[60]).toBeGreaterThan(motored[60]!)
  expect(Math.max(...motored) / 1e5).toBeGreaterThan(15)
})

test('a cylinder below the crankcase draws gas up past the rings, as much as it would lose the other way round', () => {
  const { cylinder } = five
  const ring = { leakM2: 1e-7, cylinders: 1, cylinder }
  // motored on a deep vacuum: down where its own cycle never reaches a crankcase that high, all of it runs up
  const up = blowBy(ring, { pPa: 1000, tK: 320, heatJ: 0 }, 5e6)
  expect(up).toBeLessThan(0)
  // choked upward flow does not ask how deep the vacuum is
  const deeper = blowBy(ring, { pPa: 500, tK: 320, heatJ: 0 }, 5e6)
  expect(deeper / up).toBeCloseTo(1, 9)
  // crankcase and cylinder near each other: less, and still upward
  const near = blowBy(ring, { pPa: 3e5, tK: 320, heatJ: 0 }, 5e6)
  expect(near).toBeLessThan(0)
  expect(near).toBeGreaterThan(up)
  // as the crankcase rises toward the cylinder, blow-by falls without a step
  const flows = [0.9e5, 1e5, 1.1e5, 2e5, 4e5, 8e5].map((p) => blowBy(ring, { pPa: 1e5, tK: 320, heatJ: 300 }, p))
  expect(flows).toEqual(flows.toSorted((a, b) => b - a))
})

test('one law asked about many engines in turn answers each as a fresh one does', () => {
  const law = makeBlowBy()
  const asked = Array.from({ length: 90 }, (_, k) => {
    const cylinder = { ...five.cylinder, boreM: 0.07 + 0.001 * (k % 30) }
    return [{ leakM2: 1e-7, cylinders: 4, cylinder }, { pPa: 1e5 + 500 * k, tK: 320, heatJ: 500 }, 101_325] as const
  })
  for (const round of [asked, asked.toReversed(), asked])
    for (const [ring, charge, p] of round) expect(law(ring, charge, p)).toBe(makeBlowBy()(ring, charge, p))
})

test('room for a cycle is filled to its last step, with heat and without', () => {
  const cycle = cycleOf(five.cylinder)
  for (const heatJ of [0, 800]) {
    const into = new Float64Array(131).fill(-1)
    writePressures(cycle, { pPa: 1e5, tK: 320, heatJ }, into)
    expect([...into]).toEqual([...closedCycle(five.cylinder, { pPa: 1e5, tK: 320, heatJ })])
    expect(into[130]! / into[129]!).toBeCloseTo(into[129]! / into[128]!, 2)
  }
})

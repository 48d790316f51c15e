import { KG_PER_STANDARD_LITRE } from '../gas/air'
import { blowBy, leakAreaFor } from './blowby'
import { closedCycle, cylinderVolume } from './cylinder'
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

import { airDensity, airViscosity, meanFreePath } from '../gas/air'
import { bendDeposition } from './bend'
import { carry, FILM_DRAG, type CarriageInput } from './carriage'
import { sizeBins, slip, slipOn } from './droplets'
import { clogged, dropLaw } from './drop'
import { separate } from './separate'
import { levelFactor, corneringFactor, MIST, mistConcentration, SPLASH, splashConcentration } from './source'
import { keptAgainstFlow, SOUDERS_BROWN_OPEN, stageEfficiency, type Stage } from './stages'

const carrier = { flow: 5e-4, pPa: 101325, tK: 343.15, oilDensity: 850 }

test('bins carry the whole mode and hold its median', () => {
  const bins = sizeBins({ fraction: 1, mmd: 1e-6, gsd: 2 }, 40)
  expect(bins.reduce((s, b) => s + b.share, 0)).toBeCloseTo(1, 12)
  expect(bins.filter((b) => b.d < 1e-6).reduce((s, b) => s + b.share, 0)).toBeCloseTo(0.5, 9)
})

test('more sizes change a separation by less than 0.001', () => {
  const modes = [
    { fraction: 0.6, mmd: 0.9e-6, gsd: 1.9 },
    { fraction: 0.4, mmd: 8e-6, gsd: 2 },
  ]
  const stages: Stage[] = [
    { type: 'impactor', jets: 1, jetDiameter: 0.0095 },
    { type: 'fibre', fibreDiameter: 1.1e-4, solidity: 0.02, thickness: 0.03, area: 0.0035 },
  ]
  expect(
    Math.abs(separate(modes, stages, carrier, 40).captured - separate(modes, stages, carrier, 400).captured),
  ).toBeLessThan(0.001)
})

test.each<Stage>([
  { type: 'impactor', jets: 1, jetDiameter: 0.01 },
  { type: 'cyclone', inletWidth: 0.006, inletHeight: 0.014, turns: 5 },
  { type: 'settling', area: 0.003 },
])('a $type takes big drops more surely than small ones, and none without flow', (stage) => {
  const e = stageEfficiency(stage, carrier)
  const sizes = [0.5e-6, 2e-6, 8e-6, 30e-6].map(e)
  expect(sizes).toEqual(sizes.toSorted((a, b) => a - b))
  expect(Math.min(...sizes)).toBeGreaterThanOrEqual(0)
  expect(Math.max(...sizes)).toBeLessThanOrEqual(1)
  expect(stageEfficiency(stage, { ...carrier, flow: 0 })(1e-5)).toBe(0)
})

test('fibre has a most penetrating size between diffusion and impaction', () => {
  const e = stageEfficiency(
    { type: 'fibre', fibreDiameter: 8e-6, solidity: 0.06, thickness: 0.002, area: 0.02 },
    carrier,
  )
  expect(e(0.3e-6)).toBeLessThan(e(0.02e-6))
  expect(e(0.3e-6)).toBeLessThan(e(3e-6))
})

test('slip matters for mist and not for splash', () => {
  expect(slip(1e-6, 101325, 293.15)).toBeCloseTo(1.167, 3)
  expect(slip(2e-5, 101325, 293.15)).toBeLessThan(1.01)
})

test('what was caught is torn off again above the Souders-Brown velocity', () => {
  expect(keptAgainstFlow(0.5, SOUDERS_BROWN_OPEN, { pPa: 101325, tK: 343.15, oilDensity: 850 })).toBe(1)
  expect(keptAgainstFlow(3, SOUDERS_BROWN_OPEN, { pPa: 101325, tK: 343.15, oilDensity: 850 })).toBeLessThan(0.3)
})

test('an overfilled sump throws twice the oil, a low one half', () => {
  expect(levelFactor(0)).toBe(1)
  expect(levelFactor(0.1)).toBeCloseTo(2, 12)
  expect(levelFactor(-0.1)).toBeCloseTo(0.5, 12)
})

test('oil at its source: mist with load, splash with speed squared, cornering at an open pick-up', () => {
  expect(mistConcentration(0)).toBeCloseTo(0.15e-3, 9)
  expect(mistConcentration(1)).toBeCloseTo(0.6e-3, 9)
  expect(splashConcentration('unbaffled', 6000)).toBe(6e-3)
  expect(splashConcentration('baffled', 3000)).toBeCloseTo(0.25e-3, 9)
  expect(corneringFactor('unbaffled', 'track')).toBeCloseTo(6, 9)
  // baffles are flooded as well
  expect(corneringFactor('baffled', 'track')).toBeCloseTo(15, 9)
  expect(corneringFactor('multipass', 'mountain')).toBeCloseTo(0.35 / 0.3, 9)
  expect(corneringFactor('baffled', 'road')).toBe(1)
})

const chain: CarriageInput = {
  pressure: { crankcase: 101000, cover: 100900, can: 100000, manifold: 60000, inlet: 101325 },
  streams: [
    { id: 'passage', from: 'crankcase', to: 'cover', flow: 4e-4 },
    { id: 'fresh', from: 'inlet', to: 'cover', flow: 2e-4 },
    { id: 'can', from: 'cover', to: 'can', flow: 6e-4 },
    { id: 'suction', from: 'can', to: 'manifold', flow: 6e-4 },
  ],
  cans: [{ id: 'can', stages: [{ type: 'settling', area: 0.01 }], faceM2: 0.01, packed: false, ua: 1 }],
  gasK: 353.15,
  bonnetK: 283.15,
  oilDensity: 850,
  yAir: 0.008,
  boundaries: new Set(['manifold', 'inlet']),
  mist: { mode: { mmd: 0.9e-6, gsd: 1.9 }, concentration: 4e-4, nodes: ['crankcase'] },
  splash: { mode: { mmd: 1e-5, gsd: 2 }, concentration: 1e-3, nodes: ['cover'] },
  blowBy: { node: 'crankcase', flow: 4e-4, y: 0.055 },
}

test('oil and water are conserved down the line: what goes in is caught or goes on', () => {
  const c = carry(chain)
  const caught = c.cans.can!
  for (const kind of ['mist', 'splash'] as const)
    expect(c.oil.can![kind] - caught.caught[kind]).toBeCloseTo(c.oil.suction![kind], 15)
  expect(c.oil.can!.mist).toBeCloseTo(c.oil.passage!.mist, 15)
  expect(c.oil.fresh).toEqual({ mist: 0, splash: 0 })
  expect(c.water.passage! + c.water.fresh!).toBeCloseTo(c.water.can!, 15)
  expect(c.water.can! - caught.waterCaught).toBeCloseTo(c.water.suction!, 15)
  expect(caught.waterCaught).toBeGreaterThan(0)
})

const bent = (bendDeg: number): CarriageInput => ({
  ...chain,
  hoses: new Map([['passage', { boreM: 0.0159, bendDeg }]]),
})

test('what bends throw to the wall runs on as a liquid: none is lost, a can keeps it all, and a bend never lets more through', () => {
  let before = Infinity
  for (const deg of [0, 45, 90, 180, 360]) {
    const c = carry({
      ...bent(deg),
      splash: { ...chain.splash, nodes: ['crankcase'] },
      cans: [{ ...chain.cans[0]!, stages: [] }],
    })
    const can = c.cans.can!
    // the can has no stage: it keeps the liquid alone
    const through = c.oil.can!.splash - can.caught.splash
    expect(through).toBeLessThanOrEqual(before)
    before = through
    expect(c.oil.suction!.splash).toBeCloseTo(through, 15)
    expect(c.oil.can!.splash).toBeCloseTo(c.oil.passage!.splash, 15)
    // mist follows the gas round
    expect(can.caught.mist).toBeLessThan(0.1 * c.oil.can!.mist + 1e-18)
  }
  expect(before).toBeLessThan(
    0.6 * carry({ ...chain, splash: { ...chain.splash, nodes: ['crankcase'] } }).oil.can!.splash,
  )
})

test('where a hose climbs in slow gas its film runs back: to the engine, or into the can that it comes from', () => {
  const splashed = { ...chain.splash, nodes: ['crankcase'] }
  const climbing = (riseM: number | undefined, boreM: number) =>
    carry({
      ...chain,
      splash: splashed,
      hoses: new Map([['passage', { boreM, bendDeg: 180, riseM: riseM! }]]),
      cans: [{ ...chain.cans[0]!, stages: [] }],
    })
  const film = (c: ReturnType<typeof carry>) => c.cans.can!.caught.splash
  // 4e-4 kg/s is 2 m/s in 16 mm and 18 m/s in 5.3 mm: the one lets it run back, the other drags it on
  expect(film(climbing(0.3, 0.0159))).toBe(0)
  expect(film(climbing(0.3, 0.0053))).toBeCloseTo(film(climbing(undefined, 0.0053)), 15)
  expect(film(climbing(-0.3, 0.0159))).toBeCloseTo(film(climbing(undefined, 0.0159)), 15)
  // in between a part, and never more than where it is level
  const between = film(climbing(0.3, 0.0075)) / film(climbing(undefined, 0.0075))
  expect(between).toBeGreaterThan(0.02)
  expect(between).toBeLessThan(0.98)

  const behind = (riseM: number) =>
    carry({ ...chain, hoses: new Map([['suction', { boreM: 0.0159, bendDeg: 180, riseM }]]) })
  const [level, up] = [behind(0), behind(0.2)]
  expect(up.cans.can!.caught.splash).toBeGreaterThan(level.cans.can!.caught.splash)
  expect(up.cans.can!.caught.splash).toBeLessThan(up.cans.can!.oilIn.splash)
})

test('film that comes to where oil is made stays there', () => {
  const over = carry({
    ...chain,
    // thrown to the wall on the way up into the cover, where splash is made
    hoses: new Map([['passage', { boreM: 0.0159, bendDeg: 360 }]]),
    splash: { ...chain.splash, concentration: 0, nodes: ['cover'] },
    mist: { ...chain.mist, mode: { mmd: 1e-5, gsd: 2 } },
  })
  expect(over.oil.can!.mist).toBeLessThan(over.oil.passage!.mist)
})

test('what bends throw and a can takes is that of the volume that runs at the pressure there', () => {
  const splashed = {
    ...chain,
    splash: { ...chain.splash, nodes: ['crankcase'] },
    mist: { ...chain.mist, concentration: 0 },
  }
  const bins = sizeBins({ ...chain.splash.mode, fraction: 1 }, 16)
  const rho = airDensity(chain.pressure.crankcase!, chain.gasK)
  const gas = {
    boreM: 0.0159,
    flowM3S: 4e-4 / rho,
    oilDensity: 850,
    viscosity: airViscosity(chain.gasK),
    meanFreePathM: meanFreePath(chain.pressure.crankcase!, chain.gasK),
  }
  const thrown = bins.reduce((sum, b) => sum + b.share * bendDeposition(gas, 90, b.d), 0)
  const c = carry({
    ...splashed,
    hoses: new Map([['passage', { boreM: 0.0159, bendDeg: 90 }]]),
    cans: [{ ...chain.cans[0]!, stages: [] }],
  })
  expect(c.cans.can!.caught.splash / c.oil.passage!.splash).toBeCloseTo(thrown, 6)
  // and of a can by its own gas
  const at = airDensity(chain.pressure.cover!, chain.gasK)
  const law = stageEfficiency(chain.cans[0]!.stages[0]!, {
    flow: 6e-4 / at,
    pPa: chain.pressure.cover!,
    tK: chain.gasK,
    oilDensity: 850,
  })
  const plain = carry(splashed).cans.can!
  const kept = bins.reduce((sum, b) => sum + b.share * law(b.d), 0) * plain.kept
  expect(plain.caught.splash / plain.oilIn.splash).toBeCloseTo(kept, 6)
})

test('a film half way between running back and being dragged is half of each', () => {
  // 3/4 of the velocity that drags it, at the density of the gas
  const rho = airDensity(chain.pressure.crankcase!, chain.gasK)
  const v = (0.75 * FILM_DRAG) / Math.sqrt(rho)
  const boreM = Math.sqrt((4 * (4e-4 / rho)) / (Math.PI * v))
  const film = (riseM: number) =>
    carry({
      ...chain,
      splash: { ...chain.splash, nodes: ['crankcase'] },
      hoses: new Map([['passage', { boreM, bendDeg: 180, riseM }]]),
      cans: [{ ...chain.cans[0]!, stages: [] }],
    }).cans.can!.caught.splash
  expect(film(0.3) / film(0)).toBeCloseTo(0.5, 6)
})

test('a fibre bed as Landahl & Herrmann and Lee & Liu have it, written out', () => {
  const bed = { type: 'fibre', fibreDiameter: 20e-6, solidity: 0.1, thickness: 0.02, area: 0.004 } as const
  const c = { flow: 1e-3, pPa: 101325, tK: 343.15, oilDensity: 850 }
  const d = 1e-6
  const [a, df, u, mu] = [0.1, 20e-6, 1e-3 / 0.004, airViscosity(343.15)]
  const cc = slipOn(meanFreePath(101325, 343.15), d)
  // Ku of a tenth: -ln 0.1/2 - 3/4 + 0.1 - 0.01/4
  const ku = 1.151292546497023 - 0.75 + 0.1 - 0.0025
  const stk = (850 * d * d * cc * u) / (18 * mu * df)
  const pe = (df * u) / ((1.380649e-23 * 343.15 * cc) / (3 * Math.PI * mu * d))
  const r = d / df
  const e =
    stk ** 3 / (stk ** 3 + 0.77 * stk ** 2 + 0.22) +
    ((0.6 * 0.9) / ku) * (r ** 2 / (1 + r)) +
    1.6 * (0.9 / ku) ** (1 / 3) * pe ** (-2 / 3)
  expect(stageEfficiency(bed, c)(d)).toBeCloseTo(1 - Math.exp((-4 * a * e * 0.02) / (Math.PI * df * 0.9)), 9)
})

test('past a can with no bowl on its way the liquid reaches the intake', () => {
  const straight = { ...bent(180), cans: [], splash: { ...chain.splash, nodes: ['crankcase'] } }
  const c = carry(straight)
  expect(c.oil.suction!.splash).toBeCloseTo(c.oil.passage!.splash, 15)
})

test('a can plumbed the wrong way round keeps a third of what it kept, never more', () => {
  const turned = carry({
    ...chain,
    streams: chain.streams.map((s) => (s.id === 'can' ? { ...s, from: s.to, to: s.from, flow: -s.flow } : s)),
  })
  const right = carry(chain)
  for (const kind of ['mist', 'splash'] as const) {
    expect(turned.cans.can!.caught[kind] / right.cans.can!.caught[kind]).toBeCloseTo(1 / 3, 6)
    expect(turned.oil.suction![kind] + turned.cans.can!.caught[kind]).toBeCloseTo(turned.oil.can![kind], 15)
  }
})

test('a can as hot as the gas catches no water', () => {
  expect(carry({ ...chain, bonnetK: 353.15 }).cans.can!.waterCaught).toBe(0)
})

test.each([
  ['four parts in five', 1e-3, 4e-3],
  ['ninety-nine parts in a hundred', 1e-4, 1e-2],
])('a pump that sends %s round loses no water and no oil: what leaves is what blows by', (_, blowBy, round) => {
  // crankcase -> pump -> tank, most of it back through a passage, the blow-by out by the vent
  const result = carry({
    pressure: { crank: 101300, tank: 101400, out: 101325 },
    streams: [
      { id: 'pump', from: 'crank', to: 'tank', flow: blowBy + round },
      { id: 'back', from: 'tank', to: 'crank', flow: round },
      { id: 'vent', from: 'tank', to: 'out', flow: blowBy },
    ],
    cans: [],
    gasK: 350,
    bonnetK: 320,
    oilDensity: 840,
    yAir: 0.01,
    boundaries: new Set(['out']),
    mist: { mode: MIST, concentration: 4e-4, nodes: ['crank'] },
    splash: { mode: SPLASH.baffled, concentration: 0, nodes: ['crank'] },
    blowBy: { node: 'crank', flow: blowBy, y: 0.06 },
  })
  const y = 0.06
  const share = (y * 18.015) / (y * 18.015 + (1 - y) * 28.965)
  expect(result.water.vent! / (blowBy * share)).toBeCloseTo(1, 10)
  // the tank's gas is the crankcase's
  const perKg = (id: string, m: number) => (result.oil[id]!.mist + result.oil[id]!.splash) / m
  expect(perKg('vent', blowBy) / perKg('pump', blowBy + round)).toBeCloseTo(1, 6)
})

test.each([
  ['holes', { type: 'impactor', jets: 12, jetDiameter: 0.003 }],
  ['a cyclone', { type: 'cyclone', inletWidth: 0.012, inletHeight: 0.02, turns: 4 }],
  ['media', { type: 'fibre', fibreDiameter: 20e-6, solidity: 0.04, thickness: 0.03, area: 0.005 }],
] as const)(
  '%s that cost three times as much are as far shut as that takes, and what is left runs faster',
  (_, stage) => {
    // behind a nipple so wide that it costs nothing
    const cost = (s: Stage) => {
      const { a, b } = dropLaw([s], 10, 343)
      const q = 100 / 60_000
      return a * q + b * 1.2 * q * q
    }
    const shut = clogged(stage, 3)
    expect(cost(shut) / cost(stage)).toBeCloseTo(3, 6)
    const carrier = { flow: 100 / 60_000, pPa: 101_325, tK: 343, oilDensity: 850 }
    const catches = (s: Stage) => stageEfficiency(s, carrier)(2e-6)
    expect(catches(shut)).toBeGreaterThan(catches(stage))
  },
)

test('a floor does not clog, nor the one jet that is the nipple', () => {
  for (const s of [
    { type: 'settling', area: 0.01 },
    { type: 'impactor', jets: 1, jetDiameter: 0.0159 },
  ] as const)
    expect(clogged(s, 5)).toEqual(s)
})

test('air drawn from the inlet is as moist as the air there, whatever runs back into it', () => {
  const back: CarriageInput = {
    ...chain,
    streams: [
      { id: 'breather', from: 'crankcase', to: 'inlet', flow: 1e-4 },
      { id: 'passage', from: 'crankcase', to: 'cover', flow: 3e-4 },
      { id: 'fresh', from: 'inlet', to: 'cover', flow: 2e-4 },
      { id: 'can', from: 'cover', to: 'can', flow: 5e-4 },
      { id: 'suction', from: 'can', to: 'manifold', flow: 5e-4 },
    ],
  }
  const c = carry(back)
  // by moles of 18.0 and 29.0 g: 0.8 of a hundred in air
  expect(c.water.fresh! / 2e-4).toBeCloseTo((0.008 * 18.015) / (0.008 * 18.015 + 0.992 * 28.96), 4)
  expect(c.water.breather! / 1e-4).toBeCloseTo((0.055 * 18.015) / (0.055 * 18.015 + 0.945 * 28.96), 3)
})

test('the speed in a can is that of the volume at its pressure; above the limit it keeps so much less', () => {
  for (const pPa of [50e3, 101_325, 200e3]) {
    const pressure = Object.fromEntries(Object.keys(chain.pressure).map((id) => [id, pPa]))
    const c = carry({ ...chain, pressure, cans: [{ ...chain.cans[0]!, faceM2: 2e-4 }] })
    const speed = 6e-4 / airDensity(pPa, chain.gasK) / 2e-4
    expect(c.cans.can!.faceVelocity).toBeCloseTo(speed, 9)
    const carrier = { pPa, tK: chain.gasK, oilDensity: chain.oilDensity }
    expect(c.cans.can!.kept).toBeCloseTo(keptAgainstFlow(speed, SOUDERS_BROWN_OPEN, carrier), 9)
    expect(c.cans.can!.kept).toBeLessThan(1)
  }
})

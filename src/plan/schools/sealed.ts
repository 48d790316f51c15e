/** Circuits that let nothing out into the open. */
import type { Engine, Line, Part, Variant } from '../document/schema'
import { engineSide, isStrong, sizesOf, type EngineSide, type Sizes } from '../catalogue/engine-side'
import {
  can,
  check,
  direct,
  drain,
  filter,
  hose,
  pcv,
  port,
  relief,
  restrictor,
  regulator,
  space,
  tee,
} from '../catalogue/parts'

type SealedParts = Omit<Variant, 'id' | 'name' | 'school'>
type Parts = { readonly s: Sizes; readonly e: EngineSide; readonly parts: Part[]; readonly lines: Line[] }
const start = (engine: Engine): Parts => {
  const e = engineSide(engine)
  return { s: sizesOf(engine), e, parts: [...e.parts], lines: [...e.lines] }
}
const made = ({ parts, lines }: Parts): SealedParts => ({ parts, lines })
/** A part's own bowl, or what a bigger engine on track asks for. */
const canFor = (engine: Engine): string =>
  sizesOf(engine).can ?? (engine.displacementCc >= 3000 || engine.induction !== 'na' ? 'mesh' : 'baffled')

/** PCV valve in its seat and a hose to the manifold. */
function stockVacuumSide(c: Parts): void {
  c.parts.push(pcv('pcv', 'PCV valve', c.s.pcv))
  c.lines.push(
    direct('pcv-seat', 'PCV seat', `${c.e.pcvCover}.pcv`, 'pcv.in'),
    hose('suction', 'Suction line', {
      from: 'pcv.out',
      to: 'manifold.vacuum',
      boreMm: c.s.suctionMm,
      lengthMm: 600,
      bends: [
        [90, 40],
        [90, 40],
      ],
    }),
  )
}
function vacuumSideWithCan(c: Parts, model: string): void {
  c.parts.push(pcv('pcv', 'PCV valve', c.s.pcv), can('can', 'Catch can', model))
  c.lines.push(
    direct('pcv-seat', 'PCV seat', `${c.e.pcvCover}.pcv`, 'pcv.in'),
    hose('dirty', 'Dirty line', {
      from: 'pcv.out',
      to: 'can.in',
      boreMm: c.s.suctionMm,
      lengthMm: 450,
      bends: [[90, 40]],
      elbows: [undefined, 90],
    }),
    hose('suction', 'Suction line', {
      from: 'can.out',
      to: 'manifold.vacuum',
      boreMm: c.s.suctionMm,
      lengthMm: 550,
      bends: [
        [90, 40],
        [90, 40],
      ],
    }),
  )
}
function stockBreather(c: Parts): void {
  c.lines.push(
    hose('breather', 'Breather line', {
      from: `${c.e.breatherCover}.breather`,
      to: 'inlet.breather',
      boreMm: c.s.breatherMm,
      lengthMm: 700,
      bends: [
        [45, 60],
        [90, 50],
      ],
    }),
  )
}
function breatherWithCan(c: Parts, model: string, name = 'Breather can'): void {
  c.parts.push(can('breather-can', name, model === 'mesh' ? 'wide-mesh' : model))
  c.lines.push(
    hose('breather', 'Breather line', {
      from: `${c.e.breatherCover}.breather`,
      to: 'breather-can.in',
      boreMm: c.s.breatherMm,
      lengthMm: 400,
      bends: [[90, 60]],
    }),
    hose('clean', 'Clean breather line', {
      from: 'breather-can.out',
      to: 'inlet.breather',
      boreMm: c.s.breatherMm,
      lengthMm: 450,
      bends: [[90, 50]],
    }),
  )
}

/** The circuit as the maker laid it: a PCV valve to the manifold, a breather to the inlet tract. */
export function stock(engine: Engine): SealedParts {
  const c = start(engine)
  stockVacuumSide(c)
  stockBreather(c)
  return made(c)
}

/** The stock circuit of an engine with a diaphragm regulator instead of a PCV valve. */
export function stockRegulator(engine: Engine): SealedParts {
  const c = start(engine)
  // all of the gas takes this way in boost
  const wideMm = engine.induction === 'na' ? c.s.breatherMm : c.s.ventMm
  c.parts.push(regulator('regulator', 'Regulator', c.s.regulatorMm ?? Math.round(c.s.suctionMm * 0.8)))
  c.lines.push(
    hose('cover-line', 'Cover line', {
      from: `${c.e.pcvCover}.breather`,
      to: 'regulator.in',
      boreMm: wideMm,
      lengthMm: 250,
      bends: [[90, 50]],
    }),
    hose('suction', 'Suction line', {
      from: 'regulator.out',
      to: 'manifold.vacuum',
      boreMm: c.s.suctionMm,
      lengthMm: 350,
      bends: [[90, 40]],
    }),
  )
  if (engine.induction !== 'na') {
    c.parts.push(
      check('inlet-check', 'Inlet check', c.s.bigCheck),
      check('suction-check', 'Manifold check', c.s.check),
      tee('tee', 'Regulator tee'),
    )
    c.lines.splice(-1, 1)
    c.lines.push(
      direct('tee-in', 'Regulator outlet', 'regulator.out', 'tee.a'),
      hose('suction', 'Suction line', {
        from: 'tee.b',
        to: 'suction-check.in',
        boreMm: c.s.suctionMm,
        lengthMm: 300,
        bends: [[90, 40]],
      }),
      direct('suction-end', 'Manifold port', 'suction-check.out', 'manifold.vacuum'),
      hose('breather', 'Inlet line', {
        from: 'tee.c',
        to: 'inlet-check.in',
        boreMm: wideMm,
        lengthMm: 500,
        bends: [[90, 50]],
      }),
      direct('breather-end', 'Inlet port', 'inlet-check.out', 'inlet.breather'),
    )
  }
  return made(c)
}

/** A can between PCV valve and manifold; the breather stays as it was. */
export function vacuumSideCan(engine: Engine): SealedParts {
  const c = start(engine)
  vacuumSideWithCan(c, 'baffled')
  stockBreather(c)
  return made(c)
}
/** A can between breather and inlet tract; the PCV side stays as it was. */
export function breatherSideCan(engine: Engine): SealedParts {
  const c = start(engine)
  stockVacuumSide(c)
  breatherWithCan(c, canFor(engine))
  return made(c)
}
/** A can on each side, two of one make. */
export function bothSides(engine: Engine): SealedParts {
  const c = start(engine)
  vacuumSideWithCan(c, 'baffled')
  breatherWithCan(c, canFor(engine))
  return made(c)
}

/** A can on the vacuum side, and a separator in the oil-filler cap that drains down the neck it breathes through. */
export function bothSidesFiller(engine: Engine): SealedParts {
  const c = start(engine)
  vacuumSideWithCan(c, 'baffled')
  c.parts.push({
    ...can('cap', 'Filler-cap separator', c.s.can ?? 'baffled'),
    bowlMl: 20,
    drain: 'shared',
  } as Part)
  c.lines.push(
    direct('neck', 'Filler neck', `${c.e.breatherCover}.filler`, 'cap.in'),
    hose('breather', 'Breather line', {
      from: 'cap.out',
      to: 'inlet.breather',
      boreMm: c.s.breatherMm,
      lengthMm: 650,
      bends: [
        [90, 50],
        [45, 60],
      ],
    }),
  )
  return made(c)
}

/** Whichever of manifold and inlet tract sucks takes the gas; checks keep the other out. Fresh air comes by a line of its own. */
export function twoOutlets(engine: Engine): SealedParts {
  const c = start(engine)
  const boosted = engine.induction !== 'na'
  c.parts.push(
    can('can', 'Catch can', canFor(engine)),
    tee('tee', 'Outlet tee'),
    check('check-manifold', 'Check A', c.s.check),
    restrictor('restrictor', 'Restrictor', c.s.restrictorMm),
    check('check-inlet', 'Check B', c.s.bigCheck),
    check('fresh-check', 'Fresh-air check', c.s.check),
  )
  const fresh = c.e.covers.length > 1 ? `${c.e.breatherCover}.breather` : `${c.e.breatherCover}.pcv`
  const dirty = c.e.covers.length > 1 ? `${c.e.pcvCover}.breather` : `${c.e.breatherCover}.breather`
  c.lines.push(
    hose('dirty', 'Dirty line', {
      from: dirty,
      to: 'can.in',
      boreMm: c.s.breatherMm,
      lengthMm: boosted ? 600 : 500,
      bends: [[90, 60]],
    }),
    direct('can-outlet', 'Can outlet', 'can.out', 'tee.a'),
    // what boost makes runs straight on: round the corner goes the trickle of the other side
    hose('manifold-line', 'Manifold line', {
      from: 'tee.c',
      to: 'check-manifold.in',
      boreMm: c.s.suctionMm,
      lengthMm: 400,
      bends: [[90, 40]],
    }),
    direct('restricted', 'Check outlet', 'check-manifold.out', 'restrictor.in'),
    hose('suction', 'Suction line', {
      from: 'restrictor.out',
      to: 'manifold.vacuum',
      boreMm: c.s.suctionMm,
      lengthMm: 120,
    }),
    hose('inlet-line', 'Inlet line', {
      from: 'tee.b',
      to: 'check-inlet.in',
      boreMm: c.s.breatherMm,
      lengthMm: 500,
      bends: [[90, 50]],
    }),
    direct('inlet-end', 'Inlet port', 'check-inlet.out', 'inlet.breather'),
    direct('fresh-port', 'Fresh-air port', 'inlet.second', 'fresh-check.in'),
    hose('fresh', 'Fresh-air line', {
      from: 'fresh-check.out',
      to: fresh,
      boreMm: c.s.suctionMm,
      lengthMm: 600,
      bends: [[90, 50]],
    }),
  )
  return made(c)
}

/** A cyclone's inlet grows with the engine; what a strong one makes is too much for any that stands over a vent port. */
const WIDE_CYCLONE_CC = 2800
const cycloneFor = (engine: Engine): string =>
  sizesOf(engine).can ?? (engine.displacementCc >= WIDE_CYCLONE_CC ? 'wide-cyclone' : 'cyclone')

/** A separator right above the vent port: gas up, oil down, through the one port. */
export function separatorSharedDrain(engine: Engine): SealedParts {
  const c = start(engine)
  stockVacuumSide(c)
  c.parts.push({ ...can('separator', 'Separator', cycloneFor(engine)), drain: 'shared' } as Part)
  c.lines.push(
    hose('breather', 'Shared vent and drain', {
      from: `${c.e.breatherCover}.breather`,
      to: 'separator.in',
      boreMm: Math.max(19, c.s.breatherMm),
      lengthMm: 180,
    }),
    hose('clean', 'Clean line', {
      from: 'separator.out',
      to: 'inlet.breather',
      boreMm: c.s.breatherMm,
      lengthMm: 500,
      bends: [[90, 50]],
    }),
  )
  return made(c)
}

/** A separator whose oil runs back to the sump by a hose of its own. */
export function separatorOwnReturn(engine: Engine): SealedParts {
  const c = start(engine)
  stockVacuumSide(c)
  c.parts.push({
    // one whose bowl hangs on the side that gas comes in by: behind a pad the suction of its own drop would hold the oil up
    ...can('separator', 'Separator', c.s.can ?? (engine.induction === 'na' ? 'baffled' : 'wide-cyclone')),
    drain: 'own',
    ports: [port('in', 'In'), port('out', 'Out'), port('drain', 'Drain')],
  } as Part)
  c.lines.push(
    hose('breather', 'Breather line', {
      from: `${c.e.breatherCover}.breather`,
      to: 'separator.in',
      boreMm: c.s.breatherMm,
      lengthMm: 400,
      bends: [[90, 60]],
    }),
    hose('clean', 'Clean line', {
      from: 'separator.out',
      to: 'inlet.breather',
      boreMm: c.s.breatherMm,
      lengthMm: 500,
      bends: [[90, 50]],
    }),
    drain('return', engine.induction === 'turbo' ? 'Return, to the turbo drain' : 'Return, to the block', {
      from: 'separator.drain',
      to: 'crankcase.return',
      boreMm: 9.5,
      lengthMm: 450,
    }),
  )
  return made(c)
}

/** The stock diaphragm unit gone, its holes plugged; a can teed into a vacuum line, checked and restricted since nothing regulates any more. */
export function regulatorDelete(engine: Engine): SealedParts {
  const c = start(engine)
  c.parts.push(
    can('can', 'Catch can', canFor(engine)),
    check('check-manifold', 'Check valve', c.s.check),
    restrictor('restrictor', 'Restrictor', c.s.restrictorMm),
    tee('sensor-tee', 'Tee in the sensor’s line'),
  )
  c.lines.push(
    hose('dirty', 'Dirty line', {
      from: `${c.e.pcvCover}.breather`,
      to: 'can.in',
      boreMm: c.s.breatherMm,
      lengthMm: 400,
      bends: [[90, 60]],
    }),
    hose('clean', 'Clean line', {
      from: 'can.out',
      to: 'check-manifold.in',
      boreMm: c.s.suctionMm,
      lengthMm: 350,
      bends: [[90, 40]],
    }),
    direct('checked', 'Check outlet', 'check-manifold.out', 'restrictor.in'),
    direct('teed', 'Restrictor outlet', 'restrictor.out', 'sensor-tee.a'),
    hose('suction', 'Vacuum line', {
      from: 'sensor-tee.b',
      to: 'manifold.vacuum',
      boreMm: c.s.suctionMm,
      lengthMm: 200,
    }),
  )
  // with nothing but the manifold to go to, boost would close the only way out
  if (engine.induction !== 'na' || c.e.covers.length > 0)
    c.lines.push(
      hose('breather', 'Breather line', {
        // the nipple of one cover stands against what a strong engine makes; its filler neck does not
        from: `${c.e.breatherCover}.${c.e.covers.length > 1 ? 'breather' : isStrong(engine) ? 'filler' : 'pcv'}`,
        // nothing but a small hole sucks any more: what full load makes leaves by an open port
        to: 'inlet.second',
        boreMm: c.s.breatherMm,
        lengthMm: 700,
        bends: [
          [45, 60],
          [90, 50],
        ],
      }),
    )
  return made(c)
}

/** Any sealed circuit with a one-way cap on the filler: it opens when ice or a full can shuts the way out. */
export function reliefCapAdded(engine: Engine): SealedParts {
  const c = start(engine)
  vacuumSideWithCan(c, 'baffled')
  stockBreather(c)
  c.parts.push(
    relief('relief', 'Relief cap'),
    filter('relief-filter', 'Cap filter'),
    space('atmosphere', 'air', 'Open air', port('cap', 'Over the cap')),
  )
  c.lines.push(
    direct('cap-seat', 'Filler neck', `${c.e.pcvCover}.filler`, 'relief.in'),
    direct('cap-out', 'Cap outlet', 'relief.out', 'relief-filter.in'),
    direct('cap-air', 'Cap filter mouth', 'relief-filter.out', 'air.cap'),
  )
  return made(c)
}

/** The stock circuit over a multi-pass baffle in the cover: less thrown at the pick-up before any can. */
export function baffleUpgrade(engine: Engine): SealedParts {
  return { ...vacuumSideCan(engine), pickUp: 'multipass' }
}

/** Circuits that breathe into the open, through a filter; vacuum ports are plugged. */
import type { Engine, Line, Part, Variant } from '../document/schema'
import { engineSide, isStrong, sizesOf, type Sizes } from '../catalogue/engine-side'
import { can, check, direct, drain, filter, hose, passage, port, pump, space, tee } from '../catalogue/parts'

type VentedParts = Omit<Variant, 'id' | 'name' | 'school'>

/** What the race rulebooks ask for, by way of example; the bowl of a vented can starts there. */
const tankMl = (engine: Engine) => (engine.displacementCc <= 2000 ? 2000 : 3000)

function open(parts: Part[], lines: Line[], from: string, { ventMm: boreMm, filterKpa }: Sizes): void {
  parts.push(
    filter('vent', 'Vent filter', filterKpa),
    space('atmosphere', 'air', 'Open air', port('vent', 'Filter mouth')),
  )
  lines.push(
    hose('vent-line', 'Vent line', { from, to: 'vent.in', boreMm, lengthMm: 250 }),
    direct('vent-end', 'Filter mouth', 'vent.out', 'air.vent'),
  )
}

/** Covers to a can that a filter opens to the outside; PCV valve and breather gone. */
export function ventedCan(engine: Engine): VentedParts {
  const [e, s] = [engineSide(engine), sizesOf(engine)]
  const parts = [...e.parts]
  const lines = [...e.lines]
  const small = engine.cylinders <= 2
  parts.push({
    ...can('can', 'Vented can', ventedModel(engine)),
    ...(small ? {} : { bowlMl: tankMl(engine) }),
  } as Part)
  if (e.covers.length > 1) {
    parts.push(tee('tee', 'Cover tee'))
    e.covers.forEach((cover, i) =>
      lines.push(
        hose(`cover-line${i + 1}`, i === 0 ? 'Left cover line' : 'Right cover line', {
          from: `${cover}.breather`,
          to: `tee.${i === 0 ? 'a' : 'b'}`,
          boreMm: s.ventMm,
          lengthMm: i === 0 ? 600 : 900,
          bends: [[90, 70]],
        }),
      ),
    )
    lines.push(hose('can-line', 'Can line', { from: 'tee.c', to: 'can.in', boreMm: s.ventMm, lengthMm: 200 }))
  } else if (engine.induction !== 'na') {
    // boost leaves by two ways: one nipple alone would stand against it
    parts.push(tee('tee', 'Cover tee'))
    lines.push(
      hose('breather', 'Breather line', {
        from: `${e.breatherCover}.breather`,
        to: 'tee.a',
        boreMm: s.ventMm,
        lengthMm: 400,
        bends: [[90, 60]],
      }),
      hose('filler-line', 'Filler line', {
        from: `${e.breatherCover}.filler`,
        to: 'tee.b',
        boreMm: s.ventMm,
        lengthMm: 400,
        bends: [[90, 60]],
      }),
      hose('can-line', 'Can line', { from: 'tee.c', to: 'can.in', boreMm: s.ventMm, lengthMm: 200 }),
    )
  } else
    lines.push(
      hose('breather', 'Breather line', {
        from: `${e.breatherCover}.breather`,
        to: 'can.in',
        boreMm: s.ventMm,
        lengthMm: 500,
        bends: [[90, 60]],
      }),
    )
  open(parts, lines, 'can.out', s)
  return { parts, lines }
}

/** Small engines: a one-way valve at the cover, the can above it, and what it catches back down the filler. */
/** A can that costs little: what stands behind it is only the crankcase. */
function ventedModel(engine: Engine): string {
  if (isStrong(engine)) return 'race-tank'
  return engine.displacementCc > NIPPLE_ENOUGH_CC ? 'big' : 'baffled'
}

/** Up to here one nipple of a cover passes all the blow-by. */
const NIPPLE_ENOUGH_CC = 1200

/** The vented can with a drain back to the sump. */
export function ventedReturn(engine: Engine): VentedParts {
  const [e, s] = [engineSide(engine), sizesOf(engine)]
  const parts = [...e.parts]
  const lines = [...e.lines]
  parts.push(check('valve', 'Breather valve', s.bigCheck), {
    ...can('can', 'Vented can', ventedModel(engine)),
    drain: 'own',
    ports: [port('in', 'In'), port('out', 'Out'), port('drain', 'Drain')],
  } as Part)
  // a larger engine needs the wide neck for its gas, and drains by the nipple
  const [up, down] = engine.displacementCc > NIPPLE_ENOUGH_CC ? ['filler', 'breather'] : ['breather', 'filler']
  lines.push(
    direct('valve-seat', up === 'filler' ? 'Filler neck' : 'Breather port', `${e.breatherCover}.${up}`, 'valve.in'),
    hose('breather', 'Breather line', {
      from: 'valve.out',
      to: 'can.in',
      boreMm: s.ventMm,
      lengthMm: 300,
      bends: [[90, 50]],
    }),
    drain('return', `Return, to the ${down}`, {
      from: 'can.drain',
      to: `${e.breatherCover}.${down}`,
      boreMm: 8,
      lengthMm: 300,
    }),
  )
  open(parts, lines, 'can.out', s)
  return { parts, lines }
}

/** Dry sump: the scavenge stage carries gas to the tank with the oil, a passage lets the two even out; the tank is vented high and rearward. */
export function tankVent(engine: Engine): VentedParts {
  const [e, s] = [engineSide(engine), sizesOf(engine)]
  const parts: Part[] = [
    ...e.parts,
    pump('scavenge', 'Scavenge stage', {
      ccPerTurn: Math.max(8, Math.round(engine.displacementCc / 70)),
      ratio: 0.5,
      clearancePct: 10,
    }),
    passage('balance', 'Balance passage', isStrong(engine) ? 20 : 14, 1),
    space('tank', 'tank', 'Oil tank', port('return', 'Return'), port('balance', 'Balance'), port('vent', 'Vent')),
    can('can', 'Tank can', ventedModel(engine)),
  ]
  const lines: Line[] = [
    ...e.lines,
    hose('scavenge-line', 'Scavenge line', {
      from: 'crankcase.return',
      to: 'scavenge.in',
      boreMm: Math.max(15.9, s.ventMm),
      lengthMm: 300,
      bends: [[90, 60]],
    }),
    hose('tank-line', 'Tank return', {
      from: 'scavenge.out',
      to: 'tank.return',
      boreMm: Math.max(15.9, s.ventMm),
      lengthMm: 700,
      bends: [
        [90, 60],
        [90, 60],
      ],
    }),
    direct('balance-in', 'Balance, crankcase end', 'crankcase.balance', 'balance.in'),
    direct('balance-out', 'Balance, tank end', 'balance.out', 'tank.balance'),
    hose('tank-vent', 'Tank vent', {
      from: 'tank.vent',
      to: 'can.in',
      boreMm: s.ventMm,
      lengthMm: 500,
      bends: [[90, 60]],
    }),
  ]
  open(parts, lines, 'can.out', s)
  return { parts, lines }
}

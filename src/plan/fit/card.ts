/**
 * The job card of a plan: tools, cautions, and the steps in the order in which a careful fitter works. It tells of
 * this plan's parts alone.
 */
import { FIRST_LOOK } from '../service/forecast'
import type { CanForecast } from '../model/results'
import type { Build, LineEnd, Variant } from '../document/schema'
import { dashOf, formOf } from '../catalogue/forms'
import { capital, lowered, teller, type Teller } from '../document/words'
import { spotIn } from '../catalogue/bay-geometry'
import { bracketFor } from './bracket'
import { drillings, endText, letterOf, spanners } from './lists'
import { closuresOf } from './closures'
import { againstStock } from './stock'
import { madeOf, stripsOf, type Strip, type StripEnd } from './strips'

export const PHASES = ['Before you begin', 'Take off', 'Mock up', 'Make', 'Fit', 'Put back', 'Prove it'] as const
export type Phase = (typeof PHASES)[number]
export type CardStep = {
  /** the same for the same builder while the plan is edited */
  readonly key: string
  readonly phase: Phase
  readonly says: string
  readonly caution?: string
  /** tightness: a figure where it is defined, else how it feels */
  readonly tight?: string
  readonly part?: string
  readonly line?: string
  /** a step of proof that a figure is entered for */
  readonly proof?: 'leak' | 'blow' | 'reading' | 'rub'
}
export type Card = {
  readonly tools: readonly string[]
  readonly cautions: readonly string[]
  readonly steps: readonly CardStep[]
}

const KEEP = 'Mark both ends and keep it, the car may have to go back to stock.'
const CLAMPED = 'Clamp behind the ridge, its screw where a driver reaches. Tug it.'
const CLEAR_OF = 'off everything that moves or is hot'
const HARNESS = 'see that its harness reaches without pull; a lengthened one is soldered, sleeved and wrapped.'
const SOAP = 'soapy water on every joint, listen at seals.'
const WELDING =
  'Weld a bung only on a bare, degreased cover off the engine; leave it to a licensed welder where the law asks that. ' +
  'Pressure-test it before it goes back.'
const ON_ROADS =
  'On public roads the crankcase system is an emission control: keep it sealed; ask the local authority. ' +
  'In racing the rulebook decides.'

const list = (names: readonly string[]) =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`

/** "cam cover, breather", where the maker's moulded hose end stays on that port. */
function stubAt(build: Build, variant: Variant, { part, port }: LineEnd): string | undefined {
  const form = build.fit?.ends.find((e) => e.id === `${part}.${port}`)?.form
  const at = variant.parts.find((p) => p.id === part)
  const name = at?.ports.find((p) => p.id === port)?.name
  return at && name && form && formOf(form)?.kind === 'stub' ? `${lowered(at.name)}, ${lowered(name)}` : undefined
}

function takeOff(build: Build, variant: Variant): CardStep[] {
  const off = againstStock(build, variant)
  const lines = off.linesOff.map((l): CardStep => {
    const stays = [l.from, l.to].flatMap((e) => stubAt(build, variant, e) ?? [])
    return {
      key: `off-${l.id}`,
      phase: 'Take off',
      says:
        stays.length > 0
          ? `Cut the maker’s ${lowered(l.name)} square a hand’s width from the ${list(stays)}, where it runs straight: its moulded end stays on. ${KEEP}`
          : `Take the maker’s ${lowered(l.name)} off: clamps first, then twist, never pull by the hose. ${KEEP}`,
    }
  })
  const parts = off.takenOff.map((p): CardStep => ({
    key: `off-part-${p.id}`,
    phase: 'Take off',
    says: `Take the ${lowered(p.name)} out and keep it, plugged.`,
  }))
  return [...lines, ...parts]
}

function place(build: Build, variant: Variant, say: Teller): CardStep[] {
  const { added } = againstStock(build, variant)
  return added.flatMap((p): CardStep[] => {
    if (p.kind !== 'can') return []
    const spot = spotIn(build.bay, p.id)
    const where = spot
      ? `, ${say.mm(Math.abs(spot.forwardMm))} ${spot.forwardMm < 0 ? 'behind' : 'ahead of'}, ${say.mm(Math.abs(spot.leftMm))} ${spot.leftMm < 0 ? 'right' : 'left'} of and ${say.mm(Math.abs(spot.upMm))} ${spot.upMm < 0 ? 'below' : 'above'} the ${build.bay!.datum.toLowerCase()}`
      : ''
    const bracket = bracketFor(build, variant, p.id)
    return [
      {
        key: `place-${p.id}`,
        phase: 'Mock up',
        part: p.id,
        says: `Hold the ${lowered(p.name)} in its place${where}: finger tight, a lump of clay on its lid, bonnet shut on it gently.`,
      },
      ...(bracket.ok
        ? [
            {
              key: `bracket-${p.id}`,
              phase: 'Make' as const,
              part: p.id,
              says: `Make the bracket of the ${lowered(p.name)}: ${say.mm(bracket.value.flatM * 1000)} by ${say.mm(bracket.value.bracket.widthM * 1000)} of ${say.mm(bracket.value.bracket.thicknessM * 1000)} ${bracket.value.alloy.name}, bent over ${say.mm(bracket.value.bracket.insideRadiusM * 1000)}, holes from the drawing, edges broken.`,
              caution: 'Goggles; clamp the sheet, never hold it by hand under the drill.',
            },
          ]
        : []),
      {
        key: `hang-${p.id}`,
        phase: 'Fit',
        part: p.id,
        says: `Hang the ${lowered(p.name)} on ${bracket.ok ? list(bracket.value.on.map(lowered)) : 'its bracket'}, inlet and outlet as on the drawing.`,
        tight: 'bolts by their thread and class; nothing on a stud’s own nut but a flat bracket',
      },
    ]
  })
}

const atEnd = (e: StripEnd) => `${lowered(e.part.name)}, ${lowered(e.port)}`

const flareTorque = (dash: number, say: Teller): string => {
  const { leastNm: low, mostNm: high } = dashOf(dash)!
  return `${say.torque(low)} to ${say.torque(high)}`
}

function fitEnd(strip: Strip, end: StripEnd, which: 'from' | 'to', say: Teller): CardStep[] {
  if (!end.chain.ok) return []
  const { pieces, hoseEnd } = end.chain.value
  const own = { phase: 'Fit', line: strip.line.id } as const
  const screwed = pieces.map((p): CardStep => ({
    ...own,
    key: `${strip.line.id}-${which}-${p.key}`,
    says: `${capital(p.name)} into the ${atEnd(end)}. ${capital(p.why)}.`,
    tight:
      p.sealing === 'O-ring'
        ? 'snug on the O-ring, then the lock nut; no torque figure helps a bad ring'
        : p.sealing === 'tape'
          ? 'two to three turns past hand tight, lined up on the way in, never backed off; in plastic hand tight and half a turn'
          : p.sealing === 'clamp'
            ? 'until the clamp just bulges the hose'
            : undefined,
  }))
  const last: CardStep | undefined =
    hoseEnd.kind === 'clamp'
      ? {
          ...own,
          key: `${strip.line.id}-${which}-clamp`,
          says: `Push the ${lowered(strip.line.name)} over the barb of the ${atEnd(end)} to its shoulder, oil on the barb. ${CLAMPED}`,
          tight: 'until the clamp just bulges the hose',
        }
      : hoseEnd.kind === 'hose end'
        ? {
            ...own,
            key: `${strip.line.id}-${which}-end`,
            says: `Screw the ${endText(end)} of the ${lowered(strip.line.name)} on at the ${atEnd(end)}: by hand to the cone, hose not twisted.`,
            tight: `hand tight to the cone, then ${flareTorque(hoseEnd.dash, say)} where both are aluminium, a drop of oil on the thread; without a wrench for that, a sixth of a turn; no tape, no sealant on the cone`,
          }
        : {
            ...own,
            key: `${strip.line.id}-${which}-open`,
            says: `Let the ${lowered(strip.line.name)} end at the ${atEnd(end)}.`,
          }
  return [...screwed, last]
}

function makeLine(strip: Strip, letter: string, say: Teller): CardStep[] {
  const own = { line: strip.line.id } as const
  const braided = strip.hose?.ok && strip.hose.value.kind === 'braided'
  const clocked = strip.lay?.clockingDeg
  const vacuum = strip.ends.some((e) => e.part.kind === 'manifold')
  return [
    {
      ...own,
      key: `${strip.line.id}-mock`,
      phase: 'Mock up',
      says: `Lay the ${lowered(strip.line.name)} out with a piece of old hose or wire: ${strip.lay ? 'as drawn in the bay' : `about ${say.length(strip.pathM)}, it was not measured in the bay`}. ${strip.line.kind === 'drain' ? 'It falls all the way; no low loop.' : 'Lift, turn and rock what moves.'} `.trim(),
    },
    {
      ...own,
      key: `${strip.line.id}-cut`,
      phase: 'Make',
      says: `Cut hose ${letter} for the ${lowered(strip.line.name)}: ${say.length(strip.cutM)}${strip.slackM > 0 ? ', slack for the rock of the engine in it' : ''}. ${braided ? 'Wrap the cut in tape and cut through it; blow it clean.' : 'Square, with a blade, not scissors.'}${vacuum ? ' It stands under vacuum: reinforced hose, or it folds.' : ''}`,
      ...(braided ? { caution: 'Braid pricks: gloves.' } : {}),
    },
    ...(braided
      ? [
          {
            ...own,
            key: `${strip.line.id}-assemble`,
            phase: 'Make' as const,
            says: `Assemble both ends of hose ${letter}: socket on, hose to its shoulder, nipple oiled and screwed in; a gap of a millimetre stays between the hexagons${clocked === undefined ? '' : `; the ends clocked ${Math.round(clocked)}° to each other`}. Mark the hose at the socket: it must not push out.`,
            tight: 'until the gap is a millimetre; not metal on metal',
          },
        ]
      : []),
  ]
}

/** When what is new is looked into first: as the log has it, while nothing but the fitting was noted. */
function firstLook(build: Build, say: Teller, can: CanForecast | undefined): string {
  const begun = can?.emptyAt ?? can?.odometerNow ?? 0
  if (can && can.history.length === 0 && can.checkReason !== 'first look' && Number.isFinite(can.checkBy))
    return `after ${say.distance(can.checkBy - begun)}`
  return build.duty.hours.track > 0 ? 'after the first session' : `after ${say.distance(FIRST_LOOK)}`
}

function prove(build: Build, variant: Variant, say: Teller, forecasts: readonly CanForecast[]): CardStep[] {
  const checks = variant.parts.filter((p) => p.kind === 'check' || p.kind === 'pcv')
  const cans = variant.parts.filter((p) => p.kind === 'can')
  return [
    ...checks.map((p): CardStep => ({
      key: `blow-${p.id}`,
      phase: 'Prove it',
      part: p.id,
      proof: 'blow',
      says: `Blow through the ${lowered(p.name)} both ways before it goes in: it must pass one way and hold the other.`,
    })),
    {
      key: 'leak',
      phase: 'Prove it',
      proof: 'leak',
      says: `Engine off, blow ${say.pressure(2000)} and no more into the dipstick tube with the ends stopped: ${SOAP}`,
      caution: 'More than that pushes seals out.',
    },
    {
      key: 'reading',
      phase: 'Prove it',
      proof: 'reading',
      says: 'Warm, idling, a manometer on the dipstick tube: read the crankcase in each state that you can, and enter it here.',
      caution: 'Hose and gauge clear of belt and exhaust; a second person drives.',
    },
    {
      key: 'rub',
      phase: 'Prove it',
      proof: 'rub',
      says: 'After the first drive: look for shine and rub marks, the clay under the bonnet, oil at every joint; trims at idle as before.',
    },
    ...cans.map((p): CardStep => ({
      key: `first-${p.id}`,
      phase: 'Prove it',
      part: p.id,
      says: `First look into the ${lowered(p.name)} ${firstLook(
        build,
        say,
        forecasts.find((f) => f.part === p.id),
      )}: enter what is in it at the Log.`,
    })),
  ]
}

/** Phase by phase; within one as they were told: what is placed, then what is drilled, then line by line. */
const inOrder = (steps: readonly CardStep[]): readonly CardStep[] =>
  steps.toSorted((a, b) => PHASES.indexOf(a.phase) - PHASES.indexOf(b.phase))

/**
 * The card for a plan, with the forecasts of its cans where they are worked out. A line that the maker's hose stays on has no step; nor has a part that is not in the plan.
 */
export function jobCard(build: Build, variant: Variant, forecasts: readonly CanForecast[] = []): Card {
  const say = teller(build.units)
  const strips = stripsOf(build, variant)
  const made = madeOf(strips)
  const drills = drillings(strips, say)
  const braided = made.some((s) => s.hose?.ok && s.hose.value.kind === 'braided')
  const taped = made.some((s) =>
    s.ends.some((e) => e.chain.ok && e.chain.value.pieces.some((p) => p.sealing === 'tape')),
  )
  const clamped = made.some((s) => s.ends.some((e) => e.chain.ok && e.chain.value.hoseEnd.kind === 'clamp'))
  const welded = made.some((s) => s.ends.some((e) => e.part.kind === 'cover' && formOf(e.form)?.kind === 'flare'))
  const hexes = spanners(strips)
  const sensors = variant.parts.filter((p) => p.kind === 'sensor')
  return {
    tools: [
      ...(hexes.length > 0 ? [`spanners for ${hexes.map((h) => say.mm(h)).join(', ')} hexagons`] : []),
      ...(clamped ? ['screwdriver or nut driver for clamps', 'sharp blade'] : []),
      ...(braided ? ['cutting tape and a fine-tooth saw or cut-off wheel', 'vice with soft jaws'] : []),
      ...(taped ? ['PTFE tape'] : []),
      ...drills.map((d) => `${say.length(d.drillM)} drill for the ${d.what}`),
      'clean engine oil for barbs and O-rings',
      'marker and labels',
      'manometer or a gauge that shows half a kilopascal',
      'modelling clay',
    ].filter((t, i, all) => all.indexOf(t) === i),
    cautions: [
      'Cold engine: an hour off at least. Battery off where a hand comes near the starter or alternator.',
      ...(strips.some((s) => s.line.kind === 'drain' && !s.kept)
        ? ['A car that is lifted stands on stands on level ground, never on the jack.']
        : []),
      ...(build.bay?.keepOuts.some((k) => k.kind === 'fuel')
        ? ['Fuel lines stand in the way: no spark, no grinding near them.']
        : []),
      ...(drills.length > 0
        ? ['Drilling: goggles; the part off the engine, or chips caught with grease and a magnet; nothing falls in.']
        : []),
      ...(welded ? [WELDING] : []),
      'Used oil and what a can holds go where used oil is taken.',
      ON_ROADS,
    ],
    steps: inOrder([
      {
        key: 'cold',
        phase: 'Before you begin',
        says: 'Engine cold, key out, wings covered. Photograph the bay from three sides.',
      },
      {
        key: 'lay-out',
        phase: 'Before you begin',
        says: 'Lay out everything on the list to buy, labels and caps with it. Nothing is missing before the car comes apart.',
      },
      ...takeOff(build, variant),
      ...closuresOf(build, variant).map((c): CardStep => ({
        key: `cap-${c.part.id}-${c.port}`,
        phase: 'Take off',
        part: c.part.id,
        says: c.says,
      })),
      ...place(build, variant, say),
      ...drills.map((d, i): CardStep => ({
        key: `drill-${i}-${d.at}`.slice(0, 80),
        phase: 'Make',
        says: `Drill ${say.length(d.drillM)} at the ${lowered(d.at)}, for the ${d.what}: ${d.after}.`,
        caution: 'Goggles. Chips stay out of the engine.',
      })),
      ...made.flatMap((s, i) => makeLine(s, letterOf(i), say)),
      ...made.flatMap((s) => [...fitEnd(s, s.ends[0], 'from', say), ...fitEnd(s, s.ends[1], 'to', say), ...clips(s)]),
      ...sensors.map((p): CardStep => ({
        key: `harness-${p.id}`,
        phase: 'Fit',
        part: p.id,
        says: `The ${lowered(p.name)} keeps its plug: ${HARNESS}`,
      })),
      {
        key: 'tighten',
        phase: 'Put back',
        says: 'Go over every joint once more in the order of the gas: engine, valves, cans, manifold. Mark each that is done.',
      },
      {
        key: 'back',
        phase: 'Put back',
        says: 'Covers, clips and undertray back; tools counted; rag out of the way of the belt.',
      },
      ...prove(build, variant, say, forecasts),
    ]),
  }
}

function clips(s: Strip): CardStep[] {
  if (s.clips === 0) return []
  return [
    {
      key: `${s.line.id}-clips`,
      phase: 'Fit',
      line: s.line.id,
      says: `Hold the ${lowered(s.line.name)} with ${s.clips === 1 ? 'a P-clamp' : `${s.clips} P-clamps or line separators`}, a hand and a half apart, ${CLEAR_OF}.`,
      tight: 'snug: the rubber just bulges',
    },
  ]
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

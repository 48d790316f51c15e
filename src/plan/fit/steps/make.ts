/** On the bench: places tried, brackets, holes and bungs made, pieces screwed into what is new, hoses cut and their ends made. */
import { spotIn } from '../../catalogue/bay-geometry'
import type { Part } from '../../document/schema'
import { joinWords, letterOf, lowered } from '../../document/words'
import { coverBafflesOf } from '../cover-baffle'
import type { Piece } from '../../catalogue/pieces'
import type { Strip } from '../strips'
import { isNew, endName, type CardGround, type CardStep } from './step'

/** Where a can goes, measured from the datum of the bay. */
function placeText({ build, say }: CardGround, id: string): string {
  const spot = spotIn(build.bay, id)
  if (!spot) return ''
  const along = (mm: number, less: string, more: string) => `${say.mm(Math.abs(mm))} ${mm < 0 ? less : more}`
  return `, ${along(spot.forwardMm, 'behind', 'ahead of')}, ${along(spot.leftMm, 'right', 'left')} of and ${along(spot.upMm, 'below', 'above')} the ${build.bay!.datum.toLowerCase()}`
}

/** Cans held in their places and hoses laid out before anything is cut. */
export function mockUpSteps(ground: CardGround): CardStep[] {
  const { against, made, say } = ground
  const phase = 'Mock up'
  return [
    ...against.added.flatMap((p): CardStep[] =>
      p.kind === 'can'
        ? [
            {
              key: `place-${p.id}`,
              phase,
              part: p.id,
              says: `Hold the ${lowered(p.name)} in its place${placeText(ground, p.id)}: finger tight, a lump of clay on its lid, bonnet shut on it gently. Where it does not pass in whole, its bowl comes off first.`,
            },
          ]
        : [],
    ),
    ...made.map((s): CardStep => ({
      key: `${s.line.id}-mock`,
      phase,
      line: s.line.id,
      says: `Lay the ${lowered(s.line.name)} out with a piece of old hose or wire: ${s.lay ? 'as drawn in the bay' : `about ${say.length(s.pathM)}, it was not measured in the bay`}. ${s.line.kind === 'drain' ? 'It falls all the way; no low loop.' : 'Lift, turn and rock what moves.'}`,
    })),
  ]
}

/** A piece screwed, pushed or clamped on at a port, by what seals it. */
export function pieceStep(piece: Piece, at: string, step: Pick<CardStep, 'key' | 'phase' | 'line'>): CardStep {
  const verb =
    piece.sealing === 'O-ring' || piece.sealing === 'tape' || piece.sealing === 'cone'
      ? 'Screw the'
      : piece.sealing === 'clamp'
        ? 'Put the'
        : 'Push the'
  const into = piece.sealing === 'clamp' ? 'on at' : 'into'
  return {
    ...step,
    says: `${verb} ${piece.name} ${into} the ${at}: ${piece.why}.`,
    ...(piece.sealing === 'O-ring'
      ? { tight: 'snug on the O-ring, then the lock nut; no torque figure helps a bad ring' }
      : piece.sealing === 'tape'
        ? {
            tight:
              'two to three turns past hand tight, lined up on the way in, never backed off; in plastic hand tight and half a turn',
            drawing: 'tape' as const,
          }
        : piece.sealing === 'clamp'
          ? { tight: 'until the clamp just bulges the hose' }
          : {}),
  }
}

/** Brackets, holes, bungs. */
function metalSteps(ground: CardGround): CardStep[] {
  const { brackets, against, drills, bungs, say } = ground
  const phase = 'Make'
  return [
    ...against.added.flatMap((p): CardStep[] => {
      const bracket = brackets.get(p.id)
      if (!bracket) return []
      const { flatM, alloy, bracket: b, notes, strapM } = bracket
      return [
        {
          key: `bracket-${p.id}`,
          phase,
          part: p.id,
          says: `Make the bracket of the ${lowered(p.name)}: ${say.mm(flatM * 1000)} by ${say.mm(b.widthM * 1000)} of ${say.mm(b.thicknessM * 1000)} ${alloy.name}${b.legsM.length > 1 ? `, bent over ${say.mm(b.insideRadiusM * 1000)}` : ''}, holes from the drawing, edges broken.${strapM === undefined ? '' : ` A strap of ${say.mm(strapM * 1000)} goes round the can.`}${notes.map((n) => ` ${n}`).join('')}`,
          caution: 'Goggles; clamp the sheet, never hold it by hand under the drill.',
        },
      ]
    }),
    ...drills.map((d, i): CardStep => ({
      key: `drill-${i}-${d.at}`.slice(0, 80),
      phase,
      says: `Drill ${say.length(d.drillM)} at the ${lowered(d.at)}, for the ${d.what}: grease on the drill, paper below, slowly at the end; ${d.after}. A magnet goes over it for steel, a greased rag for aluminium.`,
      caution: 'Goggles. Chips stay out of the engine.',
    })),
    ...bungs.flatMap((b): CardStep[] => [
      {
        key: `bung-${b.part.id}-${b.port}`.slice(0, 80),
        phase,
        part: b.part.id,
        says: `Weld the bung into the ${lowered(b.part.name)}, ${lowered(b.port)}: a hole of ${say.mm(b.holeM * 1000)}, cover bare, degreased twice and warmed; filler 4043 on a cast cover, 5356 on sheet. Seats, gasket face and baffle are masked from spatter and grinding dust.`,
        caution:
          'Oily castings burn and fume: fresh air, a mask, eyes and skin covered from the arc. A licensed welder where the law asks for one.',
      },
      {
        key: `bung-test-${b.part.id}-${b.port}`.slice(0, 80),
        phase,
        part: b.part.id,
        says: `Test the weld of the ${lowered(b.part.name)}, ${lowered(b.port)}: outlets plugged, soapy water over it, ${say.pressure(20_000)} of air behind it. No bubble; then wash it out and dry it.`,
      },
    ]),
  ]
}

/** Plates under a cover's outlet, made and fitted while it is off. */
const plateSteps = ({ variant, say }: CardGround): CardStep[] =>
  coverBafflesOf(variant).flatMap(({ part, port, baffle }): CardStep[] => {
    const at = `${part.id}-${port.id}`
    return [
      {
        key: `plates-${at}`.slice(0, 80),
        phase: 'Make',
        part: part.id,
        says: `Make the baffle for the ${lowered(part.name)}, ${lowered(port.name)}: ${baffle.plates === 1 ? 'a plate' : `${baffle.plates} plates`} of ${baffle.holes} holes of ${say.mm(baffle.holeMm)}, the returns in the lower edge, as drawn. Every edge is broken and washed.`,
        caution: 'Goggles; thin sheet is clamped between wood under the drill.',
      },
      {
        key: `plates-in-${at}`.slice(0, 80),
        phase: 'Make',
        part: part.id,
        says: `Put the baffle under the ${lowered(port.name)} of the ${lowered(part.name)}: ${say.mm(baffle.gapMm)} behind each plate, returns lowest as the cover sits on the engine. Shake it, then look for chips with a light.`,
      },
    ]
  })

/** What is screwed into a body that is still on the bench. */
function benchSteps(ground: CardGround): CardStep[] {
  const ends = [...ground.made, ...ground.couplings].flatMap((s) =>
    s.ends.map((e, i) => ({ e, line: s.line.id, which: i === 0 ? 'from' : 'to' })),
  )
  const restrictors = ground.against.added.filter(
    (p): p is Extract<Part, { kind: 'restrictor' }> => p.kind === 'restrictor',
  )
  return [
    ...ends.flatMap(({ e, line, which }): CardStep[] =>
      e.chain?.ok && isNew(ground, e.part.id)
        ? e.chain.value.pieces.map((p) =>
            pieceStep(p, endName(e), { key: `${line}-${which}-${p.key}`.slice(0, 90), phase: 'Make', line }),
          )
        : [],
    ),
    ...restrictors.map((p): CardStep => ({
      key: `restrictor-${p.id}`,
      phase: 'Make',
      part: p.id,
      says: `Look through the ${lowered(p.name)}: its hole is ${ground.say.mm(p.boreMm)}, sharp and clean. A wire of that size passes, the next does not.`,
    })),
  ]
}

/** Words for a hose on which things are slid before its ends. */
function slideText(s: Strip, letter: string): string | undefined {
  const clamps = s.ends.filter((e) => e.chain.ok && e.chain.value.hoseEnd.kind === 'clamp').length
  const things = [
    ...(clamps > 0 ? [clamps === 1 ? 'a clamp' : 'two clamps'] : []),
    ...(s.clips > 0 ? [s.clips === 1 ? 'a P-clamp' : `${s.clips} P-clamps`] : []),
  ]
  if (things.length === 0) return undefined
  return `Slide ${joinWords(things)} onto hose ${letter} before its ends go on, with any sleeve: later they do not pass. Mark it ${letter}1 and ${letter}2 with tape.`
}

function hoseSteps(s: Strip, letter: string, ground: CardGround): CardStep[] {
  const { say } = ground
  const own = { line: s.line.id, phase: 'Make' } as const
  const braided = s.hose?.ok && s.hose.value.kind === 'braided'
  const clocked = s.lay?.clockingDeg
  const slide = slideText(s, letter)
  return [
    {
      ...own,
      key: `${s.line.id}-cut`,
      says: `Cut hose ${letter} for the ${lowered(s.line.name)}: ${say.length(s.cutM)}${s.slackM > 0 ? ', slack for the rock of the engine in it' : ''}. ${braided ? 'Wrap the cut in tape and cut through it; blow it clean.' : 'Square, with a blade, not scissors.'}`,
      ...(braided
        ? { caution: 'Braid pricks, and its dust itches: gloves, goggles, a mask when it is cut by a wheel.' }
        : {}),
    },
    ...(slide === undefined ? [] : [{ ...own, key: `${s.line.id}-slide`, says: slide }]),
    ...(braided
      ? [
          {
            ...own,
            key: `${s.line.id}-assemble`,
            says: `Assemble both ends of hose ${letter}: socket on, hose to its shoulder, nipple oiled and screwed in; a gap of a millimetre stays between the hexagons${clocked === undefined ? '' : `; the ends clocked ${Math.round(clocked)}° to each other`}. Mark the hose at the socket: it must not push out.`,
            tight: 'until the gap is a millimetre; not metal on metal',
            drawing: clocked === undefined ? ('socket' as const) : ('clocking' as const),
            ...(clocked === undefined ? {} : { clockingDeg: Math.round(clocked) }),
          },
        ]
      : []),
  ]
}

/** What is made on the bench: metal first, then pieces into what is new, then hoses. */
export const makeSteps = (ground: CardGround): CardStep[] => [
  ...metalSteps(ground),
  ...plateSteps(ground),
  ...benchSteps(ground),
  ...ground.made.flatMap((s, i) => hoseSteps(s, letterOf(i), ground)),
]

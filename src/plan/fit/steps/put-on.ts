/** In the car: covers back, cans hung, pieces and couplings put on, every hose at both ends, held; then everything gone over. */
import { pointOf, spotIn } from '../../catalogue/bay-geometry'
import { formOf } from '../../catalogue/forms'
import type { Part } from '../../document/schema'
import { joinWords, lowered } from '../../document/words'
import { hasTap } from '../../bay/place'
import type { Coupling } from '../couplings'
import { endText } from '../lists'
import type { Strip, StripEnd } from '../strips'
import { pieceStep } from './make'
import { flareTorque, isNew, endName, type CardGround, type CardStep } from './step'
import { coversOff } from './take-off'

const CLAMPED = 'Clamp behind the ridge, its screw where a driver reaches. Tug it.'
const CLEAR_OF = 'off everything that moves or is hot'

function hangSteps({ brackets, against }: CardGround): CardStep[] {
  return against.added.flatMap((p): CardStep[] => {
    if (p.kind !== 'can') return []
    const bracket = brackets.get(p.id)
    const on = bracket ? joinWords(bracket.on.map(lowered)) : 'its bracket'
    return [
      {
        key: `hang-${p.id}`,
        phase: 'Fit',
        part: p.id,
        says: `Hang the ${lowered(p.name)} on ${on}, inlet and outlet as on the drawing: one bolt snug, the other loose until its hoses lie.`,
        tight:
          'bolts by their thread and class, medium threadlocker where it shakes, none near plastic; nothing on a stud’s own nut but a flat bracket; in a clip nut on plastic just so that the washer turns no more',
      },
    ]
  })
}

/** The end of a hose on what it goes on. */
function endStep(strip: Strip, end: StripEnd, which: 'from' | 'to', { say }: CardGround): CardStep[] {
  if (!end.chain.ok) return []
  const { hoseEnd } = end.chain.value
  const own = { phase: 'Fit', line: strip.line.id } as const
  const name = lowered(strip.line.name)
  if (hoseEnd.kind === 'clamp')
    return [
      {
        ...own,
        key: `${strip.line.id}-${which}-clamp`,
        says: `Push the ${name} over the barb of the ${endName(end)} to its shoulder, oil or silicone paste on the barb. ${CLAMPED}`,
        tight: 'until the clamp just bulges the hose',
        drawing: 'clamp',
      },
    ]
  if (hoseEnd.kind === 'hose end')
    return [
      {
        ...own,
        key: `${strip.line.id}-${which}-end`,
        says: `Screw the ${endText(end)} of the ${name} on at the ${endName(end)}: by hand to the cone, hose not twisted.`,
        tight: `hand tight to the cone, then ${flareTorque(hoseEnd.dash, say)} where both are aluminium, a drop of oil on the thread; without a wrench for that, a sixth of a turn; no tape, no sealant on the cone`,
        drawing: 'flare',
      },
    ]
  return [
    {
      ...own,
      key: `${strip.line.id}-${which}-open`,
      says: `Let the ${name} end at the ${endName(end)}: cut at a slant, so that nothing sucks shut on it.`,
    },
  ]
}

const engineSide = (ground: CardGround, ends: readonly [StripEnd, StripEnd], line: string): CardStep[] =>
  ends.flatMap((e, i) =>
    e.chain.ok && !isNew(ground, e.part.id)
      ? e.chain.value.pieces.map((p) =>
          pieceStep(p, endName(e), {
            key: `${line}-${i === 0 ? 'from' : 'to'}-${p.key}`.slice(0, 90),
            phase: 'Fit',
            line,
          }),
        )
      : [],
  )

function clipStep(s: Strip): CardStep[] {
  if (s.clips === 0) return []
  return [
    {
      key: `${s.line.id}-clips`,
      phase: 'Fit',
      line: s.line.id,
      says: `Hold the ${lowered(s.line.name)} with ${s.clips === 1 ? 'its P-clamp' : `its ${s.clips} P-clamps or line separators`}, a hand and a half apart, ${CLEAR_OF}.`,
      tight: 'snug: the rubber just bulges',
      drawing: 'p-clamp',
    },
  ]
}

/** Two bodies mouth to mouth. */
function couplingSteps(c: Coupling, ground: CardGround): CardStep[] {
  const [a, b] = c.ends
  const own = { phase: 'Fit', key: `${c.line.id}-join` } as const
  const at = (e: Coupling['ends'][number]) => endName(e)
  switch (c.kind) {
    case 'neck': {
      const on = formOf(a.form)?.kind === 'neck' ? b : a
      return [
        {
          ...own,
          part: on.part.id,
          says: `Put the ${lowered(on.part.name)} on the filler neck: its seal oiled, its catches home. It stays the way to fill oil.`,
        },
      ]
    }
    case 'seat': {
      const [seat, on] = formOf(a.form)?.kind === 'seat' ? [a, b] : [b, a]
      return [
        {
          ...own,
          part: on.part.id,
          says: `Push the ${lowered(on.part.name)} into its seat in the ${lowered(seat.part.name)}: a new grommet, a drop of oil on it, the arrow away from the engine.`,
        },
      ]
    }
    case 'mouth': {
      const [on, to] = a.part.kind === 'filter' ? [a, b] : [b, a]
      return [
        {
          ...own,
          part: on.part.id,
          says: `Clamp the ${lowered(on.part.name)} on the ${at(to)}: highest of all, where no water and no belt reaches it.`,
          tight: 'until its rubber just bulges',
        },
      ]
    }
    case 'sleeve':
      return [
        ...(['from', 'to'] as const).flatMap((which, i): CardStep[] => {
          const e = c.ends[i]!
          if (!e.chain?.ok || isNew(ground, e.part.id)) return []
          return e.chain.value.pieces.map((p) =>
            pieceStep(p, at(e), { key: `${c.line.id}-${which}-${p.key}`.slice(0, 90), phase: 'Fit' }),
          )
        }),
        {
          ...own,
          part: a.part.id,
          says: `Join the ${at(a)} to the ${at(b)}: a hand’s width of ${ground.say.mm(c.hose!.mm)} hose, both clamps slid on first, mouth near to mouth.${arrow(a.part, b.part)}`,
          tight: 'until each clamp just bulges the hose',
          drawing: 'clamp',
        },
      ]
  }
}
const arrow = (...parts: readonly Part[]): string =>
  parts.some((p) => p.kind === 'check' || p.kind === 'pcv')
    ? ' The arrow of the valve points the way the gas goes.'
    : ''

/** A vent filter that a hose leads to is held, and stands highest. */
const filterSteps = ({ against, couplings }: CardGround): CardStep[] =>
  against.added.flatMap((p): CardStep[] =>
    p.kind === 'filter' && !couplings.some((c) => c.ends.some((e) => e.part.id === p.id))
      ? [
          {
            key: `filter-${p.id}`,
            phase: 'Fit',
            part: p.id,
            says: `Hold the ${lowered(p.name)} highest of all with a P-clamp, mouth down or level: no water runs in, and what the gas carries runs back.`,
            drawing: 'p-clamp',
          },
        ]
      : [],
  )

/** Way that a harness takes round what is between, over the straight line, and the step in which wire is cut, m (estimates). */
const [ROUND, WIRE_STEP] = [1.3, 0.05]

/** A sensor that the gas passes turns with what it sits in: its wires reach, or are lengthened by what the bay says. */
function sensorSteps({ build, variant, say }: CardGround): CardStep[] {
  return variant.parts.flatMap((p): CardStep[] => {
    if (p.kind !== 'sensor') return []
    const here = spotIn(build.bay, p.id)
    // the plug hangs where the maker's sensor sat: at the inlet tract
    const inlet = variant.parts.find((q) => q.kind === 'inlet')
    const there = inlet && build.bay?.spots.find((s) => s.id.startsWith(`${inlet.id}.`))
    const away = here && there ? Math.hypot(...pointOf(here).map((x, i) => x - pointOf(there)[i]!)) : undefined
    const more = away === undefined ? undefined : Math.ceil((away * ROUND) / WIRE_STEP) * WIRE_STEP
    return [
      {
        key: `harness-${p.id}`,
        phase: 'Fit',
        part: p.id,
        says: `Lead the harness of the ${lowered(p.name)} to its plug without pull${more === undefined ? '' : `: from the inlet port it is about ${say.length(more)} longer, where it is too short`}. A lengthened one is soldered, sleeved and wrapped.`,
      },
    ]
  })
}

/** Covers, cans, couplings and hoses in their order. */
export function fitSteps(ground: CardGround): CardStep[] {
  const { made, couplings, against } = ground
  const cans = against.added.filter((p) => p.kind === 'can')
  return [
    ...coversOff(ground).map((p): CardStep => ({
      key: `cover-on-${p.id}`,
      phase: 'Fit',
      part: p.id,
      says: `Put the ${lowered(p.name)} back: gasket face clean and dry, a sound gasket, sealant in the corners where the maker has it.`,
      tight: 'from the middle to the ends, in two rounds, by the maker’s figure',
    })),
    ...hangSteps(ground),
    ...couplings.flatMap((c) => couplingSteps(c, ground)),
    ...made.flatMap((s) => [
      ...engineSide(ground, s.ends, s.line.id),
      ...endStep(s, s.ends[0], 'from', ground),
      ...endStep(s, s.ends[1], 'to', ground),
      ...clipStep(s),
    ]),
    ...filterSteps(ground),
    ...cans.flatMap((p): CardStep[] =>
      p.kind === 'can' && hasTap(p)
        ? [
            {
              key: `tap-${p.id}`,
              phase: 'Fit',
              part: p.id,
              says: `Lead the drain hose of the ${lowered(p.name)} to its tap: ${ground.say.mm(p.tapMm!)}, falling all the way to where a hand reaches with the engine hot, off exhaust and belt. The tap is held, shut and plugged.`,
              drawing: 'p-clamp',
            },
          ]
        : [],
    ),
    ...sensorSteps(ground),
    ...cans.map((p): CardStep => ({
      key: `tighten-${p.id}`,
      phase: 'Fit',
      part: p.id,
      says: `Tighten the other bolt of the ${lowered(p.name)} now that its hoses lie; oil the seals of bowl and lid, and close both.`,
      tight: 'bowl and lid by hand and no further',
    })),
  ]
}

/** Joints gone over, covers back: the same for every plan. */
export const putBackSteps = (): CardStep[] => [
  {
    key: 'tighten',
    phase: 'Put back',
    says: 'Go over every joint once more in the order of the gas: engine, valves, cans, manifold. Mark each that is done.',
  },
  {
    key: 'back',
    phase: 'Put back',
    says: 'Put covers, clips and undertray back: tools counted, rag out of the way of the belt.',
  },
]

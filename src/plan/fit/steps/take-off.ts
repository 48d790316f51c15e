/** Before the work, and what comes off: cold, codes read, valves blown through, the maker's hoses and parts, covers that are welded. */
import { formOf } from '../../catalogue/forms'
import type { LineEnd, Part } from '../../document/schema'
import { joinWords, lowered } from '../../document/words'
import { closuresOf } from '../closures'
import { coverBafflesOf } from '../cover-baffle'
import { type CardGround, type CardStep } from './step'

const KEEP = 'Mark both ends and keep it, the car may have to go back to stock.'

/** Valves are blown through while they can still go back to the shop: those that are new. */
function blown({ against }: CardGround): CardStep[] {
  return against.added.flatMap((p): CardStep[] =>
    p.kind === 'check' || p.kind === 'pcv'
      ? [
          {
            key: `blow-${p.id}`,
            phase: 'Before you begin',
            part: p.id,
            proof: 'blow',
            says: `Blow through the ${lowered(p.name)} both ways before it goes in: it must pass one way and hold the other.`,
          },
        ]
      : [],
  )
}

/** A part that the engine's computer watches comes off or is teed into: what was wrong before is known from what is new. */
export const watched = ({ against, variant }: CardGround): boolean =>
  against.takenOff.some((p) => p.kind === 'regulator' || p.kind === 'sensor') ||
  variant.parts.some((p) => p.kind === 'sensor')

/** Cold, laid out, codes read, valves blown through. */
export function preparationSteps(ground: CardGround): CardStep[] {
  const phase = 'Before you begin'
  return [
    { key: 'cold', phase, says: 'Let the engine cool: key out, wings covered. Photograph the bay from three sides.' },
    {
      key: 'lay-out',
      phase,
      says: 'Lay out everything on the list to buy, labels and caps with it: nothing is missing before the car comes apart.',
    },
    ...(watched(ground)
      ? [
          {
            key: 'codes',
            phase,
            says: 'Read the fault codes and note them: what is there now is not of this work.',
          } as const,
        ]
      : []),
    ...blown(ground),
  ]
}

/** "cam cover, breather", where the maker's moulded hose end stays on that port. */
function stubAt({ build, variant }: CardGround, { part, port }: LineEnd): string | undefined {
  const form = build.fit?.ends.find((e) => e.id === `${part}.${port}`)?.form
  const at = variant.parts.find((p) => p.id === part)
  const name = at?.ports.find((p) => p.id === port)?.name
  return at && name && form && formOf(form)?.kind === 'stub' ? `${lowered(at.name)}, ${lowered(name)}` : undefined
}

/** Covers that come off, each once: to have a bung welded on, or plates put in. */
export const coversOff = ({ bungs, variant }: CardGround): readonly Part[] => {
  const all = [...bungs, ...coverBafflesOf(variant)].map((x) => x.part)
  return all.filter((p, i) => all.findIndex((o) => o.id === p.id) === i)
}

/** The maker's hoses and parts off, covers off, what stays open closed. */
export function takeOffSteps(ground: CardGround): CardStep[] {
  const { against, build, variant } = ground
  const phase = 'Take off'
  return [
    ...against.linesOff.map((l): CardStep => {
      const stays = [l.from, l.to].flatMap((e) => stubAt(ground, e) ?? [])
      return {
        key: `off-${l.id}`,
        phase,
        says:
          stays.length > 0
            ? `Cut the maker’s ${lowered(l.name)} square a hand’s width from the ${joinWords(stays)}, where it runs straight: its moulded end stays on. ${KEEP}`
            : `Take the maker’s ${lowered(l.name)} off: clamps first, then twist, never pull by the hose. ${KEEP}`,
      }
    }),
    ...against.takenOff.map((p): CardStep => ({
      key: `off-part-${p.id}`,
      phase,
      says: `Take the ${lowered(p.name)} out and keep it, plugged.`,
    })),
    ...coversOff(ground).map((p): CardStep => ({
      key: `cover-off-${p.id}`,
      phase,
      part: p.id,
      says: `Take the ${lowered(p.name)} off: its bolts from the ends to the middle, a little at a time. Lay a clean sheet over what is open.`,
      caution: 'Nothing may fall into the engine.',
    })),
    ...closuresOf(build, variant).map((c): CardStep => ({
      key: `cap-${c.part.id}-${c.port}`,
      phase,
      part: c.part.id,
      says: c.says,
    })),
  ]
}

/** What can be looked at, blown through or soaped to find a fault: how long it takes, what it needs and can hurt, and what each fault shows there. */
import type { Build, Part } from '../document/schema'
import { lowered } from '../document/words'
import { activeVariant } from '../edit/edit'
import type { FaultKind } from '../faults/faults'
import type { FaultFinding } from './fault-odds'
import type { WorkedHypothesis } from './predictions'

export type Look = {
  readonly id: string
  readonly name: string
  readonly minutes: number
  readonly needs: string
  readonly caution: string
  /** what it shows with a fault; `SOUND` where that has nothing to do with it */
  readonly shows: (h: Pick<WorkedHypothesis, 'of' | 'kinds'>) => string
}
export const SOUND = 'as it should be'

const COLD = 'Engine cold: hoses and covers burn.'
/** What a fault of a part shows where that part is looked at. */
const at =
  (id: string, shown: Readonly<Partial<Record<FaultKind, string>>>): Look['shows'] =>
  ({ of, kinds }) => {
    for (const [k, place] of of.entries()) {
      const says = place === id ? shown[kinds[k]!] : undefined
      if (says !== undefined) return says
    }
    return SOUND
  }
const anywhere =
  (shown: Readonly<Partial<Record<FaultKind, string>>>): Look['shows'] =>
  ({ kinds }) =>
    kinds.map((k) => shown[k]).find((s) => s !== undefined) ?? SOUND

function looksAtPart(p: Part): Look[] {
  const name = lowered(p.name)
  switch (p.kind) {
    case 'pcv':
    case 'check':
    case 'relief':
      return [
        {
          id: `blow-${p.id}`,
          name: `Take the ${name} out and blow through it both ways`,
          minutes: 6,
          needs: 'a clean rag',
          caution: COLD,
          shows: at(p.id, {
            'stuck-open': 'passes both ways',
            leaks: 'passes both ways',
            'stuck-shut': 'passes neither way',
            reversed: 'sits the wrong way round',
          }),
        },
      ]
    case 'regulator':
      return [
        {
          id: `open-${p.id}`,
          name: `Take the lid off the ${name} and look at its diaphragm`,
          minutes: 12,
          needs: 'screwdriver, a new lid seal',
          caution: COLD,
          shows: at(p.id, { torn: 'torn', 'stuck-open': 'stuck open', 'stuck-shut': 'stuck shut' }),
        },
      ]
    case 'can':
      return [
        {
          id: `open-${p.id}`,
          name: `Open the ${name} and look inside`,
          minutes: 6,
          needs: 'a rag and something to pour into',
          caution: `${COLD} What runs out is hazardous waste.`,
          shows: at(p.id, {
            clogged: 'clogged',
            swapped: 'in and out are swapped',
            'drain-blocked': 'full, its drain blocked',
          }),
        },
      ]
    case 'filter':
      return [
        {
          id: `look-${p.id}`,
          name: `Take the ${name} off and look through it`,
          minutes: 4,
          needs: 'no tools',
          caution: COLD,
          shows: at(p.id, { clogged: 'clogged' }),
        },
      ]
    case 'restrictor':
      return [
        {
          id: `look-${p.id}`,
          name: `Pass a drill shank through the ${name}`,
          minutes: 6,
          needs: 'a drill of its size, by hand',
          caution: COLD,
          shows: at(p.id, { blocked: 'blocked' }),
        },
      ]
    case 'pump':
      return [
        {
          id: `look-${p.id}`,
          name: `Watch whether the ${name} turns`,
          minutes: 2,
          needs: 'no tools',
          caution: 'Belts move: hands and sleeves away.',
          shows: at(p.id, { stopped: 'stands still' }),
        },
      ]
    default:
      return []
  }
}

/** Everything of the active plan that can be looked at. */
export function looksOf(build: Build): readonly Look[] {
  const { parts, lines } = activeVariant(build)
  const named = (id: string) => lowered([...parts, ...lines].find((x) => x.id === id)?.name ?? 'it')
  const bubbles: Look['shows'] = ({ of, kinds }) => {
    const k = kinds.findIndex(
      (x) => x === 'off' || x === 'split' || x === 'cap-loose' || x === 'left-open' || x === 'torn',
    )
    return k < 0 ? SOUND : kinds[k] === 'cap-loose' ? 'bubbles at cap or dipstick' : `bubbles at the ${named(of[k]!)}`
  }
  return [
    {
      id: 'cap',
      name: 'Press filler cap and dipstick home, and look at their seals',
      minutes: 1,
      needs: 'no tools',
      caution: 'Hot oil when the engine was just run.',
      shows: anywhere({ 'cap-loose': 'it was loose' }),
    },
    {
      id: 'level',
      name: 'Read the oil level',
      minutes: 2,
      needs: 'a rag, level ground',
      caution: '',
      shows: anywhere({ overfull: 'above full' }),
    },
    {
      id: 'ports',
      name: 'Look over every capped port',
      minutes: 3,
      needs: 'a lamp and a mirror',
      caution: COLD,
      shows: anywhere({ 'left-open': 'one is open' }),
    },
    ...parts.flatMap(looksAtPart),
    ...lines.flatMap((l): Look[] =>
      l.kind === 'hose'
        ? [
            {
              id: `look-${l.id}`,
              name: `Feel along the ${lowered(l.name)}, take an end off and look through`,
              minutes: 5,
              needs: 'pliers for its clamps',
              caution: COLD,
              shows: at(l.id, { off: 'it was off', folded: 'folded or soft', split: 'split' }),
            },
          ]
        : [],
    ),
    {
      id: 'soap',
      name: 'Stop the ends, blow 2 kPa and no more into the dipstick tube, soap every joint',
      minutes: 12,
      needs: 'hand pump, gauge, soapy water, plugs',
      caution: 'Engine off and cold. More than that pushes seals out.',
      shows: bubbles,
    },
    {
      id: 'leak-down',
      name: 'Leak-down test of every cylinder',
      minutes: 45,
      needs: 'leak-down tester, air, spark plug tools',
      caution: 'The engine may turn when air is let in: nothing on the crank, nobody near the belt.',
      shows: anywhere({ rings: 'leaks past the rings' }),
    },
  ]
}

/** A look is misread so often. */
const MISSED = 0.03
/** Everything that a look can show, with the faults that are considered. */
export const outcomesOf = (
  look: Look,
  hypotheses: readonly Pick<WorkedHypothesis, 'of' | 'kinds'>[],
): readonly string[] => [...new Set([SOUND, ...hypotheses.map((h) => look.shows(h))])]
/** How likely a look shows something with a fault. */
export function chanceOf(
  look: Look,
  outcome: string,
  outcomes: readonly string[],
  h: Pick<WorkedHypothesis, 'of' | 'kinds'>,
): number {
  if (outcomes.length < 2) return 1
  return look.shows(h) === outcome ? 1 - MISSED : MISSED / (outcomes.length - 1)
}

/** What a look showed, as what it makes of each fault. @param saw what was seen, also what none of the faults predicts */
export function findingOf(look: Look, saw: string, hypotheses: readonly WorkedHypothesis[]): FaultFinding {
  const outcomes = [...new Set([...outcomesOf(look, hypotheses), saw])]
  return { chanceWith: (h) => chanceOf(look, saw, outcomes, h) }
}

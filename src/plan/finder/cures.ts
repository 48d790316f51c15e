/** What mends each fault: how, what to have at hand, and what to look at after. Common practice, no source. */
import type { Build } from '../document/schema'
import { joinWords, lowered } from '../document/words'
import { activeVariant } from '../edit/edit'
import type { FaultKind } from '../faults/faults'
import { looksOf, SOUND } from './looks'

type CureFacts = {
  readonly steps: readonly string[]
  readonly buy: readonly string[]
  readonly after: string
}
const VALVE = {
  steps: ['Take the valve out, both hoses marked.', 'Fit a new one the right way round, clamps on before the hose.'],
  buy: ['the valve', 'two clamps'],
} as const
const HOSE_BUY = ['hose of the same bore, by the cut list', 'two clamps'] as const

const CURES: Readonly<Record<FaultKind, CureFacts>> = {
  'stuck-open': {
    ...VALVE,
    after: 'Blow through it before it goes in, then read the crankcase in the state that told it.',
  },
  'stuck-shut': {
    ...VALVE,
    after: 'Blow through it before it goes in, then read the crankcase in the state that told it.',
  },
  leaks: { ...VALVE, after: 'Read the crankcase at full load.' },
  reversed: {
    steps: ['Turn the valve round: its arrow points the way the gas is to run.'],
    buy: ['two clamps'],
    after: 'Read the crankcase at idle and at full load.',
  },
  blocked: {
    steps: [
      'Take the restrictor out and pass a drill of its size through it by hand.',
      'Lag or move it where it froze.',
    ],
    buy: ['foam sleeve, where it froze'],
    after: 'Read the crankcase at idle; look again in the first frost.',
  },
  clogged: {
    steps: [
      'Empty it and wash its media in paraffin, or put in new ones; blow it dry from the clean side.',
      'New lid seal.',
    ],
    buy: ['media or element', 'lid seal'],
    after: 'Read the crankcase at full load; look into it after the next 500 km.',
  },
  swapped: {
    steps: ['Change the two hoses over: the inlet is the side that the can catches from.'],
    buy: ['four clamps'],
    after: 'The next emptying should be about three times as much.',
  },
  'drain-blocked': {
    steps: ['Empty the bowl, take the drain hose off and blow it through; take out what bends upward.'],
    buy: ['drain hose', 'two clamps'],
    after: 'Look into the can after 200 km: it should be dry.',
  },
  stopped: {
    steps: ['Belt on and tensioned; the pump turned by hand first.'],
    buy: ['belt'],
    after: 'Read the crankcase at 3 000 rpm.',
  },
  'left-open': {
    steps: ['Cap or plug the port, with a clamp on the cap.'],
    buy: ['cap', 'clamp'],
    after: 'Fuel trim at idle.',
  },
  'cap-loose': {
    steps: ['Press cap and dipstick home; new seals. Where pressure had lifted them, mend that first.'],
    buy: ['dipstick O-ring', 'filler cap seal'],
    after: 'Read the crankcase at full load.',
  },
  overfull: {
    steps: ['Draw oil off to the mark, engine cold and level.'],
    buy: ['nothing'],
    after: 'The next emptying.',
  },
  off: {
    steps: ['Push the hose home over its barb and clamp it; a film of grease helps.'],
    buy: ['clamp'],
    after: 'Fuel trim at idle; soap at 2 kPa.',
  },
  folded: {
    steps: [
      'Fit a new hose led without the sharp bend, or one with a spring inside.',
      'A P-clamp where it was pushed.',
    ],
    buy: [...HOSE_BUY, 'a P-clamp'],
    after: 'Read the crankcase at full load, hot.',
  },
  split: {
    steps: ['Cut a new hose by the cut list; look what rubbed or burnt the old one.'],
    buy: HOSE_BUY,
    after: 'Soap at 2 kPa.',
  },
  torn: {
    steps: ['Fit a new diaphragm or regulator; its vent hole free.'],
    buy: ['diaphragm or regulator', 'lid seal'],
    after: 'Read the crankcase at idle.',
  },
  rings: {
    steps: ['Leak-down test first. Worn rings are an engine off its mounts: until then drain the can sooner.'],
    buy: ['nothing yet'],
    after: 'Blow-by with a meter at the next service.',
  },
}

export type Cure = {
  readonly steps: readonly string[]
  readonly buy: readonly string[]
  readonly after: string
  /** how to be sure before anything is bought */
  readonly sure: readonly {
    readonly name: string
    readonly shows: string
    readonly minutes: number
    readonly caution: string
  }[]
  /** where it is, in words */
  readonly at: string
}

/** The cure of a fault of a build, and how to be sure of it first. */
export function cureOf(
  build: Build,
  fault: { readonly of: readonly string[]; readonly kinds: readonly FaultKind[] },
): Cure | undefined {
  const facts = fault.kinds.map((k) => CURES[k])
  if (facts.length === 0) return undefined
  const { parts, lines } = activeVariant(build)
  const names = fault.of.map((id) => lowered([...parts, ...lines].find((x) => x.id === id)?.name ?? 'engine'))
  return {
    steps: facts.flatMap((f) => f.steps),
    buy: [...new Set(facts.flatMap((f) => f.buy))],
    after: facts.map((f) => f.after).join(' '),
    sure: looksOf(build)
      .map((look) => ({ look, shows: look.shows(fault) }))
      .filter(({ shows }) => shows !== SOUND)
      .map(({ look, shows }) => ({ name: look.name, shows, minutes: look.minutes, caution: look.caution })),
    at: joinWords([...new Set(names)]),
  }
}

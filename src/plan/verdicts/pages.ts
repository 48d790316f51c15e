/** A page of the reference for every rule, in the order of the gas's way. A rule without one is a type error. */
import { EXAMPLE_CLASS_RULE } from '../catalogue/class-rule'
import { FLOODING } from '@/core/drain/drain'
import type { UnitFormatter } from '../document/words'
import { OIL_DRIES_K } from '../service/oil-water'
import { LIMITS } from '../model/limits'
import { BRACKET_REACH } from '../bay/hanging'
import { LEAST_BENT } from '../bay/lay'
import { HAND, LID, SPANNER_ROOM } from '../bay/place'

/** A rule's page in the reference: what it looks at, where it turns, why, and what to do. */
export type RulePage = {
  readonly title: string
  readonly looks: string
  /** in the reader's units, from the limits themselves */
  readonly threshold: (say: UnitFormatter) => string
  readonly why: string
  readonly does: string
  /** its fix leaves a school what it is (a check fitted, a bore changed, never another can): a ranking presses it */
  readonly mendsSchool: boolean
}

const PAGES = {
  'not-solved': {
    title: 'No answer',
    looks: 'Whether every state of the circuit can be solved to 1e-9 kg/s.',
    threshold: () => 'Gas that has no way out, sizes that are no sizes.',
    why: 'A number from a circuit that does not balance would be a guess.',
    does: 'Read the reason; open a line, take a cap off, turn a valve round.',
    mendsSchool: false,
  },
  'boost-in-crankcase': {
    title: 'Boost in the crankcase',
    looks:
      'Gas from places above the pressure outside, followed through the circuit; and places under boost that blow-by must leave by.',
    threshold: () => 'More than a trace, in any state.',
    why: 'It lifts the crankcase, blows seals out and carries oil into the inlet tract.',
    does: 'A check valve in that line, gas towards the manifold; a breather ahead of the compressor.',
    mendsSchool: true,
  },
  'can-sees-boost': {
    title: 'Can sees boost',
    looks: 'The highest pressure at a can’s ports.',
    threshold: (say) => `Above ${say.pressure(LIMITS.canPressure)}.`,
    why: 'Lid seals, sight tubes and push-on hoses are made for suction.',
    does: 'A check valve between can and manifold, at the manifold.',
    mendsSchool: true,
  },
  'crankcase-pressure': {
    title: 'Crankcase pressure',
    looks: 'Gauge pressure of the crankcase in every state.',
    threshold: (say) =>
      `Good from ${say.pressure(LIMITS.crankcaseLow)} to the pressure outside; a stop above ${say.pressure(LIMITS.crankcaseHigh)} or below ${say.pressure(LIMITS.crankcaseTooLow)} (estimates for standard lip seals).`,
    why: 'Pressure pushes oil past seals, deep vacuum turns lip seals inwards and runs them dry.',
    does: 'Widen the way out, or restrict what sucks.',
    mendsSchool: true,
  },
  'fresh-air': {
    title: 'Fresh air',
    looks:
      'Whether air from ahead of the throttle enters at idle, and whether it passes down into the crankcase or only through a cover.',
    threshold: () => 'None at idle.',
    why: 'It sweeps out water and fuel that turn oil to sludge, and keeps the vacuum small.',
    does: 'A breather from ahead of the throttle to a cover that the suction does not use.',
    mendsSchool: false,
  },
  'idle-bypass': {
    title: 'Air past the throttle',
    looks: 'Gas that enters the manifold through the circuit at idle, over idle air.',
    threshold: () =>
      `Watch above ${100 * LIMITS.idleBypassWatch} %, mend above ${100 * LIMITS.idleBypass} % (estimates).`,
    why: 'The idle control can close the throttle only so far; trims go lean and idle hunts.',
    does: 'A restrictor ahead of the manifold.',
    mendsSchool: true,
  },
  'breather-unprotected': {
    title: 'Breather side unprotected',
    looks:
      'Blow-by followed from the engine to the inlet tract at full load, through whatever stands in the line, and whether a can has seen it.',
    threshold: () => `Mend above ${LIMITS.intakeOilFix * 1000} g/h on a boosted or direct-injected engine.`,
    why: 'At full throttle the gas turns round and leaves by the fresh-air line: a can on the vacuum side sees none of it.',
    does: 'A can or separator in that line.',
    mendsSchool: false,
  },
  velocity: {
    title: 'Velocity',
    looks: 'Gas velocity in every hose that carries oil and is not as the maker laid it.',
    threshold: (say) => `Above ${say.speed(LIMITS.wetVelocity)} at 1 kg/m³, more for thinner gas (estimate).`,
    why: 'Fast gas drags the oil film along the wall instead of letting it drain back.',
    does: 'The next bore up.',
    mendsSchool: true,
  },
  pulsation: {
    title: 'Pulsation',
    looks: 'How far the pistons of a single or twin swing a closed crankcase.',
    threshold: (say) => `Above ±${say.pressure(LIMITS.pulsation)} with no one-way valve in the breather.`,
    why: 'The crankcase breathes in and out at every turn and carries oil each time.',
    does: 'A one-way valve at the breather.',
    mendsSchool: false,
  },
  unjoined: {
    title: 'Joined to nothing',
    looks: 'Parts that no line reaches.',
    threshold: () => 'Any but the engine’s own ports, which count as capped.',
    why: 'They take no part in any number.',
    does: 'Join them or take them away.',
    mendsSchool: false,
  },
  fill: {
    title: 'Fill',
    looks: 'What each can likely holds, and whether it lasts until you look.',
    threshold: () => 'The one case in ten that fills fastest.',
    why: 'A full can passes everything on, in one gulp when the car brakes.',
    does: 'Look sooner, or take a larger bowl.',
    mendsSchool: false,
  },
  freezing: {
    title: 'Freezing',
    looks: 'Water in cans, separators and restrictors where the usual air is below freezing.',
    threshold: (say) => `Any, below ${say.temperature(273.15)}.`,
    why: 'Ice shuts can or restrictor, and the crankcase has no way out.',
    does: 'Empty it before a night of frost; short, warm lines; a relief cap.',
    mendsSchool: false,
  },
  'oil-water': {
    title: 'Oil that keeps its water',
    looks: 'Oil temperature in use, and the water that cold starts leave in the oil.',
    threshold: (say) => `Entered, and below ${say.temperature(OIL_DRIES_K)} (common practice).`,
    why: 'Cooler oil never drives off its water: it turns to sludge, and short trips add to it.',
    does: 'A thermostat for the cooler, or less of it in winter; change the oil sooner.',
    mendsSchool: false,
  },
  'can-swapped': {
    title: 'In and out swapped',
    looks: 'Which way oily gas crosses a can.',
    threshold: () => 'Most of it from outlet to inlet.',
    why: 'It blows through the bowl and picks up what was caught.',
    does: 'Swap the hoses.',
    mendsSchool: false,
  },
  'torn-off': {
    title: 'Section too small for its gas',
    looks:
      'Gas velocity through the section of each can against that above which it tears oil off again (Souders & Brown).',
    threshold: () => 'A fifth of the catch torn off in a state; half of it is a fix (estimates).',
    why: 'What the stages have caught is carried on: the can fills slowly, and the intake gets it.',
    does: 'A wider can, or two side by side.',
    mendsSchool: false,
  },
  'drain-back': {
    title: 'Drain-back',
    looks:
      'The drain of every separator: whether it has one, where it leads, and what column of oil the suction in the separator holds up in it.',
    threshold: (say) =>
      `No drain, a drain that ends in the intake; in a measured bay a head that is not enough in some state; before it is measured a column above ${say.length(LIMITS.drainColumn)} (estimate); oil that leans away in hard driving; a shared vent past ${FLOODING} of Wallis’ measure.`,
    why: 'A separator that cannot drain is a can that nobody empties: it passes everything on once it is full.',
    does: 'A return to block, pan or turbo drain that falls all the way; less suction in the separator, or more height.',
    mendsSchool: true,
  },
  'valve-idle': {
    title: 'Valve that never opens',
    looks: 'One-way valves in all states.',
    threshold: () => 'Shut in every one.',
    why: 'It is fitted the wrong way round, or the line behind it has no use.',
    does: 'Blow through it: towards the manifold or the inlet tract it must pass.',
    mendsSchool: false,
  },
  'vacuum-leak': {
    title: 'Vacuum leak',
    looks: 'Air from the open, followed to the manifold.',
    threshold: () => `Above ${100 * LIMITS.leak} % of engine air; a stop above ${100 * LIMITS.leakStop} %.`,
    why: 'It is not metered: lean codes, high idle.',
    does: 'Plug the vacuum port of a vented can, or close the vent of a sealed one.',
    mendsSchool: false,
  },
  'open-end': {
    title: 'Open end',
    looks: 'Hoses that end in the open air with no filter, and what blows out of them.',
    threshold: () => 'More than a trace of gas.',
    why: 'Oily gas in the engine bay: smell, then drips, on hot exhaust a fire; and dust goes in where it sucks.',
    does: 'Join it, cap it, or fit a vent filter.',
    mendsSchool: false,
  },
  'vented-street': {
    title: 'Vented on the road',
    looks: 'Crankcase gas that goes into the open, and hours on public roads.',
    threshold: () => 'Any.',
    why: 'The crankcase system is an emission control.',
    does: 'A sealed circuit, or no road; ask the local authority.',
    mendsSchool: false,
  },
  'catch-rule': {
    title: 'Class rule',
    looks: 'The bowls against the smallest catch tank that your class asks for.',
    threshold: (say) => {
      const { upToCc, smallMl, largeMl } = EXAMPLE_CLASS_RULE
      const text = (cc: number) => say.volume(cc * 1e-6)
      const example = `${text(smallMl)} up to ${text(upToCc)} of engine, ${text(largeMl)} above`
      return `As entered at Engine, use; nothing is judged before. An example, from memory: ${example}.`
    },
    why: 'Scrutineers measure it.',
    does: 'A larger tank; the rulebook decides.',
    mendsSchool: false,
  },
  'stuck-valve': {
    title: 'Stuck in the plan',
    looks: 'Valves that the plan itself has stuck.',
    threshold: () => 'Any.',
    why: 'Every number is then that of a fault.',
    does: 'Use What if for trying faults; it is never saved.',
    mendsSchool: false,
  },
  'sensor-lost': {
    title: 'Sensor left out',
    looks: 'Sensors that another plan of the build has.',
    threshold: () => 'Fewer here.',
    why: 'The engine computer misses it.',
    does: 'Put it into the new line and extend its harness.',
    mendsSchool: false,
  },
  'port-open': {
    title: 'Capped port',
    looks: 'Valves and cans with one end joined.',
    threshold: () => 'Any.',
    why: 'Reckoned as plugged; left open on the car it leaks.',
    does: 'Plug it, or lead a hose to it.',
    mendsSchool: false,
  },
  'relief-open': {
    title: 'Relief cap',
    looks: 'Which way a relief cap opens, at what pressure, and whether it does in ordinary driving.',
    threshold: (say) => `Reversed; opening above ${say.signed(LIMITS.crankcaseHigh)}; any flow.`,
    why: 'It is to open before a seal does, and only then.',
    does: 'Turn it round; a lighter spring; a wider way out.',
    mendsSchool: false,
  },
  'dry-can': {
    title: 'Can that stays dry',
    looks: 'Oil in the gas that crosses a can.',
    threshold: () => 'None in any state.',
    why: 'It stands on the fresh-air side.',
    does: 'Move it to the line that the gas takes.',
    mendsSchool: false,
  },
  'dead-end': {
    title: 'Hose that leads nowhere',
    looks: 'Hoses beyond which there is neither engine nor inlet, manifold or open air.',
    threshold: () => 'Any.',
    why: 'No gas passes it: it is there for nothing, or something that belongs at its end is missing.',
    does: 'Lead it on, or take it off and plug its port.',
    mendsSchool: false,
  },
  clearance: {
    title: 'Clearance',
    looks: 'Hoses and cans in the measured bay against everything that stands there, and the bonnet over them.',
    threshold: (say) =>
      `Nearer than its kind asks: ${say.length(0.06)} to what is hotter than ${say.temperature(573.15)}, ${say.length(0.025)} to what moves, ${say.length(0.015)} to the bonnet (estimates).`,
    why: 'Heat hardens a hose, a belt cuts it, a bonnet presses on it; and the engine rocks.',
    does: 'Another place or way; a sleeve and a shield for heat.',
    mendsSchool: false,
  },
  'hose-lay': {
    title: 'Hose that cannot be laid',
    looks:
      'Whether each hose can bend through its points by the least radius of its kind, and leaves something between two bent ends.',
    threshold: (say) =>
      `A bend that its legs are too short for; less than ${say.length(LEAST_BENT)} between two bent ends.`,
    why: 'Its length is then only what was entered, and on the car it kinks.',
    does: 'Another point on its way, a turned lid, a bent end.',
    mendsSchool: false,
  },
  'vent-low': {
    title: 'Vent below its can',
    looks: 'How high a vent filter stands against the lid of the can that it serves.',
    threshold: () => 'Below it.',
    why: 'Oil must climb to a vent; to one that stands low it runs.',
    does: 'The filter to the highest point.',
    mendsSchool: false,
  },
  'pulled-out': {
    title: 'Room to pull',
    looks: 'What is drawn upwards in the bay, such as a dipstick, against cans, hoses and the bonnet above it.',
    threshold: (say) =>
      `Anything within its length; a bonnet that opens by ${say.length(0.4)} over it leaves too little (estimate).`,
    why: 'Oil that cannot be checked is not checked.',
    does: 'Another place for the can; a shorter stick.',
    mendsSchool: false,
  },
  'weak-mount': {
    title: 'Mount too weak',
    looks:
      'What a full can weighs against what the nearest one or two mounts carry, and whether any is within a bracket’s reach.',
    threshold: (say) =>
      `More than they carry (common practice, no source); none within ${say.length(BRACKET_REACH)} (estimate).`,
    why: 'A can that shakes tears its bracket, and falls with its oil onto what is hot.',
    does: 'A bolt or stud; a second support.',
    mendsSchool: false,
  },
  'can-reach': {
    title: 'Can out of reach',
    looks:
      'Room below a can for a hand and its bowl, above it for its lid, at its ports for a spanner, and what stands under it.',
    threshold: (say) =>
      `The bowl’s own height, ${say.length(HAND)} for a tap, ${say.length(LID)} for a lid, ${say.length(SPANNER_ROOM)} round a fitting (estimates); over a fuse box, filler or dipstick.`,
    why: 'A can that cannot be emptied where it hangs is emptied late, and what it drips runs onto what is below.',
    does: 'A place with room below it; beside what a drip harms.',
    mendsSchool: false,
  },
  reading: {
    title: 'Reading far from the plan',
    looks: 'The last reading of each thing in each state against what the plan says there.',
    threshold: () => 'Off by half, and by three times what the instrument may be off (estimates).',
    why: 'Either the engine is not as it is entered, or something on it has failed: every other figure of that state is off too.',
    does: 'Read again with the gauge at zero; try the failures under What if; then let the readings move the figures at Engine.',
    mendsSchool: false,
  },
} satisfies Readonly<Record<string, RulePage>>

export type RuleId = keyof typeof PAGES
/** The page of a rule: what it looks at, its limits and their sources. */
export const rulePage = (id: RuleId): RulePage => PAGES[id]
/** In the order of the gas's way. */
export const RULE_PAGES = Object.entries<RulePage>(PAGES)

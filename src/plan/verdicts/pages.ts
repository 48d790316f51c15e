/** A page of the reference for every rule: what it looks at, where it turns, why, and what to do. */
import { LIMITS } from './limits'

export type RulePage = {
  readonly title: string
  readonly looks: string
  readonly turns: string
  readonly why: string
  readonly does: string
}

const kpa = (pa: number) => `${(pa / 1000).toString().replace('-', '−')} kPa`

export const RULE_PAGES: Readonly<Record<string, RulePage>> = {
  'not-solved': {
    title: 'No answer',
    looks: 'Whether every state of the circuit can be solved to 1e-9 kg/s.',
    turns: 'Gas that has no way out, sizes that are no sizes.',
    why: 'A number from a circuit that does not balance would be a guess.',
    does: 'Read the reason; open a line, take a cap off, turn a valve round.',
  },
  'boost-in-crankcase': {
    title: 'Boost in the crankcase',
    looks: 'Gas that enters the circuit from a place above the pressure outside.',
    turns: 'More than a trace, in any state.',
    why: 'It lifts the crankcase, blows seals out and carries oil into the inlet tract.',
    does: 'A check valve in that line, gas towards the manifold.',
  },
  'can-sees-boost': {
    title: 'Can sees boost',
    looks: 'The highest pressure at a can’s ports.',
    turns: `Above ${kpa(LIMITS.canPressure)}.`,
    why: 'Lid seals, sight tubes and push-on hoses are made for suction.',
    does: 'A check valve between can and manifold, at the manifold.',
  },
  'crankcase-pressure': {
    title: 'Crankcase pressure',
    looks: 'Gauge pressure of the crankcase in every state.',
    turns: `Good from ${kpa(LIMITS.crankcaseLow)} to the pressure outside; a stop above ${kpa(LIMITS.crankcaseHigh)} or below ${kpa(LIMITS.crankcaseTooLow)} (estimates for standard lip seals).`,
    why: 'Pressure pushes oil past seals, deep vacuum turns lip seals inwards and runs them dry.',
    does: 'Widen the way out, or restrict what sucks.',
  },
  'fresh-air': {
    title: 'Fresh air',
    looks: 'Whether air from ahead of the throttle enters the crankcase while the manifold sucks at it.',
    turns: 'None at idle.',
    why: 'It sweeps out water and fuel that turn oil to sludge, and keeps the vacuum small.',
    does: 'A breather from ahead of the throttle to a cover that the suction does not use.',
  },
  'idle-bypass': {
    title: 'Air past the throttle',
    looks: 'Gas that enters the manifold through the circuit at idle, over idle air.',
    turns: `Watch above ${100 * LIMITS.idleBypassWatch} %, mend above ${100 * LIMITS.idleBypass} % (estimates).`,
    why: 'The idle control can close the throttle only so far; trims go lean and idle hunts.',
    does: 'A restrictor ahead of the manifold.',
  },
  'breather-unprotected': {
    title: 'Breather side unprotected',
    looks: 'Oil that leaves a cover for the inlet tract at full load through no can.',
    turns: `Mend above ${LIMITS.intakeOilFix * 1000} g/h on a boosted or direct-injected engine.`,
    why: 'At full throttle the gas turns round and leaves by the fresh-air line: a can on the vacuum side sees none of it.',
    does: 'A can or separator in that line.',
  },
  velocity: {
    title: 'Velocity',
    looks: 'Gas velocity in every hose that carries oil.',
    turns: `Above ${LIMITS.wetVelocity} m/s at 1 kg/m³, more for thinner gas (estimate).`,
    why: 'Fast gas drags the oil film along the wall instead of letting it drain back.',
    does: 'The next bore up.',
  },
  fill: {
    title: 'Fill',
    looks: 'What each can likely holds, and whether it lasts until you look.',
    turns: 'The one case in ten that fills fastest.',
    why: 'A full can passes everything on, in one gulp when the car brakes.',
    does: 'Look sooner, or take a larger bowl.',
  },
  freezing: {
    title: 'Freezing',
    looks: 'Water caught where the usual air is below 0 °C.',
    turns: 'Any.',
    why: 'Ice shuts can or restrictor, and the crankcase has no way out.',
    does: 'Empty it before a night of frost; short, warm lines; a relief cap.',
  },
  pulsation: {
    title: 'Pulsation',
    looks: 'How far the pistons of a single or twin swing a closed crankcase.',
    turns: `Above ±${kpa(LIMITS.pulsation)} with no one-way valve in the breather.`,
    why: 'The crankcase breathes in and out at every turn and carries oil each time.',
    does: 'A one-way valve at the breather.',
  },
  unjoined: {
    title: 'Joined to nothing',
    looks: 'Parts that no line reaches.',
    turns: 'Any but the engine’s own ports, which count as capped.',
    why: 'They take no part in any number.',
    does: 'Join them or take them away.',
  },
  'can-swapped': {
    title: 'In and out swapped',
    looks: 'Which way oily gas crosses a can.',
    turns: 'Most of it from outlet to inlet.',
    why: 'It blows through the bowl and picks up what was caught.',
    does: 'Swap the hoses.',
  },
  'valve-idle': {
    title: 'Valve that never opens',
    looks: 'One-way valves in all states.',
    turns: 'Shut in every one.',
    why: 'It is fitted the wrong way round, or the line behind it has no use.',
    does: 'Blow through it: towards the manifold or the inlet tract it must pass.',
  },
  'vacuum-leak': {
    title: 'Vacuum leak',
    looks: 'Air from the open that reaches the manifold.',
    turns: 'Above 1 % of engine air; a stop above 5 %.',
    why: 'It is not metered: lean codes, high idle.',
    does: 'Plug the vacuum port of a vented can, or close the vent of a sealed one.',
  },
  'vented-street': {
    title: 'Vented on the road',
    looks: 'Crankcase gas that goes into the open, and hours on public roads.',
    turns: 'Any.',
    why: 'The crankcase system is an emission control.',
    does: 'A sealed circuit, or no road; ask the local authority.',
  },
  'catch-rule': {
    title: 'Class rule',
    looks: 'The bowls of a race plan against the smallest catch tank that the class asks for.',
    turns: 'As entered; shipped example, from memory: 2 l up to 2.0 l of engine, 3 l above.',
    why: 'Scrutineers measure it.',
    does: 'A larger tank; the rulebook decides.',
  },
  'stuck-valve': {
    title: 'Stuck in the plan',
    looks: 'Valves that the plan itself has stuck.',
    turns: 'Any.',
    why: 'Every number is then that of a fault.',
    does: 'Use What if for trying faults; it is never saved.',
  },
  'sensor-lost': {
    title: 'Sensor left out',
    looks: 'Sensors that another plan of the build has.',
    turns: 'Fewer here.',
    why: 'The engine computer misses it.',
    does: 'Put it into the new line and extend its harness.',
  },
  'port-open': {
    title: 'Capped port',
    looks: 'Valves and cans with one end joined.',
    turns: 'Any.',
    why: 'Reckoned as plugged; left open on the car it leaks.',
    does: 'Plug it, or lead a hose to it.',
  },
  'relief-open': {
    title: 'Relief cap',
    looks: 'Whether a relief cap opens in ordinary driving.',
    turns: 'Any flow.',
    why: 'Then it is a vent, not a guard.',
    does: 'A wider way out, or a higher opening pressure.',
  },
  'dry-can': {
    title: 'Can that stays dry',
    looks: 'Oil in the gas that crosses a can.',
    turns: 'None in any state.',
    why: 'It stands on the fresh-air side.',
    does: 'Move it to the line that the gas takes.',
  },
}

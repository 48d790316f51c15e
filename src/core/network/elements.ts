/** What gas can pass through, between two pressures. Each kind's law is in `flow.ts`. */

export type Gas = { readonly R: number; readonly gamma: number; readonly T: number }

type Common = {
  readonly id: string
  readonly from: string
  readonly to: string
}

/** A pipe or hose. `kFixed` gathers every loss that does not follow f; bends add `perF` f. */
export type Hose = Common & {
  readonly kind: 'hose'
  readonly boreM: number
  readonly lengthM: number
  readonly roughnessM: number
  readonly kFixed: number
  /** the same for a flow from `to` to `from`, where its ends make that another; left out, the same */
  readonly kBack?: number
  /** sum of the bends' coefficients on f, beside L/D */
  readonly kPerF: number
}

/** A hole: isentropic nozzle with discharge coefficient, both ways. */
export type Orifice = Common & { readonly kind: 'orifice'; readonly cd: number; readonly areaM2: number }

/** A one-way valve: an orifice on the pressure above its cracking pressure. `leakM2` is the seat's leak both ways. */
export type CheckValve = Common & {
  readonly kind: 'check'
  readonly cd: number
  readonly areaM2: number
  readonly crackPa: number
  readonly leakM2?: number
}

/** A plunger valve: area against pressure difference, linear between points, level outside them; nothing backwards. */
export type Pcv = Common & {
  readonly kind: 'pcv'
  readonly cd: number
  readonly area: readonly (readonly [dpPa: number, areaM2: number])[]
  readonly leakM2?: number
}

/** A can, filter or flame trap: dp = a Q + b rho Q^2, Q the volume flow at the mean density. */
export type Loss = Common & { readonly kind: 'loss'; readonly a: number; readonly b: number }

/**
 * A diaphragm that throttles to hold the pressure on its `from` side: full area at `openPa` (absolute) and above, none at `shutPa` and below,
 * straight between. Pressure from the far side lifts the diaphragm: backwards it is fully open.
 */
export type Regulator = Common & {
  readonly kind: 'regulator'
  readonly cd: number
  readonly areaM2: number
  readonly openPa: number
  readonly shutPa: number
}

/**
 * A positive-displacement pump that sweeps `sweptM3s` m3/s at its inlet. What is trapped in its clearance comes back:
 * volumetric efficiency 1 + c - c (p2/p1)^(1/gamma), none below zero.
 */
export type Pump = Common & { readonly kind: 'pump'; readonly sweptM3s: number; readonly clearance: number }

export type Element = Hose | Orifice | CheckValve | Pcv | Loss | Regulator | Pump

/** A node either holds a pressure (`p`, Pa absolute) or balances with a mass source (`source`, kg/s, default 0). */
export type Node = { readonly p?: number; readonly source?: number }

/**
 * A joint whose losses follow the split of its flow: its legs, the first two straight through, others branching off. A leg is an element, by
 * its place among the network's, with 1 where its flow counts into the tee and -1 where out of it; or capped; or one that carries what the
 * others leave.
 */
export type Tee = { readonly legs: readonly (TeeElement | 'capped' | 'rest')[] }
/** `areaM2` is that of the tee's own bore at that leg (its barb); 0 for a leg that has none, which is as wide as the widest. */
export type TeeElement = { readonly element: number; readonly inwards: 1 | -1; readonly areaM2: number }

export type Network = {
  /** networks that carry the same object here have the same joints, held or free alike, and elements of the same ends in the same order */
  readonly shape?: object
  readonly gas: Gas
  readonly nodes: Readonly<Record<string, Node>>
  readonly elements: readonly Element[]
  readonly tees?: readonly Tee[]
}

/** Whether a network can be solved at all; said before anything is tried. */
import { fail } from '../result'
import type { Element, Network, Node } from './elements'
import type { ElementEnds } from './layout'

type NetworkProblem = ReturnType<typeof fail>

/** No crankcase, manifold or charge pipe holds more, Pa absolute. */
export const MAX_PRESSURE = 2e7

const size = (x: number) => Number.isFinite(x) && x >= 0

function isSized(e: Element): boolean {
  switch (e.kind) {
    case 'hose':
      return (
        size(e.boreM) && size(e.lengthM) && size(e.roughnessM) && size(e.kFixed) && size(e.kBack ?? 0) && size(e.kPerF)
      )
    case 'orifice':
      return size(e.cd) && size(e.areaM2)
    case 'check':
      return size(e.cd) && size(e.areaM2) && size(e.crackPa) && size(e.leakM2 ?? 0)
    case 'pcv':
      return size(e.cd) && size(e.leakM2 ?? 0) && e.area.every(([dp, area]) => size(dp) && size(area))
    case 'regulator':
      return size(e.cd) && size(e.areaM2) && size(e.shutPa) && e.openPa > e.shutPa
    case 'pump':
      return size(e.sweptM3s) && size(e.clearance)
    case 'loss':
      return size(e.a) && size(e.b) && e.a + e.b > 0
  }
}

/** What stands against a node's pressure or source; undefined where nothing does. */
export function nodeProblem(id: string, { p, source }: Node): NetworkProblem | undefined {
  if (p !== undefined && !(p > 0 && p < MAX_PRESSURE))
    return fail(`${id}: pressure must be above zero and below ${MAX_PRESSURE / 1e6} MPa absolute.`, id)
  if (source !== undefined && !Number.isFinite(source)) return fail(`${id}: the gas entering is not a number.`, id)
  return undefined
}

/** The last list of elements whose sizes were all found sound. */
export type SoundElements = { elements: readonly Element[] | undefined }

/**
 * What stands against a gas and elements, wherever they lead; undefined where nothing does.
 * @param sound the last list that was found sound: every state of a plan asks again about the same
 */
export function sizesProblem({ gas, elements }: Network, sound: SoundElements): NetworkProblem | undefined {
  if (!(gas.T > 0) || !(gas.R > 0) || !(gas.gamma > 1))
    return fail('The gas needs a temperature and gas constant above zero and gamma above one.')
  if (elements === sound.elements) return undefined
  const bad = elements.find((e) => !isSized(e))
  if (bad) return fail(`${bad.id}: every size must be a number, zero or more.`, bad.id)
  sound.elements = elements
  return undefined
}

/** The first thing that stands against solving `network`, or undefined. */
export function problemIn(network: Network, sound: SoundElements): NetworkProblem | undefined {
  const { nodes, elements } = network
  for (const id in nodes) {
    const bad = nodeProblem(id, nodes[id]!)
    if (bad) return bad
  }
  for (const e of elements) {
    if (!Object.hasOwn(nodes, e.from)) return fail(`${e.id} starts at ${e.from}, which does not exist.`, e.id)
    if (!Object.hasOwn(nodes, e.to)) return fail(`${e.id} ends at ${e.to}, which does not exist.`, e.id)
  }
  return sizesProblem(network, sound)
}

/** A free node (the first `source.length` of `ids`) that no chain of branches joins to a held pressure has none of its own. */
export function unreached(
  ids: readonly string[],
  branches: readonly ElementEnds[],
  source: Float64Array,
): NetworkProblem | undefined {
  const n = source.length
  const reached = new Uint8Array(ids.length).fill(1, n)
  // each round reaches one joint further
  for (let more = true; more;) {
    more = false
    for (const { i, j } of branches)
      if (reached[i] !== reached[j]) {
        reached[i] = 1
        reached[j] = 1
        more = true
      }
  }
  const lost = ids.findIndex((_, k) => k < n && !reached[k] && source[k] !== 0)
  const at = lost >= 0 ? lost : reached.indexOf(0)
  return at < 0
    ? undefined
    : fail(`${ids[at]} is joined to nothing that holds a pressure (manifold, inlet tract or atmosphere).`, ids[at])
}

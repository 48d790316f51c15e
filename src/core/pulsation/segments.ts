/** Hoses as the pulse meets them: one that is long beside the wave is several in a row, each with its gas. */
import { circleArea } from '../circle'
import type { Element, Network } from '../network/elements'

/** A hose up to this share of a wave moves as one (methods 4). */
const SHARE_OF_WAVE = 0.1
/** However short the wave, more pieces than this tell nothing new. */
const MOST_PIECES = 8

export type Segmented = {
  readonly network: Network
  /** m3 of every joint, the hoses' own gas among them */
  readonly volumes: Readonly<Record<string, number>>
}

/**
 * The network with hoses longer than a tenth of the wave of `frequency` cut into pieces. The first piece keeps the hose's name; losses are
 * shared evenly. Each piece's gas counts half at either end.
 * @param volumes m3 of the joints without their hoses @param frequency turns a second
 *
 * @example
 * import { segmented } from '@/core/pulsation/segments'
 *
 * console.log(segmented({ gas: { R: 287, gamma: 1.4, T: 350 }, nodes: {}, elements: [] }, {}, 150).network.elements) // []
 */
export function segmented(network: Network, volumes: Readonly<Record<string, number>>, frequency: number): Segmented {
  const { R, gamma, T } = network.gas
  const wave = Math.sqrt(gamma * R * T) / Math.max(frequency, 1e-9)
  const sum: Record<string, number> = { ...volumes }
  const add = (joint: string, m3: number) => {
    sum[joint] = (sum[joint] ?? 0) + m3
  }
  const nodes: Record<string, Network['nodes'][string]> = { ...network.nodes }
  const elements = network.elements.flatMap((e): Element[] => {
    if (e.kind !== 'hose' || !(e.boreM > 0)) return [e]
    const pieces = Math.min(MOST_PIECES, Math.max(1, Math.ceil(e.lengthM / (SHARE_OF_WAVE * wave))))
    const joints = [e.from, ...Array.from({ length: pieces - 1 }, (_, k) => `${e.id}~${k + 1}`), e.to]
    const lengthM = e.lengthM / pieces
    const gas = circleArea(e.boreM) * lengthM
    return Array.from({ length: pieces }, (_, k): Element => {
      const [from, to] = [joints[k]!, joints[k + 1]!]
      nodes[from] ??= {}
      nodes[to] ??= {}
      add(from, gas / 2)
      add(to, gas / 2)
      return {
        ...e,
        id: k === 0 ? e.id : `${e.id}~${k}`,
        from,
        to,
        lengthM,
        kFixed: e.kFixed / pieces,
        ...(e.kBack === undefined ? {} : { kBack: e.kBack / pieces }),
        kPerF: e.kPerF / pieces,
      }
    })
  })
  return { network: { ...network, shape: undefined, nodes, elements } as Network, volumes: sum }
}

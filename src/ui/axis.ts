/** Figures along an axis: round ones, all with as many decimals. */
import type { ScaleLinear } from 'd3-scale'

export type Tick = { readonly value: number; readonly text: string }

/** @param count about so many of them @param sign whether what is above zero says so */
export function ticksOf(scale: ScaleLinear<number, number>, count: number, sign = false): readonly Tick[] {
  const text = scale.tickFormat(count, sign ? '+f' : 'f')
  return scale.ticks(count).map((value) => ({ value, text: value === 0 ? '0' : text(value) }))
}

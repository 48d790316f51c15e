/** How much an outcome tells of which of several cases holds, in bits (MacKay, Information Theory, 8). */

const LN2 = Math.LN2
const entropyTerm = (p: number) => (p > 0 ? -p * Math.log(p) : 0)

/**
 * Mutual information of cases and outcomes.
 * @param weights of the cases, 0 or more, not all 0
 * @param outcomes a row a case: how likely each outcome is in it, in any measure that is the same for all rows
 *
 * @example
 * import { informationOf } from '@/core/inference/information'
 *
 * console.log(informationOf([1, 1], [[1, 0], [0, 1]])) // 1
 */
export function informationOf(weights: readonly number[], outcomes: readonly ArrayLike<number>[]): number {
  const all = weights.reduce((sum, w) => sum + w, 0)
  const count = outcomes[0]?.length ?? 0
  let bits = 0
  const totals = outcomes.map((row) => {
    let sum = 0
    for (let k = 0; k < count; k++) sum += row[k]!
    return sum > 0 ? sum : 1
  })
  for (let k = 0; k < count; k++) {
    let mixed = 0
    for (let h = 0; h < weights.length; h++) mixed += (weights[h]! / all) * (outcomes[h]![k]! / totals[h]!)
    bits += entropyTerm(mixed)
  }
  for (let h = 0; h < weights.length; h++) {
    let own = 0
    for (let k = 0; k < count; k++) own += entropyTerm(outcomes[h]![k]! / totals[h]!)
    bits -= (weights[h]! / all) * own
  }
  return Math.max(0, bits / LN2)
}

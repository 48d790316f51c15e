/** An example of what a racing class asks for, from memory: a catch tank of two litres to two litres of engine, three above. */
export const EXAMPLE_CLASS_RULE = { upToCc: 2000, smallMl: 2000, largeMl: 3000 } as const

/**
 * @example
 * import { exampleRuleMl } from '@/plan/catalogue/class-rule'
 *
 * console.log(exampleRuleMl(2500)) // 3000
 */
export const exampleRuleMl = (displacementCc: number): number =>
  displacementCc <= EXAMPLE_CLASS_RULE.upToCc ? EXAMPLE_CLASS_RULE.smallMl : EXAMPLE_CLASS_RULE.largeMl

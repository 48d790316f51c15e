/** What axe, a checker of accessibility, finds on a page. */
import { AxeBuilder } from '@axe-core/playwright'
import type { Page } from '@playwright/test'

/** What axe holds for less than serious, and a reader of a screen does not. */
const LANDMARKS = ['region', 'landmark-one-main', 'page-has-heading-one', 'scrollable-region-focusable']

/** Serious findings on a page as it stands, each with its rule and where it is; of some rules alone where they are named. */
export async function seriousFindings(page: Page, rules?: readonly string[]): Promise<readonly string[]> {
  // what passes is not asked for, and no page holds others in frames: the results need no window of their own, which takes most of the time
  const axe = new AxeBuilder({ page }).options({
    resultTypes: ['violations'],
    ...(rules && { runOnly: { type: 'rule', values: [...rules] } }),
  })
  const { violations } = await axe.setLegacyMode().analyze()
  return violations
    .filter((v) => v.impact === 'serious' || v.impact === 'critical' || LANDMARKS.includes(v.id))
    .map((v) => {
      const nodes = v.nodes.map((n) => n.target.join(' ')).slice(0, 3)
      return `${page.url()} ${v.id}: ${nodes.join(' | ')}`
    })
}

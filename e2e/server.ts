/** A server for the browser tests. */
import { expect, test as base } from '@playwright/test'
import { Ivent } from './ivent'

export { Ivent } from './ivent'

/** Tests with a server that has the demo data and is theirs alone. */
export const withServer = () =>
  base.extend<object, { ivent: Ivent }>({
    ivent: [
      // Playwright reads the fixtures wanted from this pattern: none
      // oxlint-disable-next-line no-empty-pattern
      async ({}, use) => {
        const ivent = new Ivent()
        if ((await ivent.start()) !== 'answers') throw new Error(`Ivent did not start:\n${ivent.output}`)
        await use(ivent)
        await ivent.end()
      },
      { scope: 'worker' },
    ],
    // what a test typed last is saved before its window closes: the next one finds the build as it was left
    page: async ({ page }, use) => {
      await use(page)
      if (!page.isClosed()) await expect(page.getByText('Saving…', { exact: true })).toHaveCount(0)
    },
  })
/** A server shared by the tests of several files. */
export const test = withServer()
export { expect } from '@playwright/test'

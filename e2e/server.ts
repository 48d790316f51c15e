/** A server for the browser tests. */
import { test as base } from '@playwright/test'
import { Ivent } from './ivent'

export { Ivent } from './ivent'

/** A server with the demo data, shared by the tests of a file. */
export const test = base.extend<object, { ivent: Ivent }>({
  // Playwright reads the fixtures wanted from this pattern: none
  // oxlint-disable-next-line no-empty-pattern
  ivent: [
    // Playwright reads the fixtures used from this pattern
    // oxlint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const ivent = new Ivent()
      if ((await ivent.start()) !== 'answers') throw new Error(`Ivent did not start:\n${ivent.output}`)
      await use(ivent)
      await ivent.end()
    },
    { scope: 'worker' },
  ],
})
export { expect } from '@playwright/test'

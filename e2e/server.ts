/** A server for the browser tests. */
import { test as base } from '@playwright/test'
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
  })
/** A server shared by the tests of several files. */
export const test = withServer()
export { expect } from '@playwright/test'

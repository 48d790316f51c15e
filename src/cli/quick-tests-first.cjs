/** Jest runs short tests before long ones: of the mutants that a quick test catches, none waits for a slow one. */
const { default: Sequencer } = require('@jest/test-sequencer')

module.exports = class QuickTestsFirst extends Sequencer {
  sort(tests) {
    // oxlint-disable-next-line unicorn/no-array-sort -- the method of Jest's own of that name
    return super.sort(tests).toSorted((a, b) => (a.duration ?? 0) - (b.duration ?? 0))
  }
}

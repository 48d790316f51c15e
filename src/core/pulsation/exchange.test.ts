/** Gas that is breathed to and fro in a hose: only what exceeds the hose's own has been at the other end. */
import { exchanged } from './exchange'

test('the dead space comes back as it went; beyond it gas is exchanged', () => {
  // 2 g/s back at 50 turns a second are 40 mg a turn: of a hose that holds 10, 30 are exchanged
  expect(exchanged(2e-3, 50, 1e-5)).toBeCloseTo(50 * 3e-5, 12)
  expect(exchanged(2e-3, 50, 0)).toBe(2e-3)
  expect(exchanged(2e-3, 50, 4e-5)).toBeCloseTo(0, 12)
  expect(exchanged(2e-3, 50, 1e-3)).toBe(0)
  expect([exchanged(0, 50, 0), exchanged(-1e-3, 50, 0), exchanged(1e-3, 0, 0)]).toEqual([0, 0, 0])
})

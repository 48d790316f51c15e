import { accumulated, untilFull } from './fill'
import { ACTIVITIES, ACTIVITY_FACTS, stateShare } from './rates'
import { STATE_IDS } from '../engine/states'

test('the forecast runs from the fast tenth to the slow tenth', () => {
  expect(untilFull({ low: 1, mid: 2, high: 4 }, 8)).toEqual({ low: 2, mid: 4, high: 8 })
  expect(accumulated({ low: 1, mid: 2, high: 4 }, 3)).toEqual({ low: 3, mid: 6, high: 12 })
  expect(untilFull({ low: 0, mid: 0, high: 0 }, 8).low).toBe(Infinity)
})

test('hours of every activity add up, with or without a charger', () => {
  for (const a of ACTIVITIES) {
    expect(STATE_IDS.reduce((s, id) => s + stateShare(a, id, STATE_IDS), 0)).toBeCloseTo(1, 9)
    const na = ['idle', 'cruise', 'pull', 'overrun'] as const
    expect(na.reduce((s, id) => s + stateShare(a, id, na), 0)).toBeCloseTo(1, 9)
    expect(ACTIVITY_FACTS[a].kmPerHour).toBeGreaterThan(0)
  }
})

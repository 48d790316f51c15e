/** Figures along an axis. */
import { scaleLinear } from 'd3-scale'
import { ticksOf } from './axis'

test('all have as many decimals, a real minus, and a bare nought', () => {
  const texts = (from: number, to: number, sign?: boolean) =>
    ticksOf(scaleLinear().domain([from, to]), 5, sign).map((t) => t.text)
  expect(texts(-15, 20, true)).toEqual(['−15', '−10', '−5', '0', '+5', '+10', '+15', '+20'])
  expect(texts(0, 1.2)).toEqual(['0', '0.2', '0.4', '0.6', '0.8', '1.0', '1.2'])
  expect(texts(24, 221)).toEqual(['50', '100', '150', '200'])
})

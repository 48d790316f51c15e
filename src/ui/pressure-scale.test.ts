/** Against the symmetric-logarithmic scale of the package d3-scale. */
import { scaleSymlog } from 'd3-scale'
import { pressureScale } from './pressure-scale'

test.each([
  { linear: 150, from: [4200, -9000], to: [34, 340] },
  { linear: 300, from: [-6000, 2500], to: [70, 450] },
] as const)('$from Pa onto $to as the package does', ({ linear, from, to }) => {
  const [own, reference] = [pressureScale(linear, from, to), scaleSymlog().constant(linear).domain(from).range(to)]
  for (const pa of [-20_000, -9000, -300, -12, 0, 0.5, 150, 2500, 60_000]) expect(own(pa)).toBeCloseTo(reference(pa), 9)
})

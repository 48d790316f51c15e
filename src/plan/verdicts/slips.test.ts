/** The slips that builders make, one by one: each has a rule that names it, on a circuit that makes it and not on the one that does not. */
import { analyse } from '../analyse'
import type { Build } from '../document/schema'
import { after, byEdits } from '../testing'
import { SLIPS } from './testing'
import { SEVERITIES } from './verdict'

const DAY = '2026-11-25'
const rank = (s: (typeof SEVERITIES)[number]) => SEVERITIES.indexOf(s)
const found = (b: Build, rule: string) => analyse(b, DAY).verdicts.filter((v) => v.rule === rule && v.severity !== 'ok')

test.each(SLIPS)('%s is named, and the sound circuit is not', (...[, rule, subject, said, sound, made]) => {
  const v = found(made, rule).find((x) => subject.test(x.subject) && said.test(`${x.title} ${x.why}`))
  expect(v ?? found(made, rule)).toMatchObject({ rule })
  expect(found(sound, rule).filter((x) => subject.test(x.subject) && said.test(`${x.title} ${x.why}`))).toEqual([])
})

test.each(SLIPS)('%s: what is offered mends it and brings nothing as grave', (...[, rule, subject, , , made]) => {
  for (const v of found(made, rule)) {
    if (!v.fix || !subject.test(v.subject)) continue
    const then = analyse(after(made, byEdits(v.fix.edits)), DAY).verdicts
    const still = then.find((x) => x.rule === rule && x.subject === v.subject)
    expect(still ? rank(still.severity) : SEVERITIES.length).toBeGreaterThan(rank(v.severity))
  }
})

/** Slips whose mending is one press. */
test.each(
  SLIPS.filter(([slip]) =>
    /swapped|left open|vacuum source|sees boost|no fresh-air|relief cap|no drain|backwards|only way out|flame trap|too narrow|ends in the open/.test(
      slip,
    ),
  ),
)('%s: a fix is offered', (...[, rule, subject, , , made]) => {
  expect(found(made, rule).some((v) => subject.test(v.subject) && v.fix)).toBe(true)
})

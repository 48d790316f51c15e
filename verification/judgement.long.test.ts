import { passes } from './check'
import { judgementChecks } from './checks/judgement'

test.each(judgementChecks().map((c) => [c.what, c] as const))('%s', (_, c) => {
  if (!passes(c)) throw new Error(`expected ${c.expected.toString()}, got ${c.got}`)
})

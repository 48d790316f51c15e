/** What fails of an engine whose pistons pump its crankcase: every failure followed over the turn. */
import { finish } from '@/core/job'
import { isCycleMean } from '../model/results'
import { newBuild } from '../schools/new-build'
import { faultsOf } from './faults'
import { analyseFaultOverCycle, failures } from './what-if'

const DAY = '2026-01-01'
const vented = newBuild({
  name: 'x',
  engineClass: 'single',
  use: 'street',
  ambientC: 10,
  units: 'metric',
  school: 'vented-can',
})

test('a failure is told over the turn too, in its row and when it is tried', () => {
  const faults = faultsOf(vented)
  const shut = faults.find((f) => /clogged|blocked/i.test(f.name)) ?? faults[0]!
  const tried = finish(analyseFaultOverCycle(vented, shut.id, DAY))!
  expect(isCycleMean(tried)).toBe(true)
  expect(tried.verdicts.some((v) => v.fix)).toBe(false)
  expect(finish(analyseFaultOverCycle(vented, 'nothing of the kind', DAY))).toBeUndefined()
  const rows = finish(failures(vented))
  expect(rows.map((r) => r.id).toSorted()).toEqual(faults.map((f) => f.id).toSorted())
  // the row says what the picture shows when it is tried
  const row = rows.find((r) => r.id === shut.id)!
  for (const v of row.verdicts)
    expect(tried.verdicts.some((t) => t.rule === v.rule && t.subject === v.subject && t.title === v.title)).toBe(true)
})

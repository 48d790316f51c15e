import { boreSold, HOSE_BORES } from './hoses'

test('a dash size is taken for the bore of the hose that is sold under it; anything else is none', () => {
  expect(boreSold('-10')).toBe(14.3)
  expect(boreSold('−16 AN')).toBe(22.2)
  for (const { mm, name } of HOSE_BORES) if (name.startsWith('-')) expect(boreSold(name)).toBe(mm)
  for (const other of ['-5', '10', '5/8', '', '-10 mm']) expect(boreSold(other)).toBeUndefined()
})

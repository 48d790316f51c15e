/** The bays of the demo builds, as the file has them, are what the bay station lays out now. */
import bays from '@/server/demo-bays.json'
import { DEMOS } from '@/server/demo-builds'
import { demoBayOf } from './demo-bays'

test.each(DEMOS.map((d) => d.plan()).map((b) => [b.name, b] as const))(
  '%s: ./ivent docs bays would change nothing',
  (name, b) => {
    expect(demoBayOf(b)).toEqual((bays as unknown as Record<string, unknown>)[name])
  },
)

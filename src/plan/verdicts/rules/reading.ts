/** What was read on the car against what the plan says: a reading far off is seen, not only weighed. */
import { STATE_NAMES } from '../../document/words'
import { farReadings, readingPlace, readingText } from '../../service/readings'
import type { Finding, Rule } from '../verdict'

export const reading: Rule = {
  id: 'reading',
  judge: (c) =>
    farReadings(c.build, c.solved).map(({ read, shown }): Finding => {
      const place = readingPlace(c.build, read)
      const [was, says] = [read.value, shown].map((v) => readingText(c.say, read.quantity, v))
      return {
        subject: `${read.state} ${read.quantity} ${read.at ?? ''}`.trim(),
        severity: 'watch',
        at: { station: 'engine', state: read.state },
        title: `${STATE_NAMES[read.state]}: you read ${was}, the plan says ${says}`,
        why: `That is ${place}, further apart than gauge and habit explain. Something is not as the plan has it: a valve, a hose, the hole for fresh air, the rings. Engine tells what the readings say together, What if what a failure would do; until then every figure of that state stands in doubt.`,
      }
    }),
}

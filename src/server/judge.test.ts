/**
 * Analyses in worker threads: the same answer, stopped by their budget, kept while nothing changes. Needs the bundle
 * that `./ivent` makes.
 */
import { finish } from '@/core/job'
import { analyse } from '@/plan/analyse'
import { reportOn } from '@/plan/analyse-whole'
import { newBuild } from '@/plan/schools/new-build'
import { hose, tee } from '@/plan/schools/parts'
import { summarise } from '@/plan/service/summary'
import { closeJudges, judge, judgeStored, summariseStored } from './judge'

const DAY = '2026-11-25'
const build = newBuild({ name: 'One', engineClass: 'i5-turbo', use: 'street', ambientC: 10, units: 'metric' })
afterAll(closeJudges)
jest.setTimeout(60_000)

test('the same as worked out here, and the main thread goes on meanwhile', async () => {
  let turns = 0
  const turning = setInterval(() => turns++, 1)
  const judged = await judge(build, DAY)
  clearInterval(turning)
  expect(judged.ok && JSON.stringify(judged.value)).toEqual(JSON.stringify(finish(reportOn(build, DAY))))
  expect(turns).toBeGreaterThan(0)
})

test('what exceeds its budget is stopped and said, and the next one is answered', async () => {
  const tees = Array.from({ length: 70 }, (_, i) => tee(`t${i}`, `Tee ${i}`))
  const plan = build.variants[0]!
  const heavy = {
    ...build,
    variants: [
      {
        ...plan,
        parts: [...plan.parts, ...tees],
        lines: [
          ...plan.lines,
          hose('in', 'in', 'cover.filler', 't0.a', 10, 100),
          ...tees.slice(1).map((_, i) => hose(`h${i}`, `h${i}`, `t${i}.b`, `t${i + 1}.a`, 10, 100)),
        ],
      },
    ],
  }
  expect(await judge(heavy, DAY, 2)).toEqual({ ok: false, reason: expect.stringMatching(/was stopped/) as string })
  expect((await judge(build, DAY)).ok).toBe(true)
})

test('a document that breaks the working is told as its own, not as a broken page', async () => {
  const broken = { ...build, variants: build.variants.map((v) => ({ ...v, parts: undefined })) } as never
  const log = jest.spyOn(console, 'error').mockImplementation(() => undefined)
  expect(await judge(broken, DAY)).toEqual({ ok: false, reason: expect.stringMatching(/damaged/) as string })
  log.mockRestore()
})

test('summaries are worked out once for build, revision and day', async () => {
  let asked = 0
  const document = () => {
    asked++
    return Promise.resolve(build)
  }
  const at = (revision: number, day = DAY) => summariseStored({ id: 'x', revision }, day, document)
  expect(await at(1)).toEqual({ ok: true, value: summarise(build, analyse(build, DAY)) })
  await at(1)
  expect(asked).toBe(1)
  await at(2)
  await at(2, '2026-11-26')
  expect(asked).toBe(3)
  expect((await judgeStored({ id: 'x', revision: 1, document: build }, DAY)).ok).toBe(true)
})

test('a crowd that asks for the same at once is answered by one working', async () => {
  const stored = { id: 'crowd', revision: 1, document: build }
  const answers = await Promise.all(Array.from({ length: 8 }, () => judgeStored(stored, DAY)))
  // the very same answer, not eight alike
  for (const a of answers) expect(a).toBe(answers[0])
  expect(answers[0]!.ok).toBe(true)
})

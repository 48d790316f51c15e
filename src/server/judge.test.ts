/**
 * Analyses in worker threads: the same answer, stopped by their budget, kept while nothing changes. Needs the bundle
 * that `./ivent` makes.
 */
import { finish } from '@/core/job'
import { analyse } from '@/plan/analyse'
import { analyseOverCycle, reportOn } from '@/plan/analyse-over-cycle'
import { newBuild } from '@/plan/schools/new-build'
import { hose, tee } from '@/plan/catalogue/parts'
import { summarise } from '@/plan/studies/summary'
import { versionOf } from './changed'
import { closeLanes } from './lane'
import { judgeInLane, judgeStored, judgeWhole, summariseStored, tooLargeToShow } from './judge'

const DAY = '2026-11-25'
const build = newBuild({ name: 'One', engineClass: 'i5-turbo', use: 'street', ambientC: 10, units: 'metric' })
afterAll(closeLanes)

test('the same as worked out here, and the main thread goes on meanwhile', async () => {
  let turns = 0
  const turning = setInterval(() => turns++, 1)
  const judged = await judgeInLane(build, DAY)
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
          hose('in', 'in', { from: 'cover.filler', to: 't0.a', boreMm: 10, lengthMm: 100 }),
          ...tees
            .slice(1)
            .map((_, i) => hose(`h${i}`, `h${i}`, { from: `t${i}.b`, to: `t${i + 1}.a`, boreMm: 10, lengthMm: 100 })),
        ],
      },
    ],
  }
  expect(await judgeInLane(heavy, DAY, 2)).toEqual({
    ok: false,
    reason: expect.stringMatching(/was stopped/) as string,
  })
  expect(await tooLargeToShow(heavy, DAY, 2)).toMatch(/too large.*was stopped/)
  expect(await tooLargeToShow(build, DAY)).toBeUndefined()
  expect((await judgeInLane(build, DAY)).ok).toBe(true)
})

test('a document that breaks the working is told as its own, not as a broken page', async () => {
  const broken = { ...build, variants: build.variants.map((v) => ({ ...v, parts: undefined })) } as never
  const log = jest.spyOn(console, 'error').mockImplementation(() => undefined)
  expect(await judgeInLane(broken, DAY)).toEqual({ ok: false, reason: expect.stringMatching(/damaged/) as string })
  log.mockRestore()
})

/** Of an engine whose pistons pump the crankcase: the turn of the crank takes its time. */
const single = newBuild({ name: 'Single', engineClass: 'single', use: 'street', ambientC: 10, units: 'metric' })
/** Once what is known of a build has become more. */
async function workedOut(id: string, before: string): Promise<void> {
  while (versionOf(id) === before) await new Promise((resolve) => setTimeout(resolve, 20))
}

test('summaries are worked out once for build, revision and day', async () => {
  let asked = 0
  const document = () => {
    asked++
    return Promise.resolve(build)
  }
  const at = (revision: number, day = DAY) => summariseStored({ id: 'x', revision }, day, document)
  // a slow machine has it a moment later
  const known = async (revision: number, day = DAY) => {
    for (;;) {
      const before = versionOf('x')
      const answer = await at(revision, day)
      if (!answer || !('pending' in answer) || !answer.pending) return answer
      await workedOut('x', before)
    }
  }
  expect(await known(1)).toEqual({ summary: summarise(build, analyse(build, DAY)), pending: false })
  for (const [revision, day] of [
    [1, DAY],
    [2, DAY],
    [2, '2026-11-26'],
  ] as const) {
    const before = asked
    await known(revision, day)
    expect(asked > before).toBe(revision === 2)
    const then = asked
    await known(revision, day)
    expect(asked).toBe(then)
  }
  expect((await judgeStored({ id: 'x', revision: 1, document: build }, DAY)).ok).toBe(true)
})

test('a list waits for no build: what is not known yet is pending, or told as it was last', async () => {
  const hurried = await summariseStored({ id: 'hurried', revision: 1 }, DAY, () => Promise.resolve(build), 0)
  expect(hurried).toEqual({ summary: undefined, pending: true })
  // patient, so that a busy machine too has the still flow in time
  const at = (revision: number) =>
    summariseStored({ id: 'single', revision }, DAY, () => Promise.resolve(single), 60_000)
  const before = versionOf('single')
  // the still flow at once: a ticket without a picture says nothing
  const first = await at(1)
  expect(first).toMatchObject({ pending: true, summary: { name: single.name } })
  // pages that told of it as pending are drawn anew
  await workedOut('single', before)
  const known = await at(1)
  expect(known).toEqual({ summary: summarise(single, finish(analyseOverCycle(single, DAY))), pending: false })
  expect(await at(2)).toEqual({ ...known, pending: true })
  await judgeWhole({ id: 'single', revision: 2, document: single }, DAY)
})

test('a page is given the still flow while the turn of the crank is followed, then the turn', async () => {
  const stored = { id: 'turning', revision: 1, document: single }
  const before = versionOf('turning')
  const first = await judgeStored(stored, DAY)
  expect(first.ok && JSON.stringify(first.value)).toBe(JSON.stringify(analyse(single, DAY)))
  await workedOut('turning', before)
  const then = await judgeStored(stored, DAY)
  expect(then.ok && JSON.stringify(then.value)).toBe(JSON.stringify(finish(analyseOverCycle(single, DAY))))
})

test('waiting for a turn makes no build too large', async () => {
  // each takes longer than a tenth of what all of them take together
  const reasons = await Promise.all(Array.from({ length: 30 }, () => tooLargeToShow(build, DAY, 1000)))
  expect(reasons).toEqual(Array.from({ length: 30 }, () => undefined))
})

test('a crowd that asks for the same at once is answered by one working', async () => {
  const stored = { id: 'crowd', revision: 1, document: build }
  const answers = await Promise.all(Array.from({ length: 8 }, () => judgeStored(stored, DAY)))
  // the very same answer, not eight alike
  for (const a of answers) expect(a).toBe(answers[0])
  expect(answers[0]!.ok).toBe(true)
})

/** ./ivent siege [ROUNDS]: hundreds of kills, conflicts and spoilt files, and a crowd of clients; prints what came of them. */
import { Ivent } from '../../e2e/ivent'
import { conflicts, firstStarts, kills, load, mutations } from '../../e2e/siege'

/** 19 of 20 pages are answered within this. */
const PAGE_MS = 300

async function siege(rounds: number): Promise<void> {
  let slow = false
  const ivent = new Ivent()
  try {
    if ((await ivent.start('demo')) !== 'answers') throw new Error(ivent.output)
    const ms = (x: number) => `${x.toFixed(0)} ms`
    // while nothing changes pages are kept; while somebody works on the builds they are drawn again
    for (const writers of [0, 4]) {
      const { page, health, save, silenceMs } = await load(ivent, { clients: 50, every: 2, writers, seconds: 30 })
      const failed = page.failed + health.failed + save.failed
      slow ||= page.p95 > PAGE_MS
      console.log(
        `50 clients, each a page every 2 s for 30 s, ${writers} changes a second: ${page.count} pages, half within ${ms(page.p50)}, 19 of 20 within ${ms(page.p95)}; ` +
          `health within ${ms(health.p95)}, longest silence ${ms(silenceMs)}${writers > 0 ? `; ${save.count} changes saved, within ${ms(save.p95)}` : ''}; ${failed} failed`,
      )
    }
    const spoilt = await mutations(ivent, 12 * rounds)
    console.log(
      `${12 * rounds} spoilt files: ${spoilt.refused} refused in words, ${spoilt.taken} taken, ${spoilt.broken.length} broken; slowest ${ms(spoilt.slowestMs)}`,
    )
    for (const b of spoilt.broken.slice(0, 5)) console.log(`  ${b}`)
    const both = await conflicts(ivent, rounds)
    console.log(`${both.rounds} conflicts: ${both.lost} sides lost`)
    const killed = await kills(ivent, Math.ceil(rounds / 2))
    console.log(`${Math.ceil(rounds / 2)} kills while saving: ${killed.acknowledged} acknowledged, ${killed.lost} lost`)
    const starts = await firstStarts(() => new Ivent(), Math.ceil(rounds / 20))
    console.log(`${starts.rounds} kills during a first start: ${starts.bricked} folders did not open again`)
    process.exitCode = slow || both.lost + killed.lost + starts.bricked + spoilt.broken.length > 0 ? 1 : 0
  } finally {
    await ivent.end()
  }
}

void siege(Number(process.argv[2] ?? 200))

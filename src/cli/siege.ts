/**
 * ./ivent siege [ROUNDS]: a crowd of clients, spoilt files, two devices, restores, long work and hundreds of kills; prints what came of
 * them, on the embedded store and then on a PostgreSQL server.
 */
import { Ivent } from '../../e2e/ivent'
import { pairedDevice, type PairedDevice } from '../../e2e/paired'
import { ShopNetwork } from '../../e2e/phone'
import { TestPostgres } from '@/server/testing-postgres'
import { batches, conflicts, firstStarts, kills, liveTimes, load, longWork, mutations, restores } from '../../e2e/siege'

/** 19 of 20 pages are answered within this; an export or a backup keeps nobody waiting for longer than that. */
const [PAGE_MS, SILENCE_MS] = [300, 200]
const CLIENTS = 50
/** What one saves is on the others within this. */
const LIVE_MS = 1000

/** @param postgres the server that holds the data, where it is not embedded */
async function besiege(rounds: number, postgres: TestPostgres | undefined): Promise<void> {
  let databases = 0
  const make = () => new Ivent(postgres ? { DATABASE_URL: postgres.database(`siege${databases++}`) } : {})
  const ivent = make()
  const network = new ShopNetwork()
  const devices: PairedDevice[] = []
  const failures: string[] = []
  const expect = (fine: boolean, what: string) => {
    console.log(fine ? what : `${what}  <- FAILED`)
    if (!fine) failures.push(what)
  }
  const ms = (x: number) => `${x.toFixed(0)} ms`
  try {
    network.start()
    if ((await ivent.start('demo', ivent.folder, '--lan')) !== 'answers') throw new Error(ivent.output)
    for (let k = 0; k < CLIENTS; k++) devices.push(await pairedDevice(ivent, network.bench, `Phone ${k}`))
    // every page once: what is measured is not the first start
    for (const who of [undefined, devices])
      await load(ivent, { clients: CLIENTS, every: 2, writers: 0, seconds: 10, devices: who })
    for (const [who, writers] of [
      [undefined, 0],
      [devices, 0],
      [undefined, 4],
      [devices, 4],
    ] as const) {
      const crowd = { clients: CLIENTS, every: 2, writers, seconds: 30, devices: who }
      const { page, health, save, silenceMs } = await load(ivent, crowd)
      const failed = page.failed + health.failed + save.failed
      expect(
        page.p95 <= PAGE_MS && failed === 0,
        `${CLIENTS} ${who ? 'paired devices' : 'clients'}, each a page every 2 s for 30 s, ${writers} changes a second: ${page.count} pages, half within ${ms(page.p50)}, 19 of 20 within ${ms(page.p95)}; ` +
          `health within ${ms(health.p95)}, longest silence ${ms(silenceMs)}${writers > 0 ? `; ${save.count} changes saved, within ${ms(save.p95)}` : ''}; ${failed} failed`,
      )
    }
    const looking = await liveTimes(ivent, devices, 100)
    expect(
      looking.p95 <= LIVE_MS && looking.untold === 0,
      `100 saves, ${CLIENTS} devices looking on: half told to all within ${ms(looking.p50)}, 19 of 20 within ${ms(looking.p95)}; ${looking.untold} not told`,
    )
    const crowd = { clients: CLIENTS, every: 2, writers: 4, seconds: 30, devices }
    const { page: watched } = await load(ivent, crowd)
    expect(
      watched.p95 <= PAGE_MS && watched.failed === 0,
      `the same devices asking for pages while they look on, 4 changes a second: 19 of 20 within ${ms(watched.p95)}; ${watched.failed} failed`,
    )
    const long = await longWork(ivent, 40, !postgres)
    expect(
      Math.max(long.export, long.backup) <= SILENCE_MS,
      `${long.photos} photographs: longest wait of others during export ${ms(long.export)}, import ${ms(long.import)}` +
        (postgres ? '' : `, backup ${ms(long.backup)}`),
    )
    const spoilt = await mutations(ivent, 12 * rounds)
    expect(
      spoilt.broken.length === 0,
      `${12 * rounds} spoilt files: ${spoilt.refused} refused in words, ${spoilt.taken} taken, ${spoilt.broken.length} broken; slowest ${ms(spoilt.slowestMs)}`,
    )
    for (const b of spoilt.broken.slice(0, 5)) console.log(`  ${b}`)
    const both = await conflicts(ivent, rounds)
    expect(both.lost === 0, `${both.rounds} conflicts: ${both.lost} sides lost`)
    const sent = await batches(ivent, rounds)
    expect(
      sent.lost === 0,
      `${sent.rounds} batches of two devices: ${sent.acknowledged} acknowledged, ${sent.lost} lost`,
    )
    const killed = await kills(ivent, Math.ceil(rounds / 2))
    expect(
      killed.lost === 0,
      `${Math.ceil(rounds / 2)} kills while saving: ${killed.acknowledged} acknowledged, ${killed.lost} lost`,
    )
    if (!postgres) {
      const put = await restores(ivent, Math.ceil(rounds / 20))
      expect(
        put.lost + put.untrue === 0,
        `${put.rounds} restores under load, three at once: ${put.acknowledged} saves acknowledged, ${put.refused} refused in words, ${put.lost} lost, ${put.untrue} answers untrue`,
      )
    }
    const starts = await firstStarts(make, Math.ceil(rounds / 20))
    expect(
      starts.bricked === 0,
      `${starts.rounds} kills during a first start: ${starts.bricked} databases did not open again`,
    )
    if (failures.length > 0) process.exitCode = 1
  } finally {
    for (const d of devices) d.end()
    await ivent.end()
    network.end()
  }
}

async function siege(rounds: number): Promise<void> {
  console.log('== Embedded')
  await besiege(rounds, undefined)
  console.log('== On a PostgreSQL server')
  const postgres = new TestPostgres()
  try {
    await postgres.start()
    await besiege(rounds, postgres)
  } finally {
    postgres.end()
  }
}

void siege(Number(process.argv[2] ?? 200))

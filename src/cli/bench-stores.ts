/** Part of ./ivent bench: the same requests to an Ivent with its own database and to one with a PostgreSQL server, turn by turn. */
import { Ivent } from '../../e2e/ivent'
import { TestPostgres } from '@/server/testing-postgres'

const ROUNDS = 60
const AT_ONCE = 8

const json = (body: unknown) => ({
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
})
const median = (times: readonly number[]) => times.toSorted((a, b) => a - b)[times.length >> 1]!

async function must(answer: Promise<Response>): Promise<string> {
  const { ok, status } = await answer
  const text = await (await answer).text()
  if (!ok) throw new Error(`${status} ${text}`)
  return text
}

/** What is asked of each, by its name. */
function requests(ivent: Ivent, build: string): Readonly<Record<string, () => Promise<unknown>>> {
  const at = `${ivent.url}/api/builds/${build}`
  const entry = () => ({
    id: crypto.randomUUID(),
    date: '2026-05-01',
    kind: 'checked',
    odometerKm: 1000,
    part: 'can',
  })
  const save = async () => {
    const { revision } = JSON.parse(await must(fetch(at))) as { revision: number }
    const edits = [{ op: 'set', path: ['about'], value: crypto.randomUUID() }]
    return must(
      fetch(`${at}/changes`, json({ base: revision, changes: [{ id: crypto.randomUUID(), name: 'x', edits }] })),
    )
  }
  return {
    'the garage’s page': () => must(fetch(ivent.url)),
    'a build read, changed and saved': save,
    'an entry added to the log': () => must(fetch(`${at}/log`, json(entry()))),
    [`${AT_ONCE} entries at once`]: () =>
      Promise.all(Array.from({ length: AT_ONCE }, () => must(fetch(`${at}/log`, json(entry()))))),
  }
}

async function benchStores(): Promise<void> {
  const postgres = new TestPostgres()
  const embedded = new Ivent()
  let onServer: Ivent | undefined
  try {
    await postgres.start()
    onServer = new Ivent({ DATABASE_URL: postgres.database('bench') })
    const asked = []
    for (const ivent of [embedded, onServer]) {
      if ((await ivent.start()) !== 'answers') throw new Error(ivent.output)
      asked.push(requests(ivent, (await ivent.builds())[0]!.id))
    }
    const [own, server] = asked as [ReturnType<typeof requests>, ReturnType<typeof requests>]
    console.log(`${'asked of both stores'.padEnd(40)} ${'embedded ms'.padStart(12)} ${'server x'.padStart(9)}`)
    for (const name of Object.keys(own)) {
      const times: readonly [number[], number[]] = [[], []]
      for (let round = 0; round < ROUNDS; round++)
        for (const [k, asks] of [own, server].entries()) {
          const start = performance.now()
          await asks[name]!()
          times[k]!.push(performance.now() - start)
        }
      const [first, second] = [median(times[0]), median(times[1])]
      console.log(`${name.padEnd(40)} ${first.toFixed(1).padStart(12)} ${(second / first).toFixed(2).padStart(9)}`)
    }
  } finally {
    await Promise.all([embedded.end(), onServer?.end()])
    postgres.end()
  }
}

void benchStores()

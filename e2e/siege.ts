/** What Ivent is put through: killed while it saves, written to by two at once, fed with spoilt files, asked by many. */
import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { uniforms } from '../src/core/random'
import type { Ivent } from './ivent'

const json = (body: unknown, method = 'POST') => ({
  method,
  headers: { 'content-type': 'application/json' },
  body: typeof body === 'string' ? body : JSON.stringify(body),
})
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))
const quantile = (sorted: readonly number[], q: number) =>
  sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))] ?? 0

type Log = { total: number; entries: { id: string }[]; next?: string }
/** Ids of all entries that a build's log has. */
export async function logIds(ivent: Ivent, build: string): Promise<Set<string>> {
  const ids = new Set<string>()
  for (let from = '0'; ;) {
    const page = (await (await fetch(`${ivent.url}/api/builds/${build}/log?limit=500&from=${from}`)).json()) as Log
    for (const e of page.entries) ids.add(e.id)
    if (page.next === undefined) return ids
    from = page.next
  }
}

/** How long it takes from a save until all devices that look on have been told, ms: half of the saves, 19 of 20. */
export async function liveTimes(
  ivent: Ivent,
  devices: readonly { readonly live: (changed: (build: string | undefined) => void) => void }[],
  rounds: number,
): Promise<{ p50: number; p95: number; untold: number }> {
  const [first] = await ivent.builds()
  const at = `${ivent.url}/api/builds/${first!.id}`
  const changesSeen = devices.map(() => 0)
  devices.forEach((d, k) => d.live((build) => (changesSeen[k]! += build === first!.id ? 1 : 0)))
  await pause(1000)
  let { revision } = (await (await fetch(at)).json()) as Head
  const times: number[] = []
  let untold = 0
  for (let round = 0; round < rounds; round++) {
    const before = [...changesSeen]
    const edits = [{ op: 'set', path: ['about'], value: `looked on ${round}` }]
    const begun = performance.now()
    const saved = await fetch(
      `${at}/changes`,
      json({ base: revision, changes: [{ id: crypto.randomUUID(), name: 'x', edits }] }),
    )
    revision = ((await saved.json()) as { revision: number }).revision
    const all = () => changesSeen.every((n, k) => n > before[k]!)
    while (!all() && performance.now() < begun + 5000) await pause(2)
    if (all()) times.push(performance.now() - begun)
    else untold++
    await pause(100)
  }
  const sorted = times.toSorted((a, b) => a - b)
  return { p50: quantile(sorted, 0.5), p95: quantile(sorted, 0.95), untold }
}

/** Kills the server while four write, starts it again and looks for everything that was acknowledged. */
export async function kills(ivent: Ivent, rounds: number): Promise<{ acknowledged: number; lost: number }> {
  const random = uniforms(1)
  const [first] = await ivent.builds()
  const build = first!.id
  const acknowledged = new Set<string>()
  let lost = 0
  for (let round = 0; round < rounds; round++) {
    const siege = new AbortController()
    const write = async (writer: number) => {
      for (let n = 0; !siege.signal.aborted; n++) {
        const id = `r${round}w${writer}n${n}`
        const entry = { id, date: '2026-05-01', kind: 'checked', odometerKm: 1000 + n, part: 'can' }
        const answer = await fetch(`${ivent.url}/api/builds/${build}/log`, json(entry)).catch(() => undefined)
        if (answer?.status === 201) acknowledged.add(id)
      }
    }
    const before = acknowledged.size
    const writers = [0, 1, 2, 3].map(write)
    // killed at any moment, but not before something was acknowledged, however slow the machine
    while (acknowledged.size < before + 2) await pause(20)
    await pause(800 * random())
    await ivent.stop('SIGKILL')
    siege.abort()
    await Promise.all(writers)
    if ((await ivent.start('start')) !== 'answers') throw new Error(`It did not start again:\n${ivent.output}`)
    const there = await logIds(ivent, build)
    lost += [...acknowledged].filter((id) => !there.has(id)).length
  }
  return { acknowledged: acknowledged.size, lost }
}

/** Kills a first start while its database is made, then starts again on the same; counts those that did not open. */
export async function firstStarts(make: () => Ivent, rounds: number): Promise<{ rounds: number; bricked: number }> {
  const random = uniforms(4)
  let bricked = 0
  for (let round = 0; round < rounds; round++) {
    const ivent = make()
    try {
      const first = ivent.start('start')
      await pause(900 + 2200 * random())
      await ivent.stop('SIGKILL')
      await first
      if ((await ivent.start('start')) !== 'answers') bricked++
    } finally {
      await ivent.end()
    }
  }
  return { rounds, bricked }
}

type Head = { revision: number; document: { name: string } }
/** Two devices change the same thing at once: one is saved, the other set aside, and both can be read. */
export async function conflicts(ivent: Ivent, rounds: number): Promise<{ rounds: number; lost: number }> {
  const [first] = await ivent.builds()
  const at = `${ivent.url}/api/builds/${first!.id}`
  let lost = 0
  for (let round = 0; round < rounds; round++) {
    const { revision } = (await (await fetch(at)).json()) as Head
    const changes = ['one', 'other'].map((who) => ({
      id: crypto.randomUUID(),
      name: `${who} ${round}`,
      edits: [{ op: 'set', path: ['about'], value: `${who} ${round}` }],
    }))
    const answers = await Promise.all(
      changes.map((c) => fetch(`${at}/changes`, json({ base: revision, changes: [c] }))),
    )
    const { revisions, setAside } = (await (await fetch(`${at}/revisions`)).json()) as {
      revisions: { note: string }[]
      setAside: { id: string }[]
    }
    for (const [i, c] of changes.entries()) {
      const saved = answers[i]!.status === 200 && revisions.some((r) => r.note === c.name)
      const aside = answers[i]!.status === 409 && setAside.some((s) => s.id === c.id)
      if (!saved && !aside) lost++
    }
    if (answers.filter((a) => a.status === 200).length !== 1) lost++
  }
  return { rounds, lost }
}

type Answer = { readonly status: 'saved' | 'clash' | 'refused'; readonly revision: number; readonly change: string }
const setBore = (line: string, boreMm: number) => ({
  op: 'set',
  path: ['variants', 'a', 'lines', line, 'boreMm'],
  value: boreMm,
})

/**
 * Two devices send batches of one to five changes to the same few hoses, some twice, some last first: whatever was acknowledged has a
 * revision of its own, whatever clashed is set aside, and what waits is all that is missing.
 */
export async function batches(
  ivent: Ivent,
  rounds: number,
): Promise<{ rounds: number; acknowledged: number; lost: number }> {
  const random = uniforms(5)
  const [first] = await ivent.builds()
  const at = `${ivent.url}/api/builds/${first!.id}`
  const { document } = (await (await fetch(at)).json()) as { document: { variants: { lines: { id: string }[] }[] } }
  const lines = document.variants[0]!.lines.slice(0, 4).map((l) => l.id)
  const acknowledged = new Set<string>()
  const aside = new Set<string>()
  const device = async (name: string) => {
    let { revision } = (await (await fetch(at)).json()) as Head
    for (let round = 0; round < rounds; round++) {
      const sent = Array.from({ length: 1 + Math.floor(5 * random()) }, (_, k) => {
        const id = crypto.randomUUID()
        const line = lines[Math.floor(lines.length * random())]!
        return { id, name: `${name} ${round}.${k} ${id}`, edits: [setBore(line, 8 + Math.floor(12 * random()))] }
      })
      if (random() < 0.3) sent.reverse()
      for (let time = random() < 0.3 ? 2 : 1; time > 0; time--) {
        const answer = (await (await fetch(`${at}/changes`, json({ base: revision, changes: sent }))).json()) as Answer
        const stop = answer.status === 'saved' ? sent.length : sent.findIndex((c) => c.id === answer.change)
        for (const c of sent.slice(0, stop)) acknowledged.add(c.name)
        if (answer.status === 'clash') aside.add(answer.change)
        if (time === 1) revision = answer.revision
      }
      // now and then it sees what the other did only later
      if (random() < 0.5) ({ revision } = (await (await fetch(at)).json()) as Head)
    }
  }
  await Promise.all([device('one'), device('other')])
  const list = (await (await fetch(`${at}/revisions`)).json()) as {
    revisions: { note: string }[]
    setAside: { id: string }[]
  }
  const [notes, kept] = [new Set(list.revisions.map((r) => r.note)), new Set(list.setAside.map((s) => s.id))]
  const missing = [...acknowledged].filter((name) => !notes.has(name)).length
  // the list of those set aside ends somewhere
  const dropped = list.setAside.length < 100 ? [...aside].filter((id) => !kept.has(id)).length : 0
  return { rounds: 2 * rounds, acknowledged: acknowledged.size, lost: missing + dropped }
}

/** A backup of now among those that Ivent keeps, as it makes them by itself a minute after it has started. */
async function backupOf(ivent: Ivent): Promise<string> {
  const name = `ivent-${new Date().toISOString().slice(0, 19).replaceAll(':', '-')}-daily.tgz`
  const archive = Buffer.from(await (await fetch(`${ivent.url}/api/backup`)).arrayBuffer())
  mkdirSync(join(ivent.folder, 'backups'), { recursive: true })
  writeFileSync(join(ivent.folder, 'backups', name), archive)
  return name
}

type BackupRow = { name: string; kind: string }
/** Backups put back, three at once, while others save: one is, the others are told, and no acknowledged save is in neither database. */
export async function restores(
  ivent: Ivent,
  rounds: number,
): Promise<{ rounds: number; acknowledged: number; refused: number; lost: number; untrue: number }> {
  let [acknowledged, refused, lost, untrue] = [0, 0, 0, 0]
  for (let round = 0; round < rounds; round++) {
    const [first] = await ivent.builds()
    const at = `${ivent.url}/api/builds/${first!.id}`
    const backups = async () => (await (await fetch(`${ivent.url}/api/backups`)).json()) as BackupRow[]
    const saved = new Set<string>()
    const over = new AbortController()
    const write = async (writer: number) => {
      for (let n = 0; !over.signal.aborted; n++) {
        const id = `restore${round}w${writer}n${n}`
        const entry = { id, date: '2026-05-01', kind: 'checked', odometerKm: 1000 + n, part: 'can' }
        const answer = await fetch(`${at}/log`, json(entry)).catch(() => undefined)
        if (answer?.status === 201) saved.add(id)
        else if (answer?.status === 503) {
          refused++
          await pause(20)
        } else if (answer?.status !== 200) untrue++
        await pause(10)
      }
    }
    const writers = [0, 1, 2].map(write)
    await pause(300)
    const backup = await backupOf(ivent)
    const put = () => fetch(`${ivent.url}/api/backups/${backup}`, json({ restore: true })).then((r) => r.status)
    const answers = await Promise.all([put(), put(), put()])
    await pause(300)
    over.abort()
    await Promise.all(writers)
    if (answers.toSorted((a, b) => a - b).join() !== '200,409,409') untrue++
    const now = await logIds(ivent, first!.id)
    const before = (await backups()).find((b) => b.kind === 'before-restore')
    await fetch(`${ivent.url}/api/backups/${before!.name}`, json({ restore: true }))
    const then = await logIds(ivent, first!.id)
    acknowledged += saved.size
    lost += [...saved].filter((id) => !now.has(id) && !then.has(id)).length
  }
  return { rounds, acknowledged, refused, lost, untrue }
}

/** A photograph as far as Ivent looks at it. */
function photo(bytes: number): object {
  const data = Buffer.concat([Buffer.from('ffd8ff', 'hex'), Buffer.alloc(bytes, crypto.randomUUID())])
  return { name: 'bay.jpg', type: 'image/jpeg', about: '', data: data.toString('base64') }
}

/**
 * The longest that anybody waited for an answer while a build with many photographs was exported, brought in again and, where Ivent makes
 * backups, backed up.
 */
export async function longWork(
  ivent: Ivent,
  photos: number,
  backups: boolean,
): Promise<Record<'photos' | 'export' | 'import' | 'backup', number>> {
  const [first] = await ivent.builds()
  const at = `${ivent.url}/api/builds/${first!.id}`
  let added = 0
  while (added < photos && (await fetch(`${at}/attachments`, json(photo(800_000)))).ok) added++
  const during = async (work: () => Promise<unknown>): Promise<number> => {
    const over = new AbortController()
    let longest = 0
    const watch = async () => {
      while (!over.signal.aborted) {
        const start = performance.now()
        await (await fetch(`${ivent.url}/api/health`)).arrayBuffer()
        longest = Math.max(longest, performance.now() - start)
        await pause(10)
      }
    }
    const watching = watch()
    await work()
    over.abort()
    await watching
    return longest
  }
  let file = ''
  const exported = await during(async () => {
    file = await (await fetch(`${at}/export`)).text()
  })
  const imported = await during(async () => {
    const answer = await fetch(`${ivent.url}/api/import`, json(file))
    if (answer.status !== 201) throw new Error(`what was exported was not taken: ${await answer.text()}`)
    const { id } = (await answer.json()) as { id: string }
    await fetch(`${ivent.url}/api/builds/${id}`, { method: 'DELETE' })
  })
  const backup = backups ? await during(async () => (await fetch(`${ivent.url}/api/backup`)).arrayBuffer()) : 0
  return { photos: added, export: exported, import: imported, backup }
}

const ODD: readonly unknown[] = [
  null,
  -1,
  1e300,
  '',
  'x'.repeat(5000),
  [],
  {},
  true,
  '2026-02-31',
  'a\u0001b',
  0.1,
  ['a', ['b']],
]
/** A document with one to three of its values made odd, taken away or repeated. */
function spoilt(doc: unknown, random: () => number): unknown {
  const copy = structuredClone(doc)
  for (let n = 0; n < 1 + Math.floor(3 * random()); n++) {
    let at = copy as Record<string, unknown>
    for (let depth = 0; depth < 8; depth++) {
      const keys = Object.keys(at)
      if (keys.length === 0) break
      const key = keys[Math.floor(random() * keys.length)]!
      const inside = at[key]
      if (inside !== null && typeof inside === 'object' && random() < 0.8) {
        at = inside as Record<string, unknown>
        continue
      }
      const builder = random()
      if (builder < 0.2) delete at[key]
      else if (builder < 0.4 && Array.isArray(at)) at.push(...Array.from({ length: 400 }, () => inside))
      else at[key] = ODD[Math.floor(random() * ODD.length)]
      break
    }
  }
  return copy
}

/** Spoilt files brought to every door that takes one: each is refused in words or taken, none breaks the server. */
export async function mutations(
  ivent: Ivent,
  count: number,
): Promise<{ refused: number; taken: number; broken: readonly string[]; slowestMs: number }> {
  const random = uniforms(2)
  const docs = await Promise.all(
    (await ivent.builds()).map(async (b) => (await fetch(`${ivent.url}/api/builds/${b.id}/export`)).json() as unknown),
  )
  const broken: string[] = []
  let [refused, taken, slowestMs] = [0, 0, 0]
  for (let n = 0; n < count; n++) {
    const doc = spoilt(docs[n % docs.length], random)
    const text = random() < 0.1 ? JSON.stringify(doc).slice(0, -1 - Math.floor(50 * random())) : JSON.stringify(doc)
    const start = performance.now()
    const answer = await fetch(`${ivent.url}/api/analyse`, json(text))
    const reply = (await answer.json().catch(() => ({}))) as { error?: string }
    slowestMs = Math.max(slowestMs, performance.now() - start)
    if (answer.status === 200) taken++
    else if (answer.status < 500 && (reply.error ?? '').length > 10) refused++
    else broken.push(`${n}: ${answer.status} ${reply.error ?? 'no reason'}`)
  }
  return { refused, taken, broken, slowestMs }
}

/** Milliseconds that half and all but one in twenty of the answers took. */
export type Times = { readonly count: number; readonly p50: number; readonly p95: number; readonly failed: number }
/** How a crowd asks: `clients` of them, each for a page every `every` seconds on average, while `writers` make a change a second each. */
export type Crowd = {
  /** who asks for the pages, where it is not the bench */
  readonly devices?: readonly ((path: string) => Promise<number | undefined>)[] | undefined
  readonly clients: number
  readonly every: number
  readonly writers: number
  readonly seconds: number
}
/**
 * An open loop: requests come when they come, whether those before them were answered or not, and a time counts from the moment at which it
 * was due. So a server that stands still is seen by all who would have come meanwhile.
 */
export async function load(
  ivent: Ivent,
  { clients, every, writers, seconds, devices }: Crowd,
): Promise<Record<'page' | 'health' | 'save', Times> & { readonly silenceMs: number }> {
  const random = uniforms(3)
  const ids = (await ivent.builds()).map((b) => b.id)
  const stations = ['engine', 'circuit', 'log', 'compare']
  const times = { page: [] as number[], health: [] as number[], save: [] as number[] }
  const failed = { page: 0, health: 0, save: 0 }
  const begin = performance.now()
  const until = begin + 1000 * seconds
  const answered: number[] = []
  const ask = async (kind: keyof typeof times, due: number, path: string, init?: RequestInit) => {
    const answer = await fetch(ivent.url + path, init).catch(() => undefined)
    await answer?.arrayBuffer().catch(() => undefined)
    note(kind, due, answer?.status)
  }
  const note = (kind: keyof typeof times, due: number, status: number | undefined) => {
    const now = performance.now()
    if (status === 200) {
      times[kind].push(now - due)
      answered.push(now)
    } else failed[kind]++
  }
  /** Does something at moments that come at random, `rate` a second on average. */
  const atRandom = async (rate: number, doIt: (due: number) => Promise<void>) => {
    const going: Promise<void>[] = []
    for (
      let due = begin - (1000 * Math.log(1 - random())) / rate;
      due < until;
      due -= (1000 * Math.log(1 - random())) / rate
    ) {
      await pause(Math.max(0, due - performance.now()))
      going.push(doIt(due))
    }
    await Promise.all(going)
  }
  const visit = (due: number) => {
    const id = ids[Math.floor(random() * ids.length)]
    const path = random() < 0.3 ? '/' : `/builds/${id}/${stations[Math.floor(random() * stations.length)]}`
    const device = devices?.[Math.floor(random() * devices.length)]
    return device ? device(path).then((status) => note('page', due, status)) : ask('page', due, path)
  }
  /** One that works on a build of its own. */
  const write = async (writer: number) => {
    const at = `/api/builds/${ids[writer % ids.length]}`
    let { revision } = (await (await fetch(ivent.url + at)).json()) as Head
    for (let n = 0; performance.now() < until; n++) {
      const due = performance.now()
      const edits = [{ op: 'set', path: ['about'], value: `changed ${n} times by ${writer}` }]
      const change = { id: crypto.randomUUID(), name: `change ${n}`, edits }
      await ask('save', due, `${at}/changes`, json({ base: revision, changes: [change] }))
      revision++
      await pause(Math.max(0, due + 1000 - performance.now()))
    }
  }
  await Promise.all([
    atRandom(clients / every, visit),
    atRandom(5, (due) => ask('health', due, '/api/health')),
    ...Array.from({ length: writers }, (_, w) => write(w)),
  ])
  const timesOf = (kind: keyof typeof times): Times => {
    const sorted = times[kind].toSorted((a, b) => a - b)
    return { count: sorted.length, p50: quantile(sorted, 0.5), p95: quantile(sorted, 0.95), failed: failed[kind] }
  }
  const moments = answered.toSorted((a, b) => a - b)
  const silenceMs = Math.max(0, ...moments.slice(1).map((t, i) => t - moments[i]!))
  return { page: timesOf('page'), health: timesOf('health'), save: timesOf('save'), silenceMs }
}

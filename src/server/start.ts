/** What a server does when it starts: opens the store, lays out demo data once, keeps backups, and stops cleanly. */
import { backupBeforeMigration, backupDaily, backupPath, listBackups } from './backups'
import { createBuild, listHeads, readBuild, removeArriving } from './builds'
import { demoBuilds } from './demo-builds'
import { demoRecordings } from './demo-recordings'
import { summariseStored } from './judge'
import { closeLanes } from './lane'
import { changed } from './changed'
import { followOthers } from './hear-others'
import { closeStore, dataFolder, openStore, otherIvents } from './store'
import { today } from './today'
import { folderTrouble, logged, troubleOf } from './trouble'

const HOUR = 3_600_000

const kept = globalThis as { iventStarted?: Promise<void> }
/** Once the database is open and its first builds are in it. */
export const started = (): Promise<void> => kept.iventStarted ?? Promise.resolve()

export function startServer(): void {
  kept.iventStarted = start()
}

async function start(): Promise<void> {
  const stop = (code: number) => {
    void Promise.allSettled([closeStore(), closeLanes()]).finally(() => process.exit(code))
  }
  process.once('SIGTERM', () => stop(0))
  process.once('SIGINT', () => stop(0))
  try {
    await openStore({ beforeMigration: backupBeforeMigration })
    const others = await otherIvents()
    // what another Ivent is bringing in is not this one's to take away
    if (!others) await removeArriving()
    followOthers(others)
    const layOut = async () => {
      if (process.env.IVENT_DEMO === '1' && (await listHeads()).length === 0)
        for (const build of demoBuilds(today())) await createBuild(build, 'demo data', demoRecordings(build))
    }
    await (others ? others.inTurn(layOut) : layOut())
    changed()
    // the garage is asked for first: what it shows is on its way before
    for (const head of await listHeads())
      void summariseStored(head, today(), async () => (await readBuild(head.id))?.document).catch(() => undefined)
  } catch (error) {
    const last = listBackups()[0]
    console.error(
      process.env.DATABASE_URL
        ? troubleOf(error).words
        : folderTrouble(error, dataFolder(), last && backupPath(last.name)),
    )
    process.exit(3)
  }
  // a server is backed up by its own tools
  if (process.env.DATABASE_URL) return
  const backup = () =>
    void backupDaily()
      .catch((error: unknown) => {
        console.error(`The daily backup could not be made: ${logged(error)}`)
      })
      // the garage lists them
      .finally(changed)
  setInterval(backup, HOUR).unref()
  // not while the first pages are asked for
  setTimeout(backup, 60_000).unref()
}

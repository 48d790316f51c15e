/** What a server does when it starts: opens the store, lays out demo data once, and stops cleanly. */
import { demoBuilds } from './demo-builds'
import { createBuild, listBuilds } from './builds'
import { FolderHeldError } from './lock'
import { closeStore, openStore } from './store'
import { today } from './today'

export async function startServer(): Promise<void> {
  const stop = (code: number) => {
    void closeStore().finally(() => process.exit(code))
  }
  process.once('SIGTERM', () => stop(0))
  process.once('SIGINT', () => stop(0))
  try {
    await openStore()
    if (process.env.IVENT_DEMO === '1' && (await listBuilds()).length === 0)
      for (const build of demoBuilds(today())) await createBuild(build, 'demo data')
  } catch (error) {
    // the lock is the one failure with a known cause; say it plainly and leave the data alone
    console.error(error instanceof FolderHeldError ? error.message : error)
    process.exit(error instanceof FolderHeldError ? 3 : 1)
  }
}

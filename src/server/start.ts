/** What a server does when it starts: opens the store, lays out demo data once, keeps backups, and stops cleanly. */
import { Server, type IncomingMessage, type ServerResponse } from 'node:http'
import { backupBeforeMigration, backupDaily, backupPath, listBackups } from './backups'
import { createBuild, listHeads } from './builds'
import { demoBuilds } from './demo-builds'
import { closeJudges } from './judge'
import { closeStore, dataFolder, openStore } from './store'
import { today } from './today'
import { folderTrouble, logged } from './trouble'

const HOUR = 3_600_000

/** Next's own request cannot be made of these methods and would answer nothing; they are refused before it sees them. */
const ODD_METHODS = ['TRACE', 'TRACK', 'CONNECT']
function refuseOddMethods(): void {
  const emit = Server.prototype.emit
  Server.prototype.emit = function (this: Server, event: string | symbol, ...args: unknown[]): boolean {
    const [request, response] = args as [IncomingMessage | undefined, ServerResponse | undefined]
    if (event !== 'request' || !response || !ODD_METHODS.includes(request?.method ?? ''))
      return emit.call(this, event, ...args)
    response.writeHead(405, { 'content-type': 'application/json', connection: 'close' })
    response.end(JSON.stringify({ error: `${request?.method} is not a thing to ask of Ivent.` }))
    return true
  }
}

export async function startServer(): Promise<void> {
  refuseOddMethods()
  const stop = (code: number) => {
    void Promise.allSettled([closeStore(), closeJudges()]).finally(() => process.exit(code))
  }
  process.once('SIGTERM', () => stop(0))
  process.once('SIGINT', () => stop(0))
  try {
    await openStore({ beforeMigration: backupBeforeMigration })
    if (process.env.IVENT_DEMO === '1' && (await listHeads()).length === 0)
      for (const build of demoBuilds(today())) await createBuild(build, 'demo data')
  } catch (error) {
    const last = listBackups()[0]
    console.error(folderTrouble(error, dataFolder(), last && backupPath(last.name)))
    process.exit(3)
  }
  const backup = () =>
    void backupDaily().catch((error: unknown) => {
      console.error(`The daily backup could not be made: ${logged(error)}`)
    })
  setInterval(backup, HOUR).unref()
  // not while the first pages are asked for
  setTimeout(backup, 60_000).unref()
}

/** What a server does when it starts: opens the store, lays out demo data once, keeps backups, and stops cleanly. */
import { Server, type IncomingMessage, type ServerResponse } from 'node:http'
import { backupBeforeMigration, backupDaily, backupPath, listBackups } from './backups'
import { createBuild, listHeads } from './builds'
import { demoBuilds } from './demo-builds'
import { closeJudges } from './judge'
import { answerKept, forgetPages } from './kept-pages'
import { closeStore, dataFolder, openStore } from './store'
import { today } from './today'
import { folderTrouble, logged } from './trouble'

const HOUR = 3_600_000

/** Next's own request cannot be made of these methods and would answer nothing; they are refused before it sees them. */
const ODD_METHODS = ['TRACE', 'TRACK', 'CONNECT']
/** A development server draws every page anew: its source may be another. */
const KEEPS_PAGES = process.env.NODE_ENV !== 'development'

/** Every request goes by here before Next sees it. */
function answer(request: IncomingMessage, response: ServerResponse, pass: () => void): void {
  if (ODD_METHODS.includes(request.method ?? '')) {
    response.writeHead(405, { 'content-type': 'application/json', connection: 'close' })
    response.end(JSON.stringify({ error: `${request.method} is not a thing to ask of Ivent.` }))
  } else if (KEEPS_PAGES) answerKept(request, response, pass)
  else pass()
}
function answerFirst(): void {
  const emit = Server.prototype.emit
  Server.prototype.emit = function (this: Server, event: string | symbol, ...args: unknown[]): boolean {
    const [request, response] = args as [IncomingMessage | undefined, ServerResponse | undefined]
    if (event !== 'request' || !request || !response) return emit.call(this, event, ...args)
    answer(request, response, () => emit.call(this, event, ...args))
    return true
  }
}

export async function startServer(): Promise<void> {
  answerFirst()
  const stop = (code: number) => {
    void Promise.allSettled([closeStore(), closeJudges()]).finally(() => process.exit(code))
  }
  process.once('SIGTERM', () => stop(0))
  process.once('SIGINT', () => stop(0))
  try {
    await openStore({ beforeMigration: backupBeforeMigration })
    if (process.env.IVENT_DEMO === '1' && (await listHeads()).length === 0)
      for (const build of demoBuilds(today())) await createBuild(build, 'demo data')
    forgetPages()
  } catch (error) {
    const last = listBackups()[0]
    console.error(folderTrouble(error, dataFolder(), last && backupPath(last.name)))
    process.exit(3)
  }
  const backup = () =>
    void backupDaily()
      .catch((error: unknown) => {
        console.error(`The daily backup could not be made: ${logged(error)}`)
      })
      // the garage lists them
      .finally(forgetPages)
  setInterval(backup, HOUR).unref()
  // not while the first pages are asked for
  setTimeout(backup, 60_000).unref()
}

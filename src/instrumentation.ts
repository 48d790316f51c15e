/** Next calls this once when a server starts, never during a build. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return
  const { startServer } = await import('./server/start')
  // not awaited: the database opens while the server gets ready; the first query waits for it
  startServer()
}

import { restoreBackup } from '@/server/backups'
import { answering, json, readJson, refuse } from '@/server/http'

/** POST { restore: true } puts a backup back; what is there now becomes a backup first. */
export const POST = answering(async (request: Request, { params }: { params: Promise<{ name: string }> }) => {
  const body = await readJson(request)
  if (!body.ok) return body.response
  if ((body.value as { restore?: unknown } | null)?.restore !== true) return refuse(400, 'Say { "restore": true }.')
  return json({ builds: await restoreBackup((await params).name) })
})

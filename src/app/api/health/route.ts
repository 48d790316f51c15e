import { answering, json } from '@/server/http'
import { started } from '@/server/start'
import { query } from '@/server/store'

export const dynamic = 'force-dynamic'

/** Answers when the database does. */
export const GET = answering(async () => {
  await started()
  await query('select 1 as ok')
  return json({ ok: true })
})

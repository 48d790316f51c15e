import { listHeads, readBuild } from '@/server/builds'
import { answering, refuse } from '@/server/http'
import { summariseStored } from '@/server/judge'
import { today } from '@/server/today'
import { calendarOf, dueOf } from '@/plan/service/calendar'

/** What is due across all builds, as an iCalendar file. */
export const GET = answering(async () => {
  const day = today()
  const found = await Promise.all(
    (await listHeads()).map((h) => summariseStored(h, day, async () => (await readBuild(h.id))?.document)),
  )
  const file = calendarOf(dueOf(found.flatMap((f) => (f?.ok ? [f.value] : []))))
  if (!file.ok) return refuse(404, file.reason)
  return new Response(file.value, {
    headers: {
      'content-type': 'text/calendar; charset=utf-8',
      'content-disposition': 'attachment; filename="ivent.ics"',
      'cache-control': 'no-store',
    },
  })
})

import { listBuilds } from '@/server/builds'
import { answering, refuse } from '@/server/http'
import { judgeWhole } from '@/server/judge'
import { today } from '@/server/today'
import { asOnCar } from '@/plan/document/fitted-plan'
import { calendarOf, dueOf } from '@/plan/studies/calendar'
import { summarise } from '@/plan/studies/summary'

/** What is due across all builds, as an iCalendar file: it waits for each, since one of what is known already would leave builds out. */
export const GET = answering(async () => {
  const day = today()
  const summaries = await Promise.all(
    (await listBuilds()).map(async (stored) => {
      const document = asOnCar(stored.document)
      const judged = await judgeWhole({ ...stored, document }, day)
      return judged.ok ? [summarise(document, judged.value)] : []
    }),
  )
  const file = calendarOf(dueOf(summaries.flat()), day)
  if (!file.ok) return refuse(404, file.reason)
  return new Response(file.value, {
    headers: {
      'content-type': 'text/calendar; charset=utf-8',
      'content-disposition': 'attachment; filename="ivent.ics"',
      'cache-control': 'no-store',
    },
  })
})

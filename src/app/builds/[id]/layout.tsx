import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { cache, type ReactNode } from 'react'
import { activeVariant } from '@/plan/edit/edit'
import { planName } from '@/plan/schools/schools'
import { Workspace } from '@/features/workspace/frame/workspace'
import { readBuild } from '@/server/builds'
import { judgeStored } from '@/server/judge'
import { today } from '@/server/today'
import { TroublePage } from '@/ui/trouble'
import { asResult } from '@/server/as-result'

type Props = { children: ReactNode; params: Promise<{ id: string }> }

/** One reading for title and page. */
const read = cache((id: string) => asResult(() => readBuild(id)))

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const found = await read((await params).id)
  if (!found.ok) return { title: 'Not to be read' }
  if (!found.value) return { title: 'No such build' }
  const { document } = found.value
  // a tab and the browser's history say where they lead
  const plan = planName(activeVariant(document), document.engine)
  return { title: { default: `${document.name} · Ivent`, template: `${document.name}: %s, ${plan} · Ivent` } }
}

export default async function BuildLayout({ children, params }: Props) {
  const { id } = await params
  const found = await read(id)
  if (!found.ok) return <TroublePage title="This build cannot be read" words={found.reason} />
  if (!found.value) notFound()
  const { document, revision } = found.value
  const judged = await judgeStored(found.value, today())
  if (!judged.ok)
    return (
      <TroublePage title={`${document.name} cannot be shown`} words={judged.reason} file={`/api/builds/${id}/export`} />
    )
  return (
    <Workspace id={id} build={document} analysis={judged.value} revision={revision} today={today()}>
      {children}
    </Workspace>
  )
}

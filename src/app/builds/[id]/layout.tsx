import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { cache, type ReactNode } from 'react'
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
  return { title: found.ok ? (found.value?.document.name ?? 'No such build') : 'Not to be read' }
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

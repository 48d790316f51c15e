import { notFound } from 'next/navigation'
import type { ReactNode } from 'react'
import { Workspace } from '@/features/workspace/frame/workspace'
import { readBuild } from '@/server/builds'
import { judgeStored } from '@/server/judge'
import { today } from '@/server/today'
import { TroublePage } from '@/ui/trouble'
import { asResult } from '@/server/as-result'

type Props = { children: ReactNode; params: Promise<{ id: string }> }

export default async function BuildLayout({ children, params }: Props) {
  const { id } = await params
  const found = await asResult(() => readBuild(id))
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

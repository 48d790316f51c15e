import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import type { ReactNode } from 'react'
import { Workspace } from '@/features/workspace/workspace'
import { readBuild } from '@/server/builds'
import { today } from '@/server/today'

type Props = { children: ReactNode; params: Promise<{ id: string }> }

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: (await readBuild((await params).id))?.document.name ?? 'No such build' }
}

export default async function BuildLayout({ children, params }: Props) {
  const found = await readBuild((await params).id)
  if (!found) notFound()
  return (
    <Workspace id={found.id} build={found.document} revision={found.revision} today={today()}>
      {children}
    </Workspace>
  )
}

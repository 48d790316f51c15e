/** Head and width of the practice pages. */
import Link from 'next/link'
import type { ReactNode } from 'react'
import { Brand } from '@/ui/brand'
import { ThemeButton } from '@/ui/theme'

export function PracticeFrame({ title, right, children }: { title: string; right?: ReactNode; children: ReactNode }) {
  return (
    <div className="mx-auto max-w-[76rem] px-4 pb-16">
      <header className="flex flex-wrap items-center gap-x-3 border-b-[1.5px] border-ink py-3">
        <Brand />
        <h1 className="text-base">{title}</h1>
        <span className="ml-auto flex items-baseline gap-4">
          {right}
          {title !== 'Practice' && (
            <Link href="/practice" prefetch={false} className="link-button no-print">
              All practice
            </Link>
          )}
          <ThemeButton />
        </span>
      </header>
      <main>{children}</main>
    </div>
  )
}

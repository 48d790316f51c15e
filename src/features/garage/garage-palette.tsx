'use client'
/** Every way out of the garage, the reference and the new build, by name: Ctrl+K. */
import dynamic from 'next/dynamic'
import { importWithRetry } from '@/ui/import-with-retry'
import type { Route } from 'next'
import { useRouter } from 'next/navigation'
import { useEffect, useState } from 'react'
import type { CommandAction } from '@/ui/commands'
import { toggleTheme } from '@/ui/theme'
import { isTypingIn } from '@/ui/typing'

const Commands = dynamic(() => importWithRetry(() => import('@/ui/commands').then((m) => m.Commands)), { ssr: false })

export function GaragePalette({
  builds = [],
  actions = [],
}: {
  builds?: readonly { readonly id: string; readonly name: string }[]
  /** what the page itself can do */
  actions?: readonly CommandAction[]
}) {
  const [open, setOpen] = useState(false)
  const router = useRouter()
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key === '?' && !isTypingIn(event.target)) router.push('/help')
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'k') return
      event.preventDefault()
      setOpen((o) => !o)
    }
    addEventListener('keydown', onKey)
    return () => removeEventListener('keydown', onKey)
  }, [router])
  if (!open) return null
  const go =
    <T extends string>(path: Route<T>) =>
    () =>
      router.push(path)
  return (
    <Commands
      onClose={() => setOpen(false)}
      groups={[
        { heading: 'Builds', actions: builds.map((b) => ({ name: b.name, run: go(`/builds/${b.id}`) })) },
        {
          heading: 'Pages',
          actions: [
            { name: 'Garage', run: go('/') },
            { name: 'New build', run: go('/new') },
            { name: 'Reference', run: go('/reference') },
            { name: 'Practice', other: 'lessons learn train hunt', run: go('/practice') },
            { name: 'Devices', other: 'phone tablet pair QR', run: go('/devices') },
            { name: 'Help', other: 'keys how', run: go('/help') },
            ...actions,
            { name: 'Day or night shift', run: toggleTheme },
          ],
        },
      ]}
    />
  )
}

import type { Metadata } from 'next'
import { GaragePalette } from '@/features/garage/garage-palette'
import { Help } from '@/features/help/help'

export const metadata: Metadata = { title: 'Help · Ivent' }

export default function HelpPage() {
  return (
    <>
      <Help />
      <GaragePalette />
    </>
  )
}

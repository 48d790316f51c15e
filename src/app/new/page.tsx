import type { Metadata } from 'next'
import { GaragePalette } from '@/features/garage/garage-palette'
import { NewBuild } from '@/features/new-build/new-build'

export const metadata: Metadata = { title: 'New build · Ivent' }

export default function NewPage() {
  return (
    <>
      <NewBuild />
      <GaragePalette />
    </>
  )
}

import type { Metadata } from 'next'
import { Devices } from '@/features/devices/devices'
import { GaragePalette } from '@/features/garage/garage-palette'

export const metadata: Metadata = { title: 'Devices · Ivent' }

export default function DevicesPage() {
  return (
    <>
      <Devices />
      <GaragePalette />
    </>
  )
}

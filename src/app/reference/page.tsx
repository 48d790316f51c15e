import type { Metadata } from 'next'
import { GaragePalette } from '@/features/garage/garage-palette'
import type { UnitChoice } from '@/core/units/units'
import { Reference } from '@/features/reference/reference'

export const metadata: Metadata = { title: 'Reference · Ivent' }

type Asked = { system?: string; pressure?: string }
const PRESSURES = ['kPa', 'inHg', 'inH2O', 'psi'] as const

/** In the units of the build that led here: `?system=imperial&pressure=inHg`. */
export default async function ReferencePage({ searchParams }: { searchParams: Promise<Asked> }) {
  const { system, pressure } = await searchParams
  const units: UnitChoice = {
    system: system === 'imperial' ? 'imperial' : 'metric',
    pressure: PRESSURES.find((p) => p === pressure) ?? 'kPa',
    flow: system === 'imperial' ? 'cfm' : 'l/min',
  }
  return (
    <>
      <Reference units={units} />
      <GaragePalette />
    </>
  )
}

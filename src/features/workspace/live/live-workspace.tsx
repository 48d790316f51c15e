'use client'
/** What ties the build that is open to other devices: what they change comes in, where they are is shown, where this window is is told. */
import { usePathname } from 'next/navigation'
import { useEffect } from 'react'
import { activeVariant } from '@/plan/edit/edit'
import { useOthers, useOwnPlace } from '../../live/live'
import { STATIONS } from '../frame/stations'
import { useLivePhotos } from '../photos/photos'
import { useWorkspace, useWorkspaceStore } from '../store'
import { useCatchUp } from './catch-up'

export function LiveWorkspace() {
  useCatchUp()
  useLivePhotos()
  useSayWhere()
  const store = useWorkspaceStore()
  const others = useOthers(useWorkspace((s) => s.id))
  useEffect(() => store.setState({ others }), [store, others])
  return null
}

const BESIDE = [
  { key: 'faults', name: 'Faults' },
  { key: 'proposals', name: 'Proposals' },
]

/** At which station this window is, and at which step, part or line. */
function useSayWhere(): void {
  const here = usePathname()
  const station = [...STATIONS, ...BESIDE].find((s) => here.endsWith(`/${s.key}`)) ?? {
    key: 'compare',
    name: 'Compare',
  }
  const build = useWorkspace((s) => s.id)
  const step = useWorkspace((s) => (station.key === 'fit' ? s.step : undefined))
  const selected = useWorkspace((s) => (station.key === 'fit' ? undefined : s.selected?.id))
  const chosen = useWorkspace((s) => {
    const variant = activeVariant(s.build)
    return [...variant.lines, ...variant.parts].find((x) => x.id === selected)?.name
  })
  const what = step ? `step ${step.number}` : chosen
  const says = what === undefined ? station.name : `${station.name}, ${what}`.slice(0, 120)
  useOwnPlace({ build, station: station.key, at: step?.key ?? selected, says })
}

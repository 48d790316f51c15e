'use client'
/** Every action by name: Ctrl+K. */
import type { Route } from 'next'
import { useRouter } from 'next/navigation'
import { actionsFor } from '@/plan/edit/actions'
import { describeEdits } from '@/plan/edit/describe'
import { activeVariant } from '@/plan/edit/edit'
import { STATE_NAMES } from '@/plan/document/words'
import { Commands, type ActionGroup } from '@/ui/commands'
import { toggleTheme } from '@/ui/theme'
import { useHistory, useSetUnits } from './header'
import { saveBay, saveCuts, saveJobCard, saveLog, saveShopping, saveWays } from './save-files'
import { STATIONS } from './stations'
import { useWorkspace } from '../store'

export function Palette({
  onClose,
  onRevisions,
  onPlans,
}: {
  onClose: () => void
  onRevisions: () => void
  onPlans: () => void
}) {
  const router = useRouter()
  const id = useWorkspace((s) => s.id)
  const build = useWorkspace((s) => s.build)
  const analysis = useWorkspace((s) => s.analysis)
  const fixes = useWorkspace((s) => s.fixes)
  const whatIf = useWorkspace((s) => s.whatIf)
  const { show, select, edit } = {
    show: useWorkspace((s) => s.show),
    select: useWorkspace((s) => s.select),
    edit: useWorkspace((s) => s.edit),
  }
  const history = useHistory()
  const setUnits = useSetUnits()
  const go = <T extends string>(path: Route<T>) => router.push(path)
  const variant = activeVariant(build)
  const changes = [
    ...variant.lines.map((l) => ({ kind: 'line' as const, id: l.id })),
    ...variant.parts.map((p) => ({ kind: 'part' as const, id: p.id })),
  ].flatMap((chosen) =>
    actionsFor(build, variant, chosen).map((a) => ({
      name: a.label,
      run: () => void edit(a.edits, a.label),
      changes: () => `${describeEdits(build, a.edits)}.`,
    })),
  )
  const groups: readonly ActionGroup[] = [
    {
      heading: 'Fixes',
      actions: whatIf
        ? []
        : fixes.verdicts.flatMap(({ fix }) =>
            fix && fixes.of === build
              ? [
                  {
                    name: fix.label,
                    run: () => void edit(fix.edits, fix.label),
                    changes: () => `${describeEdits(build, fix.edits)}.`,
                  },
                ]
              : [],
          ),
    },
    {
      heading: 'Stations',
      actions: [
        { name: 'Garage', run: () => go('/') },
        ...STATIONS.map((s) => ({ name: s.name, run: () => go(`/builds/${id}/${s.key}`) })),
      ],
    },
    {
      heading: 'States',
      actions: analysis.states.map((s) => ({ name: `Show ${STATE_NAMES[s.id].toLowerCase()}`, run: () => show(s.id) })),
    },
    {
      heading: 'Lines and parts',
      actions: [
        ...variant.lines
          .filter((l) => l.kind === 'hose')
          .map((l) => ({
            name: l.name,
            run: () => {
              select({ kind: 'line', id: l.id })
              go(`/builds/${id}/circuit`)
            },
          })),
        ...variant.parts.map((p) => ({
          name: p.name,
          run: () => {
            select({ kind: 'part', id: p.id })
            go(`/builds/${id}/circuit`)
          },
        })),
      ],
    },
    { heading: 'Change the circuit', actions: changes },
    {
      heading: 'Files',
      actions: [
        { name: 'Job card as PDF', other: 'print card', run: () => void saveJobCard(id, build, analysis) },
        { name: 'List to buy as CSV', run: () => void saveShopping(build) },
        { name: 'List to cut as CSV', run: () => void saveCuts(build) },
        { name: 'Log as CSV', run: () => void saveLog(build) },
        ...(build.bay
          ? [
              { name: 'Bay drawings as SVG', run: () => void saveBay(build, 'svg') },
              { name: 'Bay drawings as DXF', run: () => void saveBay(build, 'dxf') },
              { name: 'Points of the ways as CSV', run: () => void saveWays(build) },
            ]
          : []),
      ],
    },
    {
      heading: 'Build',
      actions: [
        ...(history.canUndo ? [{ name: 'Undo', run: history.undo }] : []),
        ...(history.canRedo ? [{ name: 'Redo', run: history.redo }] : []),
        { name: 'Plans: choose, add a school, copy', run: onPlans },
        {
          name: 'Find the fault',
          other: 'what is wrong smokes leaks squeals symptom complaint',
          run: () => go(`/builds/${id}/faults`),
        },
        {
          name: 'What should I build? Proposals',
          other: 'offers try suggest best plan',
          run: () => go(`/builds/${id}/proposals`),
        },
        { name: 'Compare plans', run: () => go(`/builds/${id}/compare`) },
        {
          name: 'Reference',
          run: () => go(`/reference?system=${build.units.system}&pressure=${build.units.pressure}`),
        },
        { name: 'Practice', other: 'lessons learn train hunt', run: () => go('/practice') },
        { name: 'Help', other: 'keys how', run: () => go('/help') },
        { name: 'Earlier versions', run: onRevisions },
        {
          name: 'Export as a file',
          run: () => {
            location.href = `/api/builds/${id}/export`
          },
        },
        { name: 'Print', other: 'paper', run: () => print() },
        {
          name: 'Metric units',
          run: () => {
            setUnits({ system: 'metric' })
          },
        },
        {
          name: 'Imperial units',
          run: () => {
            setUnits({ system: 'imperial' })
          },
        },
        ...(['kPa', 'inHg', 'inH2O', 'psi'] as const).map((p) => ({
          name: `Pressure in ${p}`,
          run: () => {
            setUnits({ pressure: p })
          },
        })),
        { name: 'Day or night shift', other: 'dark light theme', run: toggleTheme },
      ],
    },
  ]
  return <Commands groups={groups} onClose={onClose} />
}

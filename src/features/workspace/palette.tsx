'use client'
/** Every action by name: Ctrl+K. */
import { Command } from 'cmdk'
import { useRouter } from 'next/navigation'
import { actionsFor } from '@/plan/edit/actions'
import { activeVariant } from '@/plan/edit/edit'
import { STATE_NAMES } from '@/plan/explain/words'
import { toggleTheme } from '@/ui/theme'
import { useHistory, useSetUnits } from './header'
import { STATIONS } from './stations'
import { useWorkspace } from './store'

type Action = { readonly name: string; readonly run: () => void }

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
  const { show, select, edit } = {
    show: useWorkspace((s) => s.show),
    select: useWorkspace((s) => s.select),
    edit: useWorkspace((s) => s.edit),
  }
  const history = useHistory()
  const setUnits = useSetUnits()
  const go = (path: string) => router.push(path)
  const variant = activeVariant(build)
  const changes = [
    ...variant.lines.map((l) => ({ kind: 'line' as const, id: l.id })),
    ...variant.parts.map((p) => ({ kind: 'part' as const, id: p.id })),
  ].flatMap((chosen) =>
    actionsFor(build, variant, chosen).map((a) => ({ name: a.label, run: () => void edit(a.edits, a.label) })),
  )
  const groups: readonly { readonly heading: string; readonly actions: readonly Action[] }[] = [
    {
      heading: 'Fixes',
      actions: analysis.verdicts.flatMap((v) =>
        v.fix
          ? [
              {
                name: v.fix.label,
                run: () => {
                  edit(v.fix!.edits, v.fix!.label)
                },
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
      heading: 'Build',
      actions: [
        ...(history.canUndo ? [{ name: 'Undo', run: history.undo }] : []),
        ...(history.canRedo ? [{ name: 'Redo', run: history.redo }] : []),
        { name: 'Plans: choose, add a school, copy', run: onPlans },
        { name: 'Compare plans', run: () => go(`/builds/${id}/compare`) },
        {
          name: 'Reference',
          run: () => go(`/reference?system=${build.units.system}&pressure=${build.units.pressure}`),
        },
        { name: 'Earlier versions', run: onRevisions },
        {
          name: 'Export as a file',
          run: () => {
            location.href = `/api/builds/${id}/export`
          },
        },
        { name: 'Print', run: () => print() },
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
        { name: 'Day or night shift', run: toggleTheme },
      ],
    },
  ]
  return (
    <Command.Dialog
      open
      onOpenChange={(open) => {
        if (!open) onClose()
      }}
      label="All commands"
      overlayClassName="fixed inset-0 z-40 bg-black/40"
      contentClassName="menu fixed left-1/2 top-[12vh] z-50 w-[92vw] max-w-lg -translate-x-1/2 p-2"
    >
      <Command.Input placeholder="What do you want to do?" className="field text-base" />
      <Command.List className="mt-2 max-h-[55vh] overflow-y-auto">
        <Command.Empty className="p-3 text-soft">Nothing here has that name.</Command.Empty>
        {groups
          .filter((g) => g.actions.length > 0)
          .map((g) => (
            <Command.Group
              key={g.heading}
              heading={g.heading}
              className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-soft"
            >
              {g.actions.map((a, i) => (
                <Command.Item
                  key={`${a.name} ${i}`}
                  value={`${a.name} ${g.heading} ${i}`}
                  className="menu-item"
                  onSelect={() => {
                    onClose()
                    a.run()
                  }}
                >
                  {a.name}
                </Command.Item>
              ))}
            </Command.Group>
          ))}
      </Command.List>
    </Command.Dialog>
  )
}

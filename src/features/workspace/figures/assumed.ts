'use client'
/** Whether a figure of the open build is one that nobody entered. */
import type { Build } from '@/plan/document/schema'
import type { Path } from '@/plan/edit/edit'
import { assumedIn } from '@/plan/schools/assumed'
import { useWorkspace } from '../store'

/** Plans of schools are laid out once a build, however many fields ask. */
const known = new WeakMap<Build, (path: Path) => boolean>()
export function isAssumed(build: Build, path: Path): boolean {
  let asked = known.get(build)
  if (!asked) {
    asked = assumedIn(build)
    known.set(build, asked)
  }
  return asked(path)
}

/** Whether the figure at a path stands there as its school or class has it. */
export const useAssumed = (path: Path | undefined): boolean =>
  useWorkspace((s) => path !== undefined && isAssumed(s.build, path))

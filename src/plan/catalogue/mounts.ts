/** Kinds of thing that a can may hang on: how hard each may be tightened and what it carries (common practice, no source). */
import type { MOUNTS } from '../document/bounds'

export const MOUNT_FACTS: Readonly<
  Record<(typeof MOUNTS)[number], { readonly name: string; readonly bears: string; readonly carriesKg: number }>
> = {
  bolt: { name: 'bolt', bears: 'by the torque of its thread and class', carriesKg: 5 },
  stud: {
    name: 'stud',
    bears: 'a strut or engine stud keeps its own torque: a thin bracket under its nut, never a spacer',
    carriesKg: 5,
  },
  bracket: { name: 'sheet bracket', bears: 'snug with a locking nut; it shakes', carriesKg: 1 },
  shroud: { name: 'plastic shroud', bears: 'finger tight and a washer; for a hose, not a can', carriesKg: 0.2 },
  isolator: {
    name: 'rubber isolator',
    bears: 'until the rubber just bulges; lets the can move',
    carriesKg: 1,
  },
}

/** What is in a can, in a builder's words. */
import type { StageSpec } from '@/plan/document/schema'

export const STAGE_NAMES: Readonly<Record<StageSpec['type'], string>> = {
  impactor: 'jets on a wall',
  cyclone: 'cyclone',
  settling: 'settling',
  fibre: 'fibres',
}

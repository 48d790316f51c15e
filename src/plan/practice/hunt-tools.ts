/** Tools of a hunt: what each takes, and what it risks where it is taken hot or alone. Apart, since pages show it. */
export const TOOL_GROUPS = ['look', 'gauge', 'drive', 'can'] as const
export type ToolGroup = (typeof TOOL_GROUPS)[number]
/** What can be done to find the fault. */
export type HuntTool = {
  readonly id: string
  readonly group: ToolGroup
  readonly name: string
  readonly minutes: number
  readonly needs: string
  readonly caution: string
  /** what state the engine has to be in */
  readonly engine: 'warm' | 'cold' | 'any'
  readonly people: 1 | 2
}
/** A tool taken, and with what care. */
export type HuntStep = {
  readonly tool: string
  /** a hot engine was left to cool first */
  readonly cooled: boolean
  /** a second person drives or holds */
  readonly helped: boolean
}
/** Minutes: until a hot engine can be touched, until a cold one is warm, to fetch somebody. */
const [COOLING, WARMING, FETCHING] = [20, 5, 5]
/** What a step risks; undefined where it was taken with care. */
export function dangerOf(tool: HuntTool, step: HuntStep, isHot: boolean): string | undefined {
  if (tool.people === 2 && !step.helped) return `${tool.name}: read alone at the wheel. Somebody else drives.`
  if (tool.engine === 'cold' && isHot && !step.cooled)
    return `${tool.name}: taken hot. Hoses, covers and what is in them burn.`
  return undefined
}

/** Minutes that a tool takes, with cooling, warming and fetching. */
export const minutesOf = (
  tool: HuntTool,
  isHot: boolean,
  { cooled, helped }: Pick<HuntStep, 'cooled' | 'helped'>,
): number =>
  tool.minutes +
  (tool.engine === 'cold' && isHot && cooled ? COOLING : 0) +
  (tool.engine === 'warm' && !isHot ? WARMING : 0) +
  (tool.people === 2 && helped ? FETCHING : 0)

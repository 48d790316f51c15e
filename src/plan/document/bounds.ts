/** What a build's file is called and how much it may hold: known without the schema, which weighs a page down. */
export const FORMAT = 'ivent-build'
export const FORMAT_VERSION = 3
export const MAX_PARTS = 80
export const MAX_LINES = 120
export const MAX_LOG = 10_000
export const MAX_VARIANTS = 12
export const MAX_PORTS = 24
/** Labels of a build in the garage, and the longest of them. */
export const MAX_TAGS = 12
export const MAX_TAG_LETTERS = 30
export const MAX_BENDS = 30
export const MAX_STAGES = 6
export const MAX_POINTS = 40
export const MAX_MEASURED = 20
/** Longest texts of a log entry: what it names, and its note. */
export const LOG_NAME = 40
export const LOG_NOTE = 500
// eslint-disable-next-line no-control-regex
export const NUL = /\0/
export const ID = /^[\w-]+$/
/** Names that every JavaScript object answers to: as an id or a path they would reach what all objects share. */
const SHARED_NAMES: ReadonlySet<string> = new Set(Object.getOwnPropertyNames(Object.prototype))
/** Whether a name is one that every object has (`constructor`, `__proto__`), and so none for an entry. */
export const isSharedName = (name: unknown): boolean => typeof name === 'string' && SHARED_NAMES.has(name)
export const SEEN = ['overflowed', 'dry'] as const
/** What is burnt, each by the water that it makes. */
/** What building a plan may ask for that not every bench has, or not everybody will do. */
export const MEANS = ['drill', 'weld', 'coverOff', 'panOff', 'lift'] as const
export const FUELS = ['petrol', 'e85', 'ethanol', 'methanol'] as const
/** How the engine's maker lets fresh air in. */
export const FRESH_AIR = ['wide', 'metered', 'checked', 'regulator'] as const
export const LOG_KINDS = ['fitted', 'emptied', 'checked', 'oil-added', 'level', 'reading', 'session'] as const
/** Where the engine's oil stood on its dipstick. */
export const LEVELS = ['over', 'full', 'between', 'low', 'under'] as const
/** What came out looked like. */
export const LOOKS = ['oil', 'dark', 'milky', 'fuel'] as const
/** Ready climates (`catalogue/climates`). */
export const CLIMATES = ['mild-coast', 'cold-coast', 'inland', 'mountain', 'hot'] as const
/** What may stand in a measured bay. */
export const MAX_SPOTS = 200
export const MAX_KEEP_OUTS = 40
export const MAX_BONNET = 12
export const MAX_WAY = 20
/** What may be ticked, priced and looked at. */
export const MAX_TICKS = 600
export const MAX_CASES = 60
export const MAX_FINDINGS = 80
export const MAX_OWN = 60
/** Figures that stand as readings have them. */
export const MAX_LEARNED = 300
export const MAX_STOCK = 300
export const MAX_ENDS = 200
/** Which way a port points. */
export const POINTS = ['ahead', 'back', 'left', 'right', 'up', 'down'] as const
/** How the bracket of a can is bent, and whether a strap of its own goes round the can. */
export const BRACKET_SHAPES = ['flat', 'L', 'Z', 'U', 'between', 'ring'] as const
/** What a can may hang on. */
export const MOUNTS = ['bolt', 'stud', 'bracket', 'shroud', 'isolator'] as const
export const MAX_MOUNTS = 20
/** How a round body lies, if it does not stand. */
export const LIES = ['ahead', 'left'] as const
/** What a hose or can keeps clear of, by what it does to it. */
export const KEEP_OUTS = [
  'hot',
  'moving',
  'sharp',
  'electrical',
  'fuel',
  'brake',
  'steering',
  'service',
  'panel',
  'engine',
] as const

/** A recording that is kept with a build: Parquet, which is what the page makes of a logger's file. */
export const RECORDING_TYPE = 'application/vnd.apache.parquet'

/**
 * What is being changed and how often it has been, so that a page drawn once can be answered again until it is out of date. The server in
 * front and the application behind it are bundled apart and share this through `globalThis`.
 */

/** A build's id; undefined stands for all of them. */
type ChangeScope = string | undefined

type Changes = {
  /** rises with each change to anything */
  total: number
  /** rises with each change that may concern every build */
  all: number
  readonly builds: Map<string, { readonly times: number; readonly at: number }>
  readonly underWay: Set<{ readonly build: ChangeScope; readonly end: Promise<unknown> }>
  /** who is told of each change */
  readonly listeners: Set<(build: ChangeScope) => void>
}
const shared = globalThis as { iventChanges?: Changes }
const changes = (): Changes =>
  (shared.iventChanges ??= { total: 0, all: 0, builds: new Map(), underWay: new Set(), listeners: new Set() })

/** Pages that show this build are out of date from now on: what it is has not changed, but what is known of it has. */
export function worked(build: string): void {
  const now = changes()
  now.total++
  const { times = 0, at = -Infinity } = now.builds.get(build) ?? {}
  now.builds.set(build, { times: times + 1, at })
}

/** A build has changed, or any where none is named: pages that show it are out of date from now on. */
export function changed(build?: string): void {
  const now = changes()
  now.total++
  if (build === undefined) now.all++
  else now.builds.set(build, { times: (now.builds.get(build)?.times ?? 0) + 1, at: Date.now() })
  for (const listener of now.listeners) listener(build)
}

/** Is told of each change, with the build that it was to; of a change to any, with none. */
export function onChanged(listener: (build: ChangeScope) => void): void {
  changes().listeners.add(listener)
}

/** Does a change to a build, or to all; who asks for a page meanwhile waits for it. `did` says whether anything came of it. */
export async function changing<T>(build: ChangeScope, work: () => Promise<T>, did: (result: T) => boolean): Promise<T> {
  const doing = work()
  const entry = { build, end: doing.catch(() => undefined) }
  changes().underWay.add(entry)
  try {
    const result = await doing
    if (did(result)) changed(build)
    return result
  } finally {
    changes().underWay.delete(entry)
  }
}

/** The end of all changes under way that concern a build, or any; undefined where there are none. */
export function pendingChanges(build: ChangeScope): Promise<unknown> | undefined {
  const ends = [...changes().underWay].flatMap((c) =>
    build === undefined || c.build === undefined || c.build === build ? [c.end] : [],
  )
  return ends.length === 0 ? undefined : Promise.all(ends)
}

/** How the builds stand that a page shows: another value once one of them has changed. Of one build, or of all. */
export function versionOf(build: ChangeScope): string {
  const { total, all, builds } = changes()
  return build === undefined ? String(total) : `${all}.${builds.get(build)?.times ?? 0}`
}

/** Milliseconds since a build was last changed; infinite where it has not been since Ivent started. */
export const msSinceChange = (build: string): number => Date.now() - (changes().builds.get(build)?.at ?? -Infinity)

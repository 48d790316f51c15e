'use client'
/** What a build is called and found by. */
import { useId, useState } from 'react'
import { MAX_TAGS, MAX_TAG_LETTERS } from '@/plan/document/bounds'
import { Dialog } from '@/ui/dialog'
import { setFacts } from './change-build'
import { readTags } from './find-builds'
import type { ListedBuild } from './ticket'

export default function NameAndTags({
  b,
  known,
  onClose,
  onDone,
}: {
  b: ListedBuild
  /** tags that other builds have */
  known: readonly string[]
  onClose: () => void
  onDone: () => void
}) {
  const summary = 'pending' in b ? b.summary : undefined
  const [name, setName] = useState(b.name)
  const [about, setAbout] = useState(summary?.about ?? '')
  const [tags, setTags] = useState((summary?.tags ?? []).join(', '))
  const [problem, setProblem] = useState('')
  const id = useId()
  const read = readTags(tags)
  const save = async () => {
    if (name.trim() === '') return setProblem('A build needs a name.')
    if (read.length > MAX_TAGS) return setProblem(`At most ${MAX_TAGS} tags.`)
    const long = read.find((t) => t.length > MAX_TAG_LETTERS)
    if (long !== undefined) return setProblem(`A tag has at most ${MAX_TAG_LETTERS} letters: ${long}.`)
    const wrong = await setFacts(b, { name: name.trim(), about: about.trim(), tags: read }, 'Name and tags')
    if (wrong !== undefined) return setProblem(wrong)
    onDone()
  }
  const field = (label: string, value: string, set: (v: string) => void, most: number) => (
    <div>
      <label htmlFor={`${id} ${label}`} className="block text-xs text-soft">
        {label}
      </label>
      <input
        id={`${id} ${label}`}
        className="field min-h-11"
        autoComplete="off"
        maxLength={most}
        value={value}
        onChange={(e) => set(e.target.value)}
      />
    </div>
  )
  return (
    <Dialog open onClose={onClose} title={`Name and tags of ${b.name}`}>
      <form
        className="space-y-3"
        onSubmit={(e) => {
          e.preventDefault()
          void save()
        }}
      >
        {field('Name', name, setName, 80)}
        {field('Line under the name', about, setAbout, 200)}
        {field('Tags, with commas between', tags, setTags, MAX_TAGS * (MAX_TAG_LETTERS + 2))}
        {known.some((t) => !read.includes(t)) && (
          <p className="flex flex-wrap gap-x-3">
            <span className="text-soft">In use:</span>
            {known
              .filter((t) => !read.includes(t))
              .map((t) => (
                <button key={t} type="button" className="link-button" onClick={() => setTags([...read, t].join(', '))}>
                  #{t}
                </button>
              ))}
          </p>
        )}
        {problem && (
          <p role="alert" className="font-bold text-stop">
            {problem}
          </p>
        )}
        <button type="submit" className="button button-main">
          Save
        </button>
      </form>
    </Dialog>
  )
}

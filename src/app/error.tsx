'use client'

export default function ErrorPage({ reset }: { error: Error; reset: () => void }) {
  return (
    <main className="mx-auto max-w-xl px-6 py-20">
      <title>This page broke · Ivent</title>
      <h1 className="text-2xl">This page broke</h1>
      <p className="mt-3 text-soft">
        What was saved is safe in the data folder. Try again; if it breaks again, export the build from the garage and
        tell us what you did.
      </p>
      <button type="button" className="button button-main mt-6" onClick={reset}>
        Try again
      </button>
    </main>
  )
}

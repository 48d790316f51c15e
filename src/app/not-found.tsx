import Link from 'next/link'

export default function NotFound() {
  return (
    <main className="mx-auto max-w-xl px-6 py-20">
      <title>Nothing here · Ivent</title>
      <h1 className="text-2xl">There is nothing at this address</h1>
      <p className="mt-3 text-soft">The build may have been removed from the garage, or the address is mistyped.</p>
      <Link href="/" className="button button-main mt-6">
        To the garage
      </Link>
    </main>
  )
}

/** A page that cannot be shown: why, what was kept and what can be done. The server does not keep it for the next who asks. */
import Link from 'next/link'

export function TroublePage({ title, words, file }: { title: string; words: string; file?: string }) {
  return (
    <main data-unkept className="mx-auto max-w-xl px-6 py-20">
      <title>{`${title} · Ivent`}</title>
      <h1 className="text-2xl">{title}</h1>
      <p role="alert" className="mt-3">
        {words}
      </p>
      <p className="mt-6 flex flex-wrap gap-3">
        <Link href="/" className="button button-main">
          To the garage
        </Link>
        {file && (
          <a href={file} download className="button">
            Export the file
          </a>
        )}
      </p>
    </main>
  )
}

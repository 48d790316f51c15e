/** The mark and the name, at the head of every page but the garage: back to it. */
import Link from 'next/link'
import { Logo } from './marks'

export const Brand = () => (
  <Link
    href="/"
    className="flex min-h-11 items-center gap-2 text-lg font-bold text-blue"
    aria-label="Ivent, to the garage"
  >
    <Logo /> Ivent
  </Link>
)

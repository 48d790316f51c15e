import '@fontsource/b612/400.css'
import '@fontsource/b612/700.css'
import '@fontsource/b612/400-italic.css'
import './globals.css'
import type { Metadata, Viewport } from 'next'
import { headers } from 'next/headers'
import type { ReactNode } from 'react'
import { OfflineKeeper } from '@/offline/offline-keeper'
import { Live } from '@/ui/live'
import { THEME_SCRIPT } from '@/ui/theme'

export const metadata: Metadata = {
  description: 'Crankcase ventilation and catch cans, worked out before a hose is cut',
}
export const viewport: Viewport = {
  width: 'device-width',
  initialScale: 1,
  themeColor: [
    { media: '(prefers-color-scheme: light)', color: '#f4f0e4' },
    { media: '(prefers-color-scheme: dark)', color: '#12161c' },
  ],
}

export default async function RootLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get('x-nonce') ?? undefined
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        {/* before the first paint, so that night shift does not flash white */}
        <link rel="manifest" href="/manifest.webmanifest" crossOrigin="use-credentials" />
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: THEME_SCRIPT }} />
      </head>
      <body>
        <noscript>
          <p style={{ padding: '1rem', fontWeight: 700 }}>
            Ivent works out every state in this page itself: switch JavaScript on for it. Nothing leaves the workshop.
          </p>
        </noscript>
        <OfflineKeeper />
        <Live>{children}</Live>
      </body>
    </html>
  )
}

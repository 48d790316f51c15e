/** What a phone needs to keep Ivent beside its other programs. A route of its own, since the link to it has to bring the session along. */
const MANIFEST = {
  name: 'Ivent',
  short_name: 'Ivent',
  description: 'Crankcase ventilation and catch cans, worked out before a hose is cut',
  id: '/',
  start_url: '/',
  scope: '/',
  display: 'standalone',
  background_color: '#f4f0e4',
  theme_color: '#f4f0e4',
  icons: [192, 512].map((size) => ({
    src: `/icon-${size}.png`,
    sizes: `${size}x${size}`,
    type: 'image/png',
    purpose: 'any maskable',
  })),
}

export const GET = () => Response.json(MANIFEST, { headers: { 'content-type': 'application/manifest+json' } })

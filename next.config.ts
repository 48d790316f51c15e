import { networkInterfaces } from 'node:os'
import type { NextConfig } from 'next'

/** A development server tells its pages of changes; where the local network is served, those on it too. */
const lanAddresses = Object.values(networkInterfaces()).flatMap((all) => (all ?? []).map((x) => x.address))

const config: NextConfig = {
  allowedDevOrigins: process.env.IVENT_LAN === '1' ? [...lanAddresses, '*.local'] : [],
  // a link to a page that is not there does not compile
  typedRoutes: true,
  // types are a step of their own of ./ivent test; a first start need not wait for them
  typescript: { ignoreBuildErrors: true },
  serverExternalPackages: ['@electric-sql/pglite', 'piscina'],
  experimental: {
    optimizePackageImports: ['recharts', 'radix-ui', 'lucide-react', 'date-fns', 'd3-scale', 'd3-shape'],
  },
  poweredByHeader: false,
  // the server in front does it
  compress: false,
  reactStrictMode: true,
  devIndicators: false,
}
export default config

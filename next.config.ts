import type { NextConfig } from 'next'

const config: NextConfig = {
  // a link to a page that is not there does not compile
  typedRoutes: true,
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

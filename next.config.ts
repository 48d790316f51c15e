import type { NextConfig } from 'next'

const config: NextConfig = {
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

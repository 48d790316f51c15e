/** Ivent answers this machine alone: a page elsewhere must not reach it through the browser (DNS rebinding, cross-site requests). */
import { NextResponse, type NextRequest } from 'next/server'

const LOCAL = new Set(['127.0.0.1', 'localhost', '[::1]'])
const hostname = (host: string) => host.replace(/:\d+$/, '')

export function proxy(request: NextRequest): NextResponse {
  const host = request.headers.get('host') ?? ''
  const allowed = new Set([...LOCAL, ...(process.env.IVENT_HOSTS ?? '').split(',').filter(Boolean)])
  if (!allowed.has(hostname(host)))
    return NextResponse.json({ error: 'Ivent answers only this machine.' }, { status: 421 })
  const origin = request.headers.get('origin')
  if (request.method !== 'GET' && request.method !== 'HEAD' && origin !== null && origin !== `http://${host}`)
    return NextResponse.json({ error: 'A page elsewhere may not change anything here.' }, { status: 403 })
  return NextResponse.next()
}

export const config = { matcher: ['/((?!_next/).*)'] }

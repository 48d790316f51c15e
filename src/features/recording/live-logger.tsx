'use client'
/** The gauge of a logger that is connected; nothing where none is. */
import dynamic from 'next/dynamic'
import { importWithRetry } from '@/ui/import-with-retry'
import { useWorkspace } from '../workspace/store'
import { useLoggerRun, type LoggerRun } from './logger-run'

const LiveGauge = dynamic(() => importWithRetry(() => import('./live-gauge').then((m) => m.LiveGauge)), { ssr: false })

export function LiveLogger({ onOpen }: { onOpen?: (run: LoggerRun) => void }) {
  const run = useLoggerRun(useWorkspace((s) => s.id))
  return run ? <LiveGauge run={run} {...(onOpen ? { onOpen } : {})} /> : null
}

import { listBackups } from '@/server/backups'
import { answering, json } from '@/server/http'

export const dynamic = 'force-dynamic'

/** Backups that Ivent has made by itself, newest first. */
export const GET = answering(() => Promise.resolve(json(listBackups())))

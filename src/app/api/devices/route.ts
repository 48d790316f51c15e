import { listDevices, removeDevices } from '@/server/devices'
import { answering, json } from '@/server/http'
import { lan } from '@/server/lan'

export const dynamic = 'force-dynamic'

/** Devices that were let in, the last seen first, and where the local network reaches Ivent. From the bench alone. */
export const GET = answering(async () => json({ devices: await listDevices(), lan: lan() ?? null }))

/** Puts all devices out. */
export const DELETE = answering(async () => json({ out: await removeDevices() }))

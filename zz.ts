import { judgementChecks } from './verification/checks/judgement'
import { ENGINE_CLASSES } from '@/plan/catalogue/engines'
import { SCHOOLS } from '@/plan/schools/schools'
import { newBuild } from '@/plan/schools/new-build'
import { analyse } from '@/plan/analyse'
const t=Date.now()
for (const c of judgementChecks()) console.log(c.what, c.expected, c.got)
console.log(Date.now()-t)
const none: Record<string, number> = {}, all: Record<string, number> = {}; const list: string[]=[]
for (const amb of [-10, 10, 30]) for (const rings of ['normal','worn'] as const) for (const c of ENGINE_CLASSES) for (const s of SCHOOLS) {
  const b0 = newBuild({ name: 'x', engineClass: c.key, use: 'street', ambientC: amb, units: 'metric', school: s.key })
  const b = {...b0, engine: {...b0.engine, rings}}
  for (const v of analyse(b, '2026-06-01').verdicts) { if (v.severity==='ok') continue; const k=v.rule+(v.rule==='crankcase-pressure'?v.subject+v.severity:''); all[k]=(all[k]??0)+1; if(!v.fix) { none[k]=(none[k]??0)+1; if (k==='crankcase-pressurehighstop') list.push([amb,rings,c.key,s.key,v.title,v.why].join(' ')) } }
}
for (const k of Object.keys(all)) console.log(k, all[k], 'without fix', none[k]??0)
console.log(list.slice(0,25).join('\n'))

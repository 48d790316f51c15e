/** ./ivent analyse FILE: the analysis of a build file as JSON, the same as POST /api/analyse. */
import { finish } from '@/core/job'
import { reportOn } from '@/plan/analyse-over-cycle'
import { today } from '@/server/today'
import { endWith } from './command-line'
import { buildFromFile } from './read-build-file'

const file = process.argv[2]
if (!file) endWith('Say which build file: ./ivent analyse FILE', 2)
console.log(JSON.stringify(finish(reportOn(buildFromFile(file), today()))))

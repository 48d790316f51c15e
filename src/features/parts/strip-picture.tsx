'use client'
/** A line taken apart along its length: port, pieces, hose with its cut, pieces, port; each with its name and how it seals. */
import { formName, formOf } from '@/plan/catalogue/forms'
import { unitFormatter } from '@/plan/document/words'
import { clampFor, endText } from '@/plan/fit/lists'
import type { Strip, StripEnd } from '@/plan/fit/strips'
import { useUnits } from '../workspace/store'

const [W, H, MIDDLE, HOSE] = [840, 184, 56, 220]

type Cell = {
  readonly key: string
  readonly kind: 'port' | 'can' | 'piece' | 'clamp' | 'end' | 'bent' | 'hose'
  readonly name: string
  readonly small: string
  readonly width: number
}

function endCells(end: StripEnd, hoseMm: number): Cell[] {
  const form = formOf(end.form)
  const port: Cell = {
    key: 'port',
    kind: end.part.kind === 'can' || end.part.kind === 'tank' ? 'can' : 'port',
    name: end.part.name,
    small: form ? formName(form) : end.form,
    width: 92,
  }
  if (!end.chain.ok) return [port]
  const { pieces, hoseEnd } = end.chain.value
  const made: Cell[] = pieces.map((p) => ({
    key: p.key,
    kind: 'piece',
    name: p.name,
    small:
      p.sealing === 'O-ring'
        ? 'O-ring, oiled'
        : p.sealing === 'tape'
          ? 'PTFE tape'
          : p.sealing === 'press'
            ? 'till it clicks'
            : p.sealing,
    width: 104,
  }))
  const [low, high] = clampFor(hoseMm)
  const last: Cell[] =
    hoseEnd.kind === 'clamp'
      ? [{ key: 'clamp', kind: 'clamp', name: 'clamp', small: `${low}–${high} mm`, width: 72 }]
      : hoseEnd.kind === 'hose end'
        ? [
            {
              key: 'end',
              kind: end.turnDeg > 0 ? 'bent' : 'end',
              name: endText(end),
              small: 'dry cone, no tape',
              width: 96,
            },
          ]
        : []
  return [port, ...made, ...last]
}

/** Letters that stand under a piece of some width and clear of the next. */
const letters = (width: number) => Math.max(9, Math.floor(width / 6.7))

/** Words in lines no longer than so many letters, the rest cut with an ellipsis. */
function wrapped(text: string, letters: number, most: number): string[] {
  const lines: string[] = ['']
  for (const word of text.split(' ')) {
    const last = lines.at(-1)!
    if (last === '') lines[lines.length - 1] = word
    else if (last.length + 1 + word.length <= letters) lines[lines.length - 1] = `${last} ${word}`
    else lines.push(word)
  }
  return lines.length <= most ? lines : [...lines.slice(0, most - 1), `${lines[most - 1]!}…`]
}

export function StripPicture({ strip }: { strip: Strip }) {
  const units = useUnits()
  const { mm: tell } = unitFormatter(units)
  const hoseMm = strip.hose?.ok ? strip.hose.value.mm : strip.line.boreMm
  const first = endCells(strip.ends[0], hoseMm)
  const last = endCells(strip.ends[1], hoseMm).toReversed()
  const rest = [...first, ...last].reduce((sum, c) => sum + c.width, 0)
  // the hose is shown short, so that what is made at its ends has room
  const squeeze = Math.min(1.45, (W - HOSE) / rest)
  const hose: Cell = {
    key: 'hose',
    kind: 'hose',
    name: strip.kept ? 'the maker’s hose stays' : `cut ${tell(Math.round(strip.cutM * 1000))}`,
    small: strip.hose?.ok
      ? `${strip.hose.value.kind === 'rubber' ? 'oil-proof rubber' : 'braided'}, ${strip.hose.value.name}`
      : '',
    width: W - rest * squeeze,
  }
  const braided = strip.hose?.ok === true && strip.hose.value.kind === 'braided'
  const cells = [
    ...first.map((c) => ({ ...c, key: `a-${c.key}`, width: c.width * squeeze })),
    hose,
    ...last.map((c) => ({ ...c, key: `b-${c.key}`, width: c.width * squeeze })),
  ]
  const placed = cells.map((c, i) => ({ ...c, x: cells.slice(0, i).reduce((sum, d) => sum + d.width, 0) }))
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="w-full min-w-[44rem]"
      role="img"
      aria-label={`${strip.line.name}, from end to end: ${cells.map((c) => `${c.name} ${c.small}`.trim()).join('; ')}`}
    >
      <defs>
        <pattern id="braid" width="8" height="8" patternUnits="userSpaceOnUse">
          <path d="M0 0L8 8M8 0L0 8" stroke="var(--ink)" strokeWidth="0.7" opacity="0.55" />
        </pattern>
      </defs>
      <path d={`M20 ${MIDDLE}H${W - 20}`} stroke="var(--rule-strong)" strokeDasharray="2 4" />
      {placed.map((c) => (
        <g key={c.key} transform={`translate(${c.x} 0)`}>
          <Shape cell={c} braided={braided} turned={c.key.startsWith('b-')} />
          {c.kind !== 'hose' && (
            <text y={112} fontSize="11.5" fill="var(--soft)">
              {wrapped(c.name, letters(c.width), 4).map((line, i) => (
                <tspan key={line} x="4" dy={i === 0 ? 0 : 13}>
                  {line}
                </tspan>
              ))}
              {wrapped(c.small, letters(c.width), 2).map((line) => (
                <tspan key={line} x="4" dy="14" fill="var(--ink)">
                  {line}
                </tspan>
              ))}
            </text>
          )}
          {c.kind === 'hose' && (
            <>
              <text
                x={c.width / 2}
                y={MIDDLE - 22}
                textAnchor="middle"
                fontSize="13.5"
                fontWeight="700"
                fill="var(--ink)"
              >
                {c.name}
              </text>
              <text x={c.width / 2} y={MIDDLE + 30} textAnchor="middle" fontSize="11.5" fill="var(--soft)">
                {c.small}
              </text>
            </>
          )}
        </g>
      ))}
    </svg>
  )
}

/** Each kind of piece by its own outline: told apart without colour. */
function Shape({ cell: { kind, width: w }, braided, turned }: { cell: Cell; braided: boolean; turned: boolean }) {
  const y = MIDDLE
  const box = { fill: 'var(--sheet)', stroke: 'var(--ink)', strokeWidth: 1.5 }
  const flip = turned ? `translate(${w} 0) scale(-1 1)` : undefined
  if (kind === 'hose')
    return (
      <>
        <rect
          x="6"
          y={y - 12}
          width={w - 12}
          height="24"
          fill="var(--oil-clean)"
          stroke="var(--ink)"
          strokeWidth="1.5"
        />
        {braided && <rect x="6" y={y - 12} width={w - 12} height="24" fill="url(#braid)" />}
        <path d={`M${w / 2 - 5} ${y + 16}l6 -32M${w / 2 + 1} ${y + 16}l6 -32`} stroke="var(--paper)" strokeWidth="4" />
      </>
    )
  return (
    <g transform={flip} {...box}>
      {kind === 'port' && (
        <>
          <rect x="6" y={y - 30} width={w * 0.5} height="60" rx="2" fill="var(--well)" />
          <rect x={6 + w * 0.5} y={y - 12} width="16" height="24" />
        </>
      )}
      {kind === 'can' && (
        <>
          <rect x="10" y={y - 44} width={w * 0.5} height="80" rx="5" />
          <rect x="11.5" y={y + 18} width={w * 0.5 - 3} height="16" rx="3" fill="var(--oil-laden)" stroke="none" />
          <rect x={10 + w * 0.5} y={y - 12} width="12" height="24" />
        </>
      )}
      {kind === 'piece' && (
        <>
          <rect x="12" y={y - 9} width={w * 0.24} height="18" />
          <path d={`M${12 + w * 0.24} ${y - 16}h${w * 0.2}v32h${-w * 0.2}z`} />
          <path
            d={`M${12 + w * 0.44} ${y - 10}h${w * 0.3}v20h${-w * 0.3}M${12 + w * 0.54} ${y - 10}v20M${12 + w * 0.64} ${y - 10}v20`}
          />
        </>
      )}
      {kind === 'clamp' && (
        <>
          <rect x={w / 2 - 9} y={y - 17} width="18" height="34" />
          <path d={`M${w / 2 - 9} ${y - 8}h18M${w / 2 - 9} ${y + 8}h18`} />
          <rect x={w / 2 - 7} y={y - 25} width="14" height="8" />
        </>
      )}
      {kind === 'end' && (
        <>
          <path d={`M8 ${y - 15}h22v30h-22z`} />
          <path d={`M30 ${y - 10}h${w - 66}v20h${-(w - 66)}z`} />
          <path d={`M${w - 36} ${y - 14}h24v28h-24z`} />
        </>
      )}
      {kind === 'bent' && (
        <>
          <path d={`M8 ${y - 44}h26v12h-26z`} />
          <path d={`M13 ${y - 32}v18q0 24 24 24h${w - 75}v-20h${-(w - 75)}q-8 0 -8 -8v-14z`} />
          <path d={`M${w - 38} ${y - 14}h24v28h-24z`} />
        </>
      )}
    </g>
  )
}

/** How many seconds each unit is; a plain number is minutes. */
const unitS: Record<string, number> = { d: 86400, h: 3600, min: 60, m: 60, s: 1, sec: 1 }

/**
 * A time as people write it, in seconds: 1h50, 1:50, 1:50:30, 1 h 50 min, 110 min, 95 s; a plain number is minutes.
 * Null for nothing; what is no time stays as it was typed, and the server's answer names the field.
 */
export function seconds(typed: string | undefined): number {
  const text = (typed ?? '').trim().toLowerCase().replaceAll(',', '.')
  if (text === '') return null as unknown as number
  const read = clock(text) ?? units(text)
  return read === undefined ? ((typed ?? '') as unknown as number) : read
}

/** h:mm or h:mm:ss. */
function clock(text: string): number | undefined {
  const m = /^(\d{1,4}):([0-5]\d)(?::([0-5]\d(?:\.\d+)?))?$/.exec(text)
  return m ? Number(m[1]) * 3600 + Number(m[2]) * 60 + Number(m[3] ?? 0) : undefined
}

/** Numbers with units, the largest first; one without a unit at the end is of the next smaller one. */
function units(text: string): number | undefined {
  let sum = 0
  let last = ''
  let rest = text
  while (rest !== '') {
    const m = /^(\d+(?:\.\d+)?)\s*(d|h|min|m|sec|s)?\s*/.exec(rest)
    if (!m) return undefined
    const next = { '': 'min', d: 'h', h: 'min', min: 's', m: 's' }[last]
    const unit = m[2] ?? next
    if (!unit || (last !== '' && unitS[unit]! >= unitS[last]!)) return undefined
    sum += Number(m[1]) * unitS[unit]!
    last = unit
    rest = rest.slice(m[0].length)
  }
  return Math.round(sum * 1000) / 1000
}

/** A time as the text of a field, to the last fraction: what was not touched is sent back as it came. */
export function spelled(s: number | null | undefined): string {
  if (s === null || s === undefined) return ''
  const [h, min] = [Math.floor(s / 3600), Math.floor((s % 3600) / 60)]
  const left = Math.round((s % 60) * 1000) / 1000
  const parts = [
    h > 0 && `${h} h`,
    (min > 0 || (h > 0 && left > 0)) && `${min} min`,
    (left > 0 || s < 60) && `${left} s`,
  ]
  return parts.filter(Boolean).join(' ')
}

/** How a time that is being typed is understood, or how to write one. */
export function understood(typed: string | undefined): string {
  const s = seconds(typed) as number | string | null
  if (s === null) return '1h50, 3 min or 180 s'
  return typeof s === 'number' ? `reads as ${spelled(s)}` : 'write it as 1h50, 3 min or 180 s'
}

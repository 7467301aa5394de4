/** Presentation only: how a number of the core reads on a page. */

export function figure(v: number | null | undefined, digits = 3): string {
  if (v === null || v === undefined) return '–'
  // Differences of equal numbers leave binary dust; it is no figure.
  const plain = Math.abs(v) < 1e-9 ? 0 : Number(v.toPrecision(digits))
  const size = Math.abs(plain)
  const text =
    size >= 1e6
      ? grouped(plain)
      : plain !== 0 && size < 1e-4
        ? plain.toFixed(decimals(size, digits)).replace(/0+$/, '')
        : String(plain)
  return text.replace('-', '−')
}

/** How many decimals a number below 1 needs for so many figures. */
const decimals = (size: number, digits: number) => Math.min(12, digits - 1 - Math.floor(Math.log10(size)))

/** Whole numbers in groups of three. */
export const grouped = (v: number) => v.toLocaleString('en').replaceAll(',', ' ')

export function duration(s: number | null | undefined): string {
  if (s === null || s === undefined) return '–'
  if (s < 60) return `${figure(s, 3)} s`
  const whole = Math.round(s)
  if (whole < 600 && whole % 60 !== 0) return `${Math.floor(whole / 60)} min ${String(whole % 60).padStart(2, '0')} s`
  const minutes = Math.round(s / 60)
  return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')} min`
}

export const percent = (share: number | null | undefined) =>
  share === null || share === undefined ? '–' : `${figure(100 * share)} %`

/** Millimetres shown as signed micrometres. */
export function micrometres(mm: number): string {
  const um = Math.round(Math.abs(1000 * mm))
  return `${um === 0 ? '' : mm > 0 ? '+' : '−'}${um} µm`
}

/** Instants that a calendar can show: an older record may hold others. */
const onCalendar = (ms: number) => ms >= 0 && ms < 4_102_444_800_000

export const moment = (ms: number) =>
  onCalendar(ms)
    ? new Date(ms).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })
    : 'at no time that can be shown'

export const day = (ms: number) =>
  onCalendar(ms) ? new Date(ms).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' }) : 'no day'

/** An instant as the value of a datetime-local input, in the reader's own zone; empty where there is none to show. */
export function localInput(ms: number): string {
  if (!onCalendar(ms)) return ''
  const d = new Date(ms)
  return new Date(ms - d.getTimezoneOffset() * 60000).toISOString().slice(0, 16)
}

export const words = (code: string) => code.replaceAll('_', ' ')

/** A caliper reading as it was taken: at least two decimals, no digit dropped. */
export const reading = (mm: number | null | undefined) =>
  mm === null || mm === undefined ? '–' : Number(mm.toFixed(2)) === mm ? mm.toFixed(2) : String(mm)

/** Names in a row: a, b and c. */
export const listed = (names: string[]) =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`

/** What a model of time is called on a page. */
export const modelWords = (model: string | undefined) =>
  ({
    'timing/masked': 'by layers, light and moves',
    'timing/laser': 'by area, outline and layers',
    learned: 'learned from prints',
    none: 'settings are sealed',
  })[model ?? 'none'] ?? ''

/** A count with its noun: 1 print, 2 prints. */
export const counted = (n: number, one: string, many = `${one}s`) => `${grouped(n)} ${n === 1 ? one : many}`

/** A time in hours. */
export const hours = (h: number | null | undefined) => duration(h == null ? h : 3600 * h)

const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']

/** An hour since a Monday at midnight: Tue 14:05, or Tue 14:05 of week 2. */
export function weekHour(h: number | null | undefined): string {
  if (h === null || h === undefined) return '–'
  const minutes = Math.round(h * 60)
  const [days, rest] = [Math.floor(minutes / 1440), minutes % 1440]
  const clock = `${String(Math.floor(rest / 60)).padStart(2, '0')}:${String(rest % 60).padStart(2, '0')}`
  const week = Math.floor(days / 7) + 1
  return `${weekdays[days % 7]} ${clock}${week > 1 ? ` of week ${week}` : ''}`
}

/** A figure and its unit; degrees of an angle stand close, as a sign. */
export const inUnit = (value: string, unit: string) => (unit === '°' ? value + unit : `${value} ${unit}`)

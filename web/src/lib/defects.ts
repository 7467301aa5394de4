import type { Schemas } from './api'

type Defect = Schemas['Defect']

/** Where a defect comes from, to whom it is laid and how bad it is, in words. */
export const origins: Record<Defect['origin'], string> = {
  printed: 'printed so',
  removal: 'plate removal',
  wash: 'wash',
  supports: 'support removal',
  handling: 'handling',
  unknown: 'unknown',
}
export const faults: Record<Defect['fault'], string> = {
  none: 'nobody',
  machine: 'machine',
  resin: 'resin',
  file: 'file',
  operator: 'operator',
  surroundings: 'surroundings',
  unknown: 'unknown',
}
export const severities = {
  '': 'not said',
  slight: 'slight: seen when looked for',
  plain: "plain: seen at arm's length",
  grave: 'grave: spoils the piece',
}

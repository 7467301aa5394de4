import { choices, valuesOf, type Kind } from './choices'

type Instrument = Kind<'Instrument', 'kind'>

export const instrumentKinds = choices<Instrument>({
  caliper: 'caliper',
  micrometer: 'micrometer',
  optical_scale: 'optical scale',
  balance: 'balance',
  hygrometer: 'hygrometer',
  light_meter: 'light meter',
})

/** Those that measure lengths have a resolution in mm, and sizes are read with them. */
const lengths: string[] = valuesOf<Exclude<Instrument, 'balance' | 'hygrometer' | 'light_meter'>>({
  caliper: true,
  micrometer: true,
  optical_scale: true,
})
export const measuresLengths = (kind?: string) => lengths.includes(kind ?? '')

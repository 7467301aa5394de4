import type { Schemas } from './api'
import { choices, type Kind } from './choices'
import { figure, words } from './format'

/** From where something is looked at. */
export const stations = choices<Kind<'Sitting', 'station'>>({
  in_hand: 'in hand, about 30 cm',
  arms_length: "at arm's length, about 60 cm",
  table: 'on the table, about 1 m',
  loupe: 'under a loupe',
})

/** The stages that a surface goes through. */
export const stages = choices<Kind<'Sitting', 'stage'>>({
  raw: 'raw',
  washed: 'washed',
  cured: 'cured',
  varnished: 'varnished',
  primed: 'primed',
  painted: 'painted',
})

type View = Pick<Schemas['Photograph'], 'station' | 'magnification' | 'stage' | 'light'>

/** From where, in which stage and under which light. */
export const viewWords = (v: View) =>
  `${words(v.station)}${v.magnification == null ? '' : ` of ${figure(v.magnification)} ×`}, ${v.stage}, under ${v.light}`

/** Where a file of a photograph is. */
export const photoFile = (id: string | undefined, size: 'large' | 'small' | 'original') =>
  `/api/v1/photographs/${id}/files/${size}`

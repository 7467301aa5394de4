import type { Schemas } from './api'
import { figure } from './format'

/** What a room has, in words; empty where nothing is known. */
export const airWords = (a: Schemas['MachineAir'] | Schemas['Workroom']) =>
  [
    a.room_temp_c != null && `${figure(a.room_temp_c)} °C`,
    a.humidity_pct != null && `humidity ${figure(a.humidity_pct)} %`,
    a.heater_on != null && `heater ${a.heater_on ? 'on' : 'off'}`,
  ]
    .filter(Boolean)
    .join(', ')

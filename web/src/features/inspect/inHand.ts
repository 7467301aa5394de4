import { answer, api, type RunSheet, type Schemas } from '../../lib/api'

type Reading = Schemas['Reading']

/** What was read, as it is on record after a change of it: of a copy of a reference by its number. */
export interface Read {
  readings: Reading[]
}

/** The readings of a feature of a copy that count, in their order. */
export const readOf = (of: Read, specimenID?: string, featureID?: string) =>
  of.readings.filter((r) => r.specimen_id === specimenID && r.feature_id === featureID && r.value_mm != null)

/** What is being read, a print or a reference, and how a reading of it is kept and taken back. */
export interface InHand {
  id: string
  pieces: Schemas['Piece'][]
  features: Schemas['Feature'][]
  specimens: Schemas['Specimen'][]
  readings: Reading[]
  corrected: Reading[]
  doubtful: string[]
  dimensions: RunSheet['dimensions']
  ladders: RunSheet['ladders']
  ratings: Schemas['Rated'][]
  rerated: Schemas['Rated'][]
  photographs: Schemas['Pictured'][]
  stressed: Schemas['Stressed'][]
  stages: Schemas['SpecimenStage'][]
  reached: string[]
  rework_min: (number | null)[]
  later: string[]
  corrections: string[]
  forms: Schemas['Form'][]
  form_readings: Schemas['FormReading'][]
  form_words: string[]
  fit_matrices: Schemas['FitMatrix'][]
  set_aside: string[]
  keep: (readings: Reading[], confirmed: boolean) => Promise<Read>
  takeBack: (readingID: string, why: string) => Promise<unknown>
  /** What its readings are called where one is put back. */
  reading: 'reading' | 'reference_reading'
}

/** The copies of a print. */
export function ofPrint(s: RunSheet): InHand {
  const id = s.run.id ?? ''
  return {
    ...s,
    id,
    reading: 'reading',
    keep: (readings, confirmed) =>
      answer(api.POST('/api/v1/runs/{id}/readings', { params: { path: { id } }, body: { readings, confirmed } })),
    takeBack: (reading_id, why) =>
      answer(
        api.POST('/api/v1/runs/{id}/readings/{reading_id}/taking-back', {
          params: { path: { id, reading_id } },
          body: { why },
        }),
      ),
  }
}

/** The copies of a reference, read as specimens are. */
export function ofReference(s: Schemas['ReferenceSheet']): InHand {
  const id = s.reference.id ?? ''
  return {
    ...s,
    id,
    reading: 'reference_reading',
    pieces: [s.piece],
    set_aside: [],
    stressed: [],
    stages: [],
    reached: [],
    rework_min: [],
    later: [],
    corrections: [],
    forms: [],
    form_readings: [],
    form_words: [],
    fit_matrices: [],
    keep: (readings, confirmed) =>
      answer(
        api.POST('/api/v1/references/{id}/readings', {
          params: { path: { id } },
          body: {
            confirmed,
            readings: readings.map(({ specimen_id, ...r }) => ({
              ...r,
              copy: s.specimens.find((p) => p.id === specimen_id)?.copy ?? 0,
            })),
          },
        }),
      ),
    takeBack: (reading_id, why) =>
      answer(
        api.POST('/api/v1/references/{id}/readings/{reading_id}/taking-back', {
          params: { path: { id, reading_id } },
          body: { why },
        }),
      ),
  }
}

/** The defects of a copy that were not taken back. */
export const standingDefects = (specimen: Schemas['Specimen']) =>
  (specimen.defects ?? []).filter((d) => d.taken_back_ms == null)

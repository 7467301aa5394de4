-- name: SaveInstrument :exec
INSERT INTO instrument (
  id, code, version, created_ms, name, resolution_mm, reference_u_mm, kind
) VALUES (?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  code = excluded.code,
  version = excluded.version,
  name = excluded.name,
  kind = excluded.kind,
  resolution_mm = excluded.resolution_mm,
  reference_u_mm = excluded.reference_u_mm;

-- name: InstrumentByID :one
SELECT * FROM instrument WHERE id = ?;

-- name: Instruments :many
SELECT * FROM instrument ORDER BY created_ms, code;

-- name: SaveInstrumentCheck :exec
INSERT INTO instrument_check (
  id, instrument_id, at_ms, against, true_value, shown_value, tolerance, taken_back_ms, taken_back_why
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  taken_back_ms = excluded.taken_back_ms,
  taken_back_why = excluded.taken_back_why;

-- name: InstrumentChecks :many
SELECT * FROM instrument_check ORDER BY at_ms, rowid;

-- name: CountReadingsOfInstrument :one
SELECT (SELECT count(*) FROM reading WHERE reading.instrument_id = sqlc.arg(instrument_id) AND reading.recorded_ms > sqlc.arg(from_ms) AND reading.recorded_ms < sqlc.arg(until_ms) AND reading.taken_back_ms IS NULL)
  + (SELECT count(*) FROM reference_reading WHERE reference_reading.instrument_id = sqlc.arg(instrument_id) AND reference_reading.recorded_ms > sqlc.arg(from_ms) AND reference_reading.recorded_ms < sqlc.arg(until_ms) AND reference_reading.taken_back_ms IS NULL);

-- name: SaveGaugeStudy :exec
INSERT INTO gauge_study (id, code, created_ms, instrument_id, what, parts, operators, repeats, seed) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?);

-- name: GaugeStudyByID :one
SELECT * FROM gauge_study WHERE id = ?;

-- name: GaugeStudies :many
SELECT * FROM gauge_study ORDER BY created_ms, code;

-- name: SaveGaugeReading :exec
INSERT INTO gauge_reading (id, study_id, position, value_mm, at_ms, taken_back_ms) VALUES (?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET taken_back_ms = excluded.taken_back_ms;

-- name: GaugeReadings :many
SELECT * FROM gauge_reading ORDER BY study_id, position, at_ms, rowid;

-- name: GaugeReadingsOfStudy :many
SELECT * FROM gauge_reading WHERE study_id = ? AND taken_back_ms IS NULL ORDER BY position;

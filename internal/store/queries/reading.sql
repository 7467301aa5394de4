-- name: SaveReading :exec
INSERT INTO reading (
  id, specimen_id, feature_id, instrument_id, recorded_ms, value_mm, rung_mm, intact, state, corrects_id, taken_back_ms, taken_back_why
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  taken_back_ms = excluded.taken_back_ms,
  taken_back_why = excluded.taken_back_why;

-- name: ReadingsOfRun :many
SELECT reading.* FROM reading JOIN specimen ON specimen.id = reading.specimen_id
WHERE specimen.run_id = ? ORDER BY reading.recorded_ms, reading.rowid;

-- name: Readings :many
SELECT * FROM reading ORDER BY recorded_ms, rowid;

-- name: ReadingsOfRuns :many
SELECT * FROM reading WHERE specimen_id IN (SELECT specimen.id FROM specimen WHERE run_id IN (sqlc.slice('run_ids')));

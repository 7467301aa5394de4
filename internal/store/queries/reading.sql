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

-- name: ReadingLines :many
SELECT sqlc.embed(reading), specimen.code AS specimen, specimen.scale_pct, specimen.outcome, run.id AS run_id, run.code AS run,
  machine.name AS machine, piece.name AS piece, feature.name AS feature, feature.nominal_mm, instrument.name AS instrument,
  CAST(EXISTS (SELECT 1 FROM reading AS later WHERE later.corrects_id = reading.id) AS INTEGER) AS corrected
FROM reading
JOIN specimen ON specimen.id = reading.specimen_id
JOIN run ON run.id = specimen.run_id
JOIN machine ON machine.id = run.machine_id
JOIN piece ON piece.id = specimen.piece_id
JOIN feature ON feature.id = reading.feature_id
LEFT JOIN instrument ON instrument.id = reading.instrument_id
WHERE (sqlc.arg(machine_id) = '' OR run.machine_id = sqlc.arg(machine_id))
  AND (sqlc.arg(piece_id) = '' OR specimen.piece_id = sqlc.arg(piece_id))
ORDER BY reading.rowid DESC LIMIT sqlc.arg(most);

-- name: ReadingByID :one
SELECT * FROM reading WHERE id = ?;

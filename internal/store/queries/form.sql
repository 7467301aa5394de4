-- name: SaveForm :exec
INSERT INTO form (id, piece_id, created_ms, kind, name, place, nominal, rungs_mm, retired_ms) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET retired_ms = excluded.retired_ms;

-- name: FormByID :one
SELECT * FROM form WHERE id = ?;

-- name: Forms :many
SELECT * FROM form ORDER BY piece_id, created_ms, id;

-- name: FormsOfPiece :many
SELECT * FROM form WHERE piece_id = ? ORDER BY created_ms, id;

-- name: SaveFormReading :exec
INSERT INTO form_reading (id, specimen_id, form_id, instrument_id, recorded_ms, measured, rungs, state, mate, taken_back_ms, taken_back_why) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET taken_back_ms = excluded.taken_back_ms, taken_back_why = excluded.taken_back_why;

-- name: FormReadings :many
SELECT * FROM form_reading ORDER BY recorded_ms, rowid;

-- name: FormReadingsOfRuns :many
SELECT specimen.run_id, sqlc.embed(form_reading) FROM specimen JOIN form_reading ON form_reading.specimen_id = specimen.id
WHERE specimen.run_id IN (sqlc.slice(run_ids)) ORDER BY form_reading.recorded_ms, form_reading.rowid;

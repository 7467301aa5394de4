-- name: SaveReference :exec
INSERT INTO reference (
  id, code, version, created_ms, name, piece_id, made_by, provenance, copies, surface, note
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  code = excluded.code,
  version = excluded.version,
  name = excluded.name,
  piece_id = excluded.piece_id,
  made_by = excluded.made_by,
  provenance = excluded.provenance,
  copies = excluded.copies,
  surface = excluded.surface,
  note = excluded.note;

-- name: ReferenceByID :one
SELECT * FROM reference WHERE id = ?;

-- name: References :many
SELECT * FROM reference ORDER BY created_ms, code;

-- name: SaveReferenceReading :exec
INSERT INTO reference_reading (
  id, reference_id, copy, feature_id, instrument_id, recorded_ms, value_mm, rung_mm, intact, state, corrects_id, taken_back_ms, taken_back_why
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  taken_back_ms = excluded.taken_back_ms,
  taken_back_why = excluded.taken_back_why;

-- name: ReadingsOfReference :many
SELECT * FROM reference_reading WHERE reference_id = ? ORDER BY recorded_ms, rowid;

-- name: ReferenceReadings :many
SELECT * FROM reference_reading ORDER BY recorded_ms, rowid;

-- name: SaveUnitPhotograph :exec
INSERT INTO unit_photograph (
  id, code, created_ms, machine_id, shows, note, file_name, kind, file_bytes, original_sha256, copy_sha256, small_sha256,
  width_px, height_px, copy_width_px, copy_height_px, taken_back_ms, taken_back_why, erased_ms
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  taken_back_ms = excluded.taken_back_ms,
  taken_back_why = excluded.taken_back_why,
  erased_ms = excluded.erased_ms;

-- name: UnitPhotographByID :one
SELECT * FROM unit_photograph WHERE id = ?;

-- name: UnitPhotographs :many
SELECT * FROM unit_photograph ORDER BY created_ms, rowid;

-- name: UnitPhotographsOfMachine :many
SELECT * FROM unit_photograph WHERE machine_id = ? ORDER BY created_ms, rowid;

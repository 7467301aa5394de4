-- name: SaveInstrument :exec
INSERT INTO instrument (
  id, code, version, created_ms, name, resolution_mm, reference_u_mm
) VALUES (?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  code = excluded.code,
  version = excluded.version,
  name = excluded.name,
  resolution_mm = excluded.resolution_mm,
  reference_u_mm = excluded.reference_u_mm;

-- name: InstrumentByID :one
SELECT * FROM instrument WHERE id = ?;

-- name: Instruments :many
SELECT * FROM instrument ORDER BY created_ms, code;

-- name: SaveBath :exec
INSERT INTO bath (
  id, code, version, created_ms, name, solvent, volume_ml, filled_ms, life_prints, notes
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  code = excluded.code,
  version = excluded.version,
  name = excluded.name,
  solvent = excluded.solvent,
  volume_ml = excluded.volume_ml,
  filled_ms = excluded.filled_ms,
  life_prints = excluded.life_prints,
  notes = excluded.notes;

-- name: BathByID :one
SELECT * FROM bath WHERE id = ?;

-- name: Baths :many
SELECT * FROM bath ORDER BY created_ms, code;

-- name: WashedIn :one
SELECT count(DISTINCT run_id) FROM process_step WHERE bath_id = ? AND coalesce(ended_ms, started_ms) > ?;

-- name: SavePreflight :exec
INSERT INTO preflight (
  id, run_id, item, state, at_ms
) VALUES (?, ?, ?, ?, ?);

-- name: Preflights :many
SELECT * FROM preflight ORDER BY run_id, at_ms, rowid;

-- name: PreflightOfRun :many
SELECT * FROM preflight WHERE run_id = ? ORDER BY at_ms, rowid;

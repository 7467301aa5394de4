-- name: SavePreflight :exec
INSERT INTO preflight (
  id, run_id, item, state, at_ms, reason
) VALUES (?, ?, ?, ?, ?, ?);

-- name: Preflights :many
SELECT * FROM preflight ORDER BY run_id, at_ms, rowid;

-- name: PreflightOfRun :many
SELECT * FROM preflight WHERE run_id = ? ORDER BY at_ms, rowid;

-- name: LastSkipReason :one
SELECT reason FROM preflight WHERE state = 'skipped' AND reason <> '' ORDER BY at_ms DESC, rowid DESC LIMIT 1;

-- name: SaveWaste :exec
INSERT INTO waste (
  id, at_ms, kind, amount, unit, run_id, bath_id, went_to, note
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?);

-- name: WasteEntries :many
SELECT * FROM waste ORDER BY at_ms, rowid;

-- name: WasteSince :many
SELECT * FROM waste WHERE at_ms >= ? ORDER BY at_ms DESC, rowid DESC;

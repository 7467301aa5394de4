-- name: SaveLevelling :exec
INSERT INTO levelling (id, machine_id, machine_event_id, version, at_ms, how, before_mm, after_mm, zero_mm, first_layer, first_layer_note, ends, taken_back_ms, taken_back_why)
VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET version = excluded.version, first_layer = excluded.first_layer, first_layer_note = excluded.first_layer_note,
  taken_back_ms = excluded.taken_back_ms, taken_back_why = excluded.taken_back_why;

-- name: Levellings :many
SELECT * FROM levelling ORDER BY at_ms, rowid;

-- name: LevellingsOfMachine :many
SELECT * FROM levelling WHERE machine_id = ? ORDER BY at_ms, rowid;

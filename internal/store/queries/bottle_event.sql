-- name: SaveBottleEvent :exec
INSERT INTO bottle_event (
  id, bottle_id, at_ms, kind, gross_g, note, ml, other
) VALUES (?, ?, ?, ?, ?, ?, ?, ?);

-- name: EventsOfBottle :many
SELECT * FROM bottle_event WHERE bottle_id = ? ORDER BY at_ms, rowid;

-- name: BottleEvents :many
SELECT * FROM bottle_event ORDER BY at_ms, rowid;

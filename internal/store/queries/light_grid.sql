-- name: SaveLightGrid :exec
INSERT INTO light_grid (id, machine_id, at_ms, readings, unit, meter, note, taken_back_ms, taken_back_why)
VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET taken_back_ms = excluded.taken_back_ms, taken_back_why = excluded.taken_back_why;

-- name: LightGrids :many
SELECT * FROM light_grid ORDER BY at_ms, rowid;

-- name: LightGridsOfMachine :many
SELECT * FROM light_grid WHERE machine_id = ? ORDER BY at_ms, rowid;

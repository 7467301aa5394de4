-- name: SaveMachineRating :exec
INSERT INTO machine_rating (id, machine_id, scale, score, rater, conditions, note, at_ms, taken_back_ms, taken_back_why)
VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET taken_back_ms = excluded.taken_back_ms, taken_back_why = excluded.taken_back_why;

-- name: MachineRatings :many
SELECT * FROM machine_rating ORDER BY at_ms, rowid;

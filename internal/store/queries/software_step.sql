-- name: SaveSoftwareStep :exec
INSERT INTO software_step (id, piece_id, at_ms, stage, took_s, software, software_version, computer, person, ended, note, taken_back_ms, taken_back_why)
VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET taken_back_ms = excluded.taken_back_ms, taken_back_why = excluded.taken_back_why;

-- name: SoftwareSteps :many
SELECT * FROM software_step ORDER BY at_ms, rowid;

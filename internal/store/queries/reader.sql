-- name: SaveReader :exec
INSERT INTO reader (id, code, version, created_ms, review_id, name, about, criteria, limits, taken_back_ms, taken_back_why)
VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET version = excluded.version, name = excluded.name, about = excluded.about, criteria = excluded.criteria, limits = excluded.limits, taken_back_ms = excluded.taken_back_ms, taken_back_why = excluded.taken_back_why;

-- name: ReaderByID :one
SELECT * FROM reader WHERE id = ?;

-- name: Readers :many
SELECT * FROM reader ORDER BY created_ms, rowid;

-- name: ReadersOfReview :many
SELECT * FROM reader WHERE review_id = ? AND taken_back_ms IS NULL ORDER BY created_ms, rowid;

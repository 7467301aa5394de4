-- name: SaveFinding :exec
INSERT INTO finding (id, code, version, created_ms, review_id, position, piece_id, measure, sides, panel_id, panel_row, original, grade, words, taken_back_ms, taken_back_why)
VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET version = excluded.version, position = excluded.position, words = excluded.words, taken_back_ms = excluded.taken_back_ms, taken_back_why = excluded.taken_back_why;

-- name: FindingByID :one
SELECT * FROM finding WHERE id = ?;

-- name: Findings :many
SELECT * FROM finding ORDER BY created_ms, rowid;

-- name: FindingsOfReview :many
SELECT * FROM finding WHERE review_id = ? AND taken_back_ms IS NULL ORDER BY position, rowid;

-- name: SaveFollowUp :exec
INSERT INTO follow_up (id, version, created_ms, review_id, question, due_day, answer, answered_ms)
VALUES (?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET version = excluded.version, question = excluded.question, due_day = excluded.due_day, answer = excluded.answer, answered_ms = excluded.answered_ms;

-- name: FollowUps :many
SELECT * FROM follow_up ORDER BY due_day, created_ms, id;

-- name: FollowUpByID :one
SELECT * FROM follow_up WHERE id = ?;

-- name: FollowUpsOfReview :many
SELECT * FROM follow_up WHERE review_id = ? ORDER BY due_day, created_ms, id;

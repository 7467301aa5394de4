-- name: SaveAmendment :exec
INSERT INTO amendment (
  id, kind, entry, at_ms, command, why, before, after
) VALUES (?, ?, ?, ?, ?, ?, ?, ?);

-- name: AmendmentsOf :many
SELECT * FROM amendment WHERE kind = ? AND entry = ? ORDER BY at_ms, rowid;

-- name: Amendments :many
SELECT * FROM amendment ORDER BY at_ms, rowid;

-- name: AmendmentByID :one
SELECT * FROM amendment WHERE id = ?;

-- name: NewestAmendments :many
SELECT * FROM amendment WHERE sqlc.arg(kind) = '' OR kind = sqlc.arg(kind) ORDER BY at_ms DESC, rowid DESC LIMIT sqlc.arg(most) OFFSET sqlc.arg(skip);

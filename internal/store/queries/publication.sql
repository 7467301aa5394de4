-- name: SavePublication :exec
INSERT INTO publication (id, version, review_id, number, at_ms, title, text, plots, figures, prints, questioned, why, errata, pictures)
VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET version = excluded.version, errata = excluded.errata;

-- name: PublicationByID :one
SELECT * FROM publication WHERE id = ?;

-- name: Publications :many
SELECT * FROM publication ORDER BY at_ms, rowid;

-- name: PublicationsOfReview :many
SELECT * FROM publication WHERE review_id = ? ORDER BY number;

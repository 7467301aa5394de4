-- name: SaveRatingScale :exec
INSERT INTO rating_scale (id, created_ms, name, anchors, about, conditions) VALUES (?, ?, ?, ?, ?, ?);

-- name: RatingScales :many
SELECT * FROM rating_scale ORDER BY created_ms, id;

-- name: SaveSitting :exec
INSERT INTO sitting (id, created_ms, rater, station, magnification, stage, light, scales, note) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?);

-- name: SittingByID :one
SELECT * FROM sitting WHERE id = ?;

-- name: Sittings :many
SELECT * FROM sitting ORDER BY created_ms, rowid;

-- name: LatestSitting :one
SELECT * FROM sitting ORDER BY created_ms DESC, rowid DESC LIMIT 1;

-- name: SaveRating :exec
INSERT INTO rating (
  id, sitting_id, specimen_id, reference_id, copy, scale, score, at_ms, corrects_id, taken_back_ms, taken_back_why
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  taken_back_ms = excluded.taken_back_ms,
  taken_back_why = excluded.taken_back_why;

-- name: RatingByID :one
SELECT * FROM rating WHERE id = ?;

-- name: Ratings :many
SELECT * FROM rating ORDER BY at_ms, rowid;

-- name: RatingsOfRuns :many
SELECT specimen.run_id, rating.* FROM specimen JOIN rating ON rating.specimen_id = specimen.id
WHERE specimen.run_id IN (sqlc.slice('run_ids')) ORDER BY rating.at_ms, rating.rowid;

-- name: RatingsOfReference :many
SELECT * FROM rating WHERE reference_id = ? ORDER BY at_ms, rowid;

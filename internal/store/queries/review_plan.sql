-- name: SaveReviewPlan :exec
INSERT INTO review_plan (id, created_ms, review_id, seed, prints, says) VALUES (?, ?, ?, ?, ?, ?);

-- name: ReviewPlans :many
SELECT * FROM review_plan ORDER BY created_ms, id;

-- name: PlansOfReview :many
SELECT * FROM review_plan WHERE review_id = ? ORDER BY created_ms, id;

-- name: SaveReview :exec
INSERT INTO review (
  id, code, version, created_ms, question, readers, under_test, policy, disclosure, verdict, not_tested, machine_ids, resin_ids, piece_ids, left_out, deciding, set_ups, reference_ids, blocks
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  code = excluded.code,
  version = excluded.version,
  question = excluded.question,
  readers = excluded.readers,
  under_test = excluded.under_test,
  policy = excluded.policy,
  disclosure = excluded.disclosure,
  verdict = excluded.verdict,
  not_tested = excluded.not_tested,
  machine_ids = excluded.machine_ids,
  resin_ids = excluded.resin_ids,
  piece_ids = excluded.piece_ids,
  left_out = excluded.left_out,
  deciding = excluded.deciding,
  set_ups = excluded.set_ups,
  reference_ids = excluded.reference_ids,
  blocks = excluded.blocks;

-- name: ReviewByID :one
SELECT * FROM review WHERE id = ?;

-- name: Reviews :many
SELECT * FROM review ORDER BY created_ms, code;

-- name: RoadSoFar :one
SELECT
  EXISTS (SELECT 1 FROM review) AS question,
  EXISTS (SELECT 1 FROM machine) AS machine,
  EXISTS (SELECT 1 FROM resin) AS resin,
  EXISTS (SELECT 1 FROM piece) AS piece,
  EXISTS (SELECT 1 FROM feature WHERE retired_ms IS NULL) AS feature,
  EXISTS (SELECT 1 FROM profile WHERE basis <> 'series') AS profile,
  EXISTS (SELECT 1 FROM run WHERE ended_ms IS NOT NULL) AS printed,
  EXISTS (SELECT 1 FROM run WHERE shape <> 'open') AS judged,
  EXISTS (SELECT 1 FROM reading UNION ALL SELECT 1 FROM rating UNION ALL SELECT 1 FROM photograph) AS inspected,
  (SELECT COUNT(*) FROM (SELECT DISTINCT profile_id FROM run WHERE shape <> 'open')) > 1 AS comparable,
  EXISTS (SELECT 1 FROM review WHERE verdict <> '') AS verdict;

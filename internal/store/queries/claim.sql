-- name: SaveClaim :exec
INSERT INTO claim (id, code, version, created_ms, review_id, machine_id, resin_id, words, kind, value, bound, "of", against_id, base, source, "by", interest, test, state, why, taken_back_ms, taken_back_why)
VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET version = excluded.version, review_id = excluded.review_id, machine_id = excluded.machine_id, resin_id = excluded.resin_id, words = excluded.words, kind = excluded.kind, value = excluded.value, bound = excluded.bound, "of" = excluded."of",
  against_id = excluded.against_id, base = excluded.base, source = excluded.source, "by" = excluded."by", interest = excluded.interest, test = excluded.test, state = excluded.state, why = excluded.why, taken_back_ms = excluded.taken_back_ms, taken_back_why = excluded.taken_back_why;

-- name: ClaimByID :one
SELECT * FROM claim WHERE id = ?;

-- name: Claims :many
SELECT * FROM claim ORDER BY created_ms, rowid;

-- name: SaveInterest :exec
INSERT INTO interest (id, at_ms, review_id, machine_id, resin_id, piece_id, reference_id, how, whom, day, note, taken_back_ms, taken_back_why)
VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET taken_back_ms = excluded.taken_back_ms, taken_back_why = excluded.taken_back_why;

-- name: Interests :many
SELECT * FROM interest ORDER BY at_ms, rowid;

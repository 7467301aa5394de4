-- name: SaveRemark :exec
INSERT INTO remark (id, machine_id, at_ms, kind, about, what, often, weight, for_whom, rater, taken_back_ms, taken_back_why)
VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET taken_back_ms = excluded.taken_back_ms, taken_back_why = excluded.taken_back_why;

-- name: Remarks :many
SELECT * FROM remark ORDER BY at_ms, rowid;

-- name: RemarksOfMachine :many
SELECT * FROM remark WHERE machine_id = ? ORDER BY at_ms, rowid;

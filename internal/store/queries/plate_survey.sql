-- name: SavePlateSurvey :exec
INSERT INTO plate_survey (id, machine_id, at_ms, left_mm, right_mm, front_mm, back_mm, height_mm, spots, note, taken_back_ms, taken_back_why)
VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET taken_back_ms = excluded.taken_back_ms, taken_back_why = excluded.taken_back_why;

-- name: PlateSurveys :many
SELECT * FROM plate_survey ORDER BY at_ms, rowid;

-- name: PlateSurveysOfMachine :many
SELECT * FROM plate_survey WHERE machine_id = ? ORDER BY at_ms, rowid;

-- name: SavePhotograph :exec
INSERT INTO photograph (
  id, code, created_ms, specimen_id, reference_id, copy, feature_id, station, magnification, stage, light, note, file_name, kind, file_bytes,
  original_sha256, copy_sha256, small_sha256, width_px, height_px, copy_width_px, copy_height_px, blur, taken_back_ms, taken_back_why, erased_ms, defect_id
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  taken_back_ms = excluded.taken_back_ms,
  taken_back_why = excluded.taken_back_why,
  erased_ms = excluded.erased_ms;

-- name: PhotographByID :one
SELECT * FROM photograph WHERE id = ?;

-- name: Photographs :many
SELECT * FROM photograph ORDER BY created_ms, rowid;

-- name: PhotographsOfRuns :many
SELECT specimen.run_id, sqlc.embed(photograph) FROM specimen JOIN photograph ON photograph.specimen_id = specimen.id
WHERE specimen.run_id IN (sqlc.slice('run_ids')) ORDER BY photograph.created_ms, photograph.rowid;

-- name: PhotographsOfReference :many
SELECT * FROM photograph WHERE reference_id = ? ORDER BY created_ms, rowid;

-- name: SavePhotoMeasure :exec
INSERT INTO photo_measure (
  id, photograph_id, created_ms, kind, from_x_px, from_y_px, to_x_px, to_y_px, known_mm, known_u_mm, size_px, u_px, ripple_px, n, taken_back_ms, taken_back_why
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  taken_back_ms = excluded.taken_back_ms,
  taken_back_why = excluded.taken_back_why;

-- name: PhotoMeasureByID :one
SELECT * FROM photo_measure WHERE id = ?;

-- name: PhotoMeasures :many
SELECT * FROM photo_measure ORDER BY created_ms, rowid;

-- name: MeasuresOfPhotographs :many
SELECT * FROM photo_measure WHERE photograph_id IN (sqlc.slice('photograph_ids')) ORDER BY created_ms, rowid;

-- name: PhotographsOfFile :many
SELECT * FROM photograph WHERE original_sha256 = ? ORDER BY created_ms, rowid;

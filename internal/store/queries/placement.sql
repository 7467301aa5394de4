-- name: SavePlacement :exec
INSERT INTO placement (
  id, plate_id, position, piece_id, scale_pct, x_mm, y_mm, turn_deg, number, exposure_s
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?);

-- name: PlacementsOfPlate :many
SELECT * FROM placement WHERE plate_id = ? ORDER BY position;

-- name: Placements :many
SELECT * FROM placement ORDER BY plate_id, position;

-- name: ClearPlate :exec
DELETE FROM placement WHERE plate_id = ?;

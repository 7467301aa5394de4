-- name: SaveFeature :exec
INSERT INTO feature (
  id, piece_id, position, kind, name, nominal_mm, axis, face, rungs_mm, place, retired_ms, shape
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  piece_id = excluded.piece_id,
  position = excluded.position,
  kind = excluded.kind,
  name = excluded.name,
  nominal_mm = excluded.nominal_mm,
  axis = excluded.axis,
  face = excluded.face,
  rungs_mm = excluded.rungs_mm,
  place = excluded.place,
  retired_ms = excluded.retired_ms,
  shape = excluded.shape;

-- name: FeatureByID :one
SELECT * FROM feature WHERE id = ?;

-- name: FeaturesOfPiece :many
SELECT * FROM feature WHERE piece_id = ? ORDER BY position, id;

-- name: Features :many
SELECT * FROM feature ORDER BY piece_id, position, id;

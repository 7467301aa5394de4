-- name: SaveSeries :exec
INSERT INTO series (
  id, code, version, created_ms, machine_id, resin_id, layer_um, school, bottom_layers, bottom_exposure_s, transition_layers, origin, profile_id, piece_id
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  code = excluded.code,
  version = excluded.version,
  machine_id = excluded.machine_id,
  resin_id = excluded.resin_id,
  layer_um = excluded.layer_um,
  school = excluded.school,
  bottom_layers = excluded.bottom_layers,
  bottom_exposure_s = excluded.bottom_exposure_s,
  transition_layers = excluded.transition_layers,
  origin = excluded.origin,
  profile_id = excluded.profile_id,
  piece_id = excluded.piece_id;

-- name: SeriesByID :one
SELECT * FROM series WHERE id = ?;

-- name: AllSeries :many
SELECT * FROM series ORDER BY created_ms, code;

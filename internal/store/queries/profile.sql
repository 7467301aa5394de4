-- name: SaveProfile :exec
INSERT INTO profile (
  id, code, created_ms, machine_id, resin_id, layer_um, exposure_s, bottom_layers, bottom_exposure_s, transition_layers, antialiasing, basis, sealed_name, series_id, parent_id, note
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?);

-- name: ProfileByID :one
SELECT * FROM profile WHERE id = ?;

-- name: Profiles :many
SELECT * FROM profile ORDER BY created_ms, code;

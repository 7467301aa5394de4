-- name: SaveProfile :exec
INSERT INTO profile (
  id, code, created_ms, machine_id, resin_id, layer_um, exposure_s, bottom_layers, bottom_exposure_s, transition_layers, antialiasing, basis, sealed_name, series_id, parent_id, note, name, lift, retract, release_s, wait_before_s, wait_after_s, wait_lift_s, light_power_pct, options, version, archived_ms, archived_why, template_since_ms
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  note = excluded.note,
  name = excluded.name,
  version = excluded.version,
  archived_ms = excluded.archived_ms,
  archived_why = excluded.archived_why,
  template_since_ms = excluded.template_since_ms;

-- name: ProfileByID :one
SELECT * FROM profile WHERE id = ?;

-- name: Profiles :many
SELECT * FROM profile ORDER BY created_ms, code;

-- name: RunsOfProfiles :many
SELECT profile_id, count(*) AS runs FROM run GROUP BY profile_id;

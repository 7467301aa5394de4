-- name: SavePlate :exec
INSERT INTO plate (
  id, code, version, created_ms, name, machine_id, profile_id, bottle_id, series_id, margin_mm, spacing_mm, overlap_allowed, vat_fill_ml, drip_ml, liquid_ratio, software, software_estimate_s,
  orientation, supports, wash_s, cure_s, review_plan_id, plan_turn, archived_ms, archived_why
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  code = excluded.code,
  version = excluded.version,
  name = excluded.name,
  machine_id = excluded.machine_id,
  profile_id = excluded.profile_id,
  bottle_id = excluded.bottle_id,
  series_id = excluded.series_id,
  margin_mm = excluded.margin_mm,
  spacing_mm = excluded.spacing_mm,
  overlap_allowed = excluded.overlap_allowed,
  vat_fill_ml = excluded.vat_fill_ml,
  drip_ml = excluded.drip_ml,
  liquid_ratio = excluded.liquid_ratio,
  software = excluded.software,
  software_estimate_s = excluded.software_estimate_s,
  orientation = excluded.orientation,
  supports = excluded.supports,
  wash_s = excluded.wash_s,
  cure_s = excluded.cure_s,
  review_plan_id = excluded.review_plan_id,
  plan_turn = excluded.plan_turn,
  archived_ms = excluded.archived_ms,
  archived_why = excluded.archived_why;

-- name: PlateByID :one
SELECT * FROM plate WHERE id = ?;

-- name: Plates :many
SELECT * FROM plate ORDER BY created_ms, code;

-- name: PlatesOfSeries :many
SELECT * FROM plate WHERE series_id = ? ORDER BY created_ms, code;

-- name: UnprintedPlates :many
SELECT * FROM plate WHERE archived_ms IS NULL AND NOT EXISTS (SELECT 1 FROM run WHERE run.plate_id = plate.id) ORDER BY created_ms, plan_turn, id LIMIT 200;

-- name: PlatesOfReviewPlan :many
SELECT * FROM plate WHERE review_plan_id = ? ORDER BY machine_id, plan_turn, id;

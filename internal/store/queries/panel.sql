-- name: SavePanel :exec
INSERT INTO panel (
  id, code, version, created_ms, review_id, kind, shows, question, looks_at, stage, station, magnification, light, judges, repeats, same, arms, coder, coded_by, coded, tells, key_sha256, sealed_ms, closed_ms, early_why, taken_back_ms, taken_back_why
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  version = excluded.version,
  coder = excluded.coder,
  coded_by = excluded.coded_by,
  coded = excluded.coded,
  tells = excluded.tells,
  sealed_ms = excluded.sealed_ms,
  closed_ms = excluded.closed_ms,
  early_why = excluded.early_why,
  taken_back_ms = excluded.taken_back_ms,
  taken_back_why = excluded.taken_back_why;

-- name: PanelByID :one
SELECT * FROM panel WHERE id = ?;

-- name: PanelByCode :one
SELECT * FROM panel WHERE code = ?;

-- name: Panels :many
SELECT * FROM panel ORDER BY created_ms, code;

-- name: PanelsOfReview :many
SELECT * FROM panel WHERE review_id = ? ORDER BY created_ms, code;

-- name: SavePanelSeal :exec
INSERT INTO panel_seal (panel_id, panel_key, sealed, opening) VALUES (?, ?, ?, ?)
ON CONFLICT (panel_id) DO UPDATE SET panel_key = excluded.panel_key, opening = excluded.opening;

-- name: PanelSealByID :one
SELECT * FROM panel_seal WHERE panel_id = ?;

-- name: SaveBallot :exec
INSERT INTO ballot (id, panel_id, judge, token, trials, created_ms, name, answers, knew, knew_by, way, cast_ms, replaced_ms, replaced_why)
VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  trials = excluded.trials,
  name = excluded.name,
  answers = excluded.answers,
  knew = excluded.knew,
  knew_by = excluded.knew_by,
  way = excluded.way,
  cast_ms = excluded.cast_ms,
  replaced_ms = excluded.replaced_ms,
  replaced_why = excluded.replaced_why;

-- name: BallotByToken :one
SELECT * FROM ballot WHERE token = ?;

-- name: BallotsOfPanel :many
SELECT * FROM ballot WHERE panel_id = ? ORDER BY judge, created_ms, rowid;

-- name: AllBallots :many
SELECT * FROM ballot ORDER BY panel_id, judge, created_ms, rowid;

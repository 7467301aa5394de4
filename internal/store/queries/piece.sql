-- name: SavePiece :exec
INSERT INTO piece (
  id, code, version, created_ms, name, revision, mesh_sha256, file_name, format, triangles, size_x_mm, size_y_mm, size_z_mm, surface_mm2, volume_ml, shells, open_edges, nonmanifold_edges, mesh_warnings, support_pct, outline_mm2, support_ml, raft_ml, hollow_wall_mm, hollow_ml, finest_mm, relief_mm, coupon, geometry, kind
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  code = excluded.code,
  version = excluded.version,
  name = excluded.name,
  revision = excluded.revision,
  mesh_sha256 = excluded.mesh_sha256,
  file_name = excluded.file_name,
  format = excluded.format,
  triangles = excluded.triangles,
  size_x_mm = excluded.size_x_mm,
  size_y_mm = excluded.size_y_mm,
  size_z_mm = excluded.size_z_mm,
  surface_mm2 = excluded.surface_mm2,
  volume_ml = excluded.volume_ml,
  shells = excluded.shells,
  open_edges = excluded.open_edges,
  nonmanifold_edges = excluded.nonmanifold_edges,
  mesh_warnings = excluded.mesh_warnings,
  support_pct = excluded.support_pct,
  outline_mm2 = excluded.outline_mm2,
  support_ml = excluded.support_ml,
  raft_ml = excluded.raft_ml,
  hollow_wall_mm = excluded.hollow_wall_mm,
  hollow_ml = excluded.hollow_ml,
  finest_mm = excluded.finest_mm,
  relief_mm = excluded.relief_mm,
  coupon = excluded.coupon,
  geometry = excluded.geometry,
  kind = excluded.kind;

-- name: PieceByID :one
SELECT * FROM piece WHERE id = ?;

-- name: Pieces :many
SELECT * FROM piece ORDER BY created_ms, code;

-- name: PieceNames :many
SELECT id, code, name FROM piece ORDER BY created_ms, id;

-- name: SaveAssembly :exec
INSERT INTO assembly (
  id, code, version, created_ms, name, note, parts
) VALUES (?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  code = excluded.code,
  version = excluded.version,
  name = excluded.name,
  note = excluded.note,
  parts = excluded.parts;

-- name: AssemblyByID :one
SELECT * FROM assembly WHERE id = ?;

-- name: Assemblies :many
SELECT * FROM assembly ORDER BY created_ms, code;

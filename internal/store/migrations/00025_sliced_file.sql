-- +goose Up
-- What was read of a sliced print that was laid beside a print or its settings: its layers in
-- pixels, what it says of itself, and its hash. The file itself is not kept.
CREATE TABLE sliced_file (
  id             TEXT    NOT NULL PRIMARY KEY,
  run_id         TEXT    REFERENCES run (id),
  profile_id     TEXT    REFERENCES profile (id),
  created_ms     INTEGER NOT NULL,
  name           TEXT    NOT NULL,
  file_sha256    TEXT    NOT NULL,
  bytes          INTEGER NOT NULL,
  width_px       INTEGER NOT NULL,
  height_px      INTEGER NOT NULL,
  first_number   INTEGER NOT NULL,
  missing_numbers TEXT    NOT NULL,
  other_files    TEXT    NOT NULL,
  pairs          TEXT    NOT NULL,
  layers         TEXT    NOT NULL,
  note           TEXT    NOT NULL,
  taken_back_ms  INTEGER,
  taken_back_why TEXT    NOT NULL DEFAULT '',
  CHECK ((run_id IS NULL) <> (profile_id IS NULL))
) STRICT;
CREATE INDEX sliced_file_run ON sliced_file (run_id, created_ms);
CREATE INDEX sliced_file_profile ON sliced_file (profile_id, created_ms);

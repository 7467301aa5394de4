-- +goose Up
-- What the next entry begins with, so that nothing is typed twice: what a room is usually like, for every
-- print of the machines in it; what is looked at on every piece of a kind; and which settings new ones of a
-- machine begin with.
CREATE TABLE workroom (
  id           TEXT    NOT NULL PRIMARY KEY,
  code         TEXT    NOT NULL UNIQUE,
  version      INTEGER NOT NULL,
  created_ms   INTEGER NOT NULL,
  name         TEXT    NOT NULL UNIQUE,
  room_temp_c  REAL,
  humidity_pct REAL,
  heater_on    INTEGER,
  note         TEXT    NOT NULL,
  retired_ms   INTEGER
) STRICT;
CREATE TABLE checklist (
  id          TEXT    NOT NULL PRIMARY KEY,
  code        TEXT    NOT NULL UNIQUE,
  version     INTEGER NOT NULL,
  created_ms  INTEGER NOT NULL,
  kind        TEXT    NOT NULL UNIQUE,
  checkpoints TEXT    NOT NULL
) STRICT;
CREATE INDEX room_reading_at ON room_reading (at_ms);
ALTER TABLE piece ADD COLUMN kind TEXT NOT NULL DEFAULT '';
ALTER TABLE profile ADD COLUMN template_since_ms INTEGER;

-- Pictures of the very unit of a machine: what came in the box, what was broken, its ports.
CREATE TABLE unit_photograph (
  id              TEXT    NOT NULL PRIMARY KEY,
  code            TEXT    NOT NULL UNIQUE,
  created_ms      INTEGER NOT NULL,
  machine_id      TEXT    NOT NULL REFERENCES machine (id),
  shows           TEXT    NOT NULL,
  note            TEXT    NOT NULL,
  file_name       TEXT    NOT NULL,
  kind            TEXT    NOT NULL CHECK (kind IN ('jpeg', 'png', 'webp')),
  file_bytes      INTEGER NOT NULL CHECK (file_bytes > 0),
  original_sha256 TEXT    NOT NULL,
  copy_sha256     TEXT    NOT NULL,
  small_sha256    TEXT    NOT NULL,
  width_px        INTEGER NOT NULL CHECK (width_px > 0),
  height_px       INTEGER NOT NULL CHECK (height_px > 0),
  copy_width_px   INTEGER NOT NULL CHECK (copy_width_px > 0),
  copy_height_px  INTEGER NOT NULL CHECK (copy_height_px > 0),
  taken_back_ms   INTEGER,
  taken_back_why  TEXT    NOT NULL DEFAULT '',
  erased_ms       INTEGER,
  CHECK (erased_ms IS NULL OR taken_back_ms IS NOT NULL)
) STRICT;
CREATE INDEX unit_photograph_machine ON unit_photograph (machine_id, created_ms);
CREATE INDEX unit_photograph_file ON unit_photograph (original_sha256);

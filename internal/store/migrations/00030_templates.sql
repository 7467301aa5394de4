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

-- A reading was corrected once in its life: a correction that was taken back left no room for the
-- right one. Only one correction that stands is allowed now.
CREATE TABLE reading_again (
  id             TEXT    PRIMARY KEY,
  specimen_id    TEXT    NOT NULL REFERENCES specimen (id),
  feature_id     TEXT    NOT NULL REFERENCES feature (id),
  instrument_id  TEXT    REFERENCES instrument (id),
  recorded_ms    INTEGER NOT NULL,
  value_mm       REAL    CHECK (value_mm > 0),
  rung_mm        REAL    CHECK (rung_mm > 0),
  intact         INTEGER CHECK (intact IN (0, 1)),
  state          TEXT    CHECK (state IN ('present', 'damaged', 'missing')),
  corrects_id    TEXT    REFERENCES reading_again (id),
  taken_back_ms  INTEGER,
  taken_back_why TEXT    NOT NULL DEFAULT '',
  CHECK ((value_mm IS NOT NULL) + (rung_mm IS NOT NULL AND intact IS NOT NULL) + (state IS NOT NULL) = 1)
) STRICT;
INSERT INTO reading_again (rowid, id, specimen_id, feature_id, instrument_id, recorded_ms, value_mm, rung_mm, intact, state, corrects_id, taken_back_ms, taken_back_why)
SELECT rowid, id, specimen_id, feature_id, instrument_id, recorded_ms, value_mm, rung_mm, intact, state, corrects_id, taken_back_ms, taken_back_why FROM reading ORDER BY rowid;
DROP TABLE reading;
ALTER TABLE reading_again RENAME TO reading;
CREATE INDEX reading_specimen ON reading (specimen_id, feature_id, recorded_ms);
CREATE INDEX reading_instrument ON reading (instrument_id, recorded_ms, taken_back_ms);
CREATE UNIQUE INDEX reading_correction ON reading (corrects_id) WHERE taken_back_ms IS NULL;

-- +goose Up
-- What kind of instrument each is; those so far measure lengths.
ALTER TABLE instrument ADD COLUMN kind TEXT NOT NULL DEFAULT 'caliper'
  CHECK (kind IN ('caliper', 'micrometer', 'optical_scale', 'balance', 'hygrometer', 'light_meter'));

-- What an instrument showed for something known, in the instrument's own unit.
CREATE TABLE instrument_check (
  id             TEXT    PRIMARY KEY,
  instrument_id  TEXT    NOT NULL REFERENCES instrument (id),
  at_ms          INTEGER NOT NULL,
  against        TEXT    NOT NULL CHECK (against <> ''),
  true_value     REAL    NOT NULL,
  shown_value    REAL    NOT NULL,
  tolerance      REAL    NOT NULL CHECK (tolerance > 0),
  taken_back_ms  INTEGER,
  taken_back_why TEXT    NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX instrument_check_instrument ON instrument_check (instrument_id, at_ms);

-- What was read with an instrument in a time.
CREATE INDEX reading_instrument ON reading (instrument_id, recorded_ms, taken_back_ms);

-- A repeatability study: who measures what how often, and the seed of its order.
CREATE TABLE gauge_study (
  id            TEXT    PRIMARY KEY,
  code          TEXT    NOT NULL UNIQUE,
  created_ms    INTEGER NOT NULL,
  instrument_id TEXT    NOT NULL REFERENCES instrument (id),
  what          TEXT    NOT NULL CHECK (what <> ''),
  parts         TEXT    NOT NULL,
  operators     TEXT    NOT NULL,
  repeats       INTEGER NOT NULL CHECK (repeats > 1),
  seed          INTEGER NOT NULL
) STRICT;
CREATE INDEX gauge_study_instrument ON gauge_study (instrument_id, created_ms);

CREATE TABLE gauge_reading (
  id            TEXT    PRIMARY KEY,
  study_id      TEXT    NOT NULL REFERENCES gauge_study (id),
  position      INTEGER NOT NULL CHECK (position >= 0),
  value_mm      REAL    NOT NULL CHECK (value_mm > 0),
  at_ms         INTEGER NOT NULL,
  taken_back_ms INTEGER
) STRICT;
CREATE UNIQUE INDEX gauge_reading_position ON gauge_reading (study_id, position) WHERE taken_back_ms IS NULL;

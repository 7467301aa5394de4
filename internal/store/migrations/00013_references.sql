-- +goose Up
-- What no print on record made: castings, bought pieces, prints of others.
CREATE TABLE reference (
  id         TEXT    PRIMARY KEY,
  code       TEXT    NOT NULL UNIQUE,
  version    INTEGER NOT NULL CHECK (version > 0),
  created_ms INTEGER NOT NULL,
  name       TEXT    NOT NULL CHECK (name <> ''),
  piece_id   TEXT    NOT NULL REFERENCES piece (id),
  made_by    TEXT    NOT NULL,
  provenance TEXT    NOT NULL CHECK (provenance <> ''),
  copies     INTEGER NOT NULL CHECK (copies > 0),
  surface    TEXT,
  note       TEXT    NOT NULL
) STRICT;

-- Appended, never overwritten: a correction points to what it corrects.
CREATE TABLE reference_reading (
  id             TEXT    PRIMARY KEY,
  reference_id   TEXT    NOT NULL REFERENCES reference (id),
  copy           INTEGER NOT NULL CHECK (copy > 0),
  feature_id     TEXT    NOT NULL REFERENCES feature (id),
  instrument_id  TEXT    REFERENCES instrument (id),
  recorded_ms    INTEGER NOT NULL,
  value_mm       REAL    CHECK (value_mm > 0),
  rung_mm        REAL    CHECK (rung_mm > 0),
  intact         INTEGER CHECK (intact IN (0, 1)),
  state          TEXT,
  corrects_id    TEXT    REFERENCES reference_reading (id),
  taken_back_ms  INTEGER,
  taken_back_why TEXT    NOT NULL DEFAULT '',
  CHECK ((value_mm IS NOT NULL) + (rung_mm IS NOT NULL AND intact IS NOT NULL) + (state IS NOT NULL) = 1)
) STRICT;
CREATE INDEX reference_reading_reference ON reference_reading (reference_id, recorded_ms);

-- The references that a review sets its prints against.
ALTER TABLE review ADD COLUMN reference_ids TEXT NOT NULL DEFAULT '[]';

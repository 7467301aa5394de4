-- +goose Up
-- Stages of its surface that a specimen came to, with the minutes of rework (sanding, filling)
-- on the way; washing and curing are known from the print. One that was wrong is taken back.
CREATE TABLE specimen_stage (
  id            TEXT    PRIMARY KEY,
  specimen_id   TEXT    NOT NULL REFERENCES specimen (id),
  stage         TEXT    NOT NULL CHECK (stage IN ('raw', 'washed', 'cured', 'varnished', 'primed', 'painted')),
  at_ms         INTEGER NOT NULL,
  rework_min    REAL    CHECK (rework_min > 0),
  note          TEXT    NOT NULL DEFAULT '',
  taken_back_ms INTEGER
) STRICT;
CREATE INDEX specimen_stage_specimen ON specimen_stage (specimen_id, at_ms);

-- What the maker says of a resin, sentence by sentence.
ALTER TABLE resin ADD COLUMN claims TEXT NOT NULL DEFAULT '[]';

-- A volume of a resin on the balance. One that was wrong is taken back.
CREATE TABLE resin_weighing (
  id            TEXT    PRIMARY KEY,
  resin_id      TEXT    NOT NULL REFERENCES resin (id),
  bottle_id     TEXT    REFERENCES bottle (id),
  at_ms         INTEGER NOT NULL,
  mass_g        REAL    NOT NULL CHECK (mass_g > 0),
  volume_ml     REAL    NOT NULL CHECK (volume_ml > 0),
  temp_c        REAL,
  taken_back_ms INTEGER
) STRICT;
CREATE INDEX resin_weighing_resin ON resin_weighing (resin_id, at_ms);

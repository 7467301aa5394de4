-- +goose Up
-- Scales of the reviewer's own; the program's stand in the program.
CREATE TABLE rating_scale (
  id         TEXT    PRIMARY KEY,
  created_ms INTEGER NOT NULL,
  name       TEXT    NOT NULL CHECK (name <> ''),
  anchors    TEXT    NOT NULL
) STRICT;

-- By whom, from where, in which stage and light things were judged: said once, and standing
-- above every rating of it.
CREATE TABLE sitting (
  id            TEXT    PRIMARY KEY,
  created_ms    INTEGER NOT NULL,
  rater         TEXT    NOT NULL CHECK (rater <> ''),
  station       TEXT    NOT NULL CHECK (station IN ('table', 'arms_length', 'in_hand', 'loupe')),
  magnification REAL    CHECK (magnification > 1),
  stage         TEXT    NOT NULL CHECK (stage IN ('raw', 'washed', 'cured', 'varnished', 'primed', 'painted')),
  light         TEXT    NOT NULL CHECK (light <> ''),
  scales        TEXT    NOT NULL,
  note          TEXT    NOT NULL,
  CHECK ((station = 'loupe') = (magnification IS NOT NULL))
) STRICT;

-- Appended, never overwritten: a rating points to the one that it corrects.
CREATE TABLE rating (
  id             TEXT    PRIMARY KEY,
  sitting_id     TEXT    NOT NULL REFERENCES sitting (id),
  specimen_id    TEXT    REFERENCES specimen (id),
  reference_id   TEXT    REFERENCES reference (id),
  copy           INTEGER CHECK (copy > 0),
  scale          TEXT    NOT NULL CHECK (scale <> ''),
  score          INTEGER NOT NULL CHECK (score BETWEEN 0 AND 4),
  at_ms          INTEGER NOT NULL,
  corrects_id    TEXT    REFERENCES rating (id),
  taken_back_ms  INTEGER,
  taken_back_why TEXT    NOT NULL DEFAULT '',
  CHECK ((specimen_id IS NOT NULL) + (reference_id IS NOT NULL) = 1),
  CHECK ((reference_id IS NULL) = (copy IS NULL))
) STRICT;
CREATE INDEX rating_specimen ON rating (specimen_id, at_ms);
CREATE INDEX rating_reference ON rating (reference_id, at_ms);
CREATE INDEX rating_sitting ON rating (sitting_id, at_ms);

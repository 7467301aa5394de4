-- +goose Up
-- A series of stress tests on named specimens: what rises from level to level, what each
-- class of damage means, and the seed of its order. It cannot be changed.
CREATE TABLE stress_series (
  id         TEXT    PRIMARY KEY,
  code       TEXT    NOT NULL UNIQUE,
  created_ms INTEGER NOT NULL,
  kind       TEXT    NOT NULL CHECK (kind IN ('drop', 'bend', 'fit', 'heat', 'sun', 'stiffness')),
  mode       TEXT    NOT NULL CHECK (mode IN ('fresh', 'cumulative')),
  name       TEXT    NOT NULL CHECK (name <> ''),
  under      TEXT    NOT NULL CHECK (under <> ''),
  stage      TEXT    NOT NULL CHECK (stage IN ('raw', 'washed', 'cured', 'varnished', 'primed', 'painted')),
  levels     TEXT    NOT NULL,
  anchors    TEXT    NOT NULL,
  fails_from INTEGER NOT NULL CHECK (fails_from BETWEEN 0 AND 4),
  span_mm    REAL    CHECK (span_mm > 0),
  seed       INTEGER NOT NULL
) STRICT;

-- A specimen of a series, with its level where it is stressed once, and what was measured of
-- it for the series: its mass, or the width and thickness of a bar.
CREATE TABLE stress_specimen (
  id           TEXT    PRIMARY KEY,
  stress_series_id    TEXT    NOT NULL REFERENCES stress_series (id),
  specimen_id  TEXT    NOT NULL REFERENCES specimen (id),
  position     INTEGER NOT NULL CHECK (position >= 0),
  level        REAL    CHECK (level > 0),
  mass_g       REAL    CHECK (mass_g > 0),
  width_mm     REAL    CHECK (width_mm > 0),
  thickness_mm REAL    CHECK (thickness_mm > 0),
  UNIQUE (stress_series_id, specimen_id)
) STRICT;
CREATE INDEX stress_specimen_specimen ON stress_specimen (specimen_id);

-- What a test showed: a class of damage, or the deflection of a bar. Appended; one that was
-- wrong is taken back.
CREATE TABLE stress_test (
  id             TEXT    PRIMARY KEY,
  stress_series_id      TEXT    NOT NULL REFERENCES stress_series (id),
  specimen_id    TEXT    NOT NULL REFERENCES specimen (id),
  level          REAL    NOT NULL CHECK (level > 0),
  damage         INTEGER CHECK (damage BETWEEN 0 AND 4),
  deflection_mm  REAL    CHECK (deflection_mm >= 0),
  part           TEXT    NOT NULL DEFAULT '',
  note           TEXT    NOT NULL DEFAULT '',
  at_ms          INTEGER NOT NULL,
  taken_back_ms  INTEGER,
  CHECK ((damage IS NULL) <> (deflection_mm IS NULL))
) STRICT;
CREATE INDEX stress_test_series ON stress_test (stress_series_id, at_ms);
CREATE INDEX stress_test_specimen ON stress_test (specimen_id);
CREATE UNIQUE INDEX stress_test_counts ON stress_test (stress_series_id, specimen_id, level) WHERE taken_back_ms IS NULL;

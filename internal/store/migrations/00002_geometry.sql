-- +goose Up
-- What the program knows of shapes, and plates as plans of prints.

ALTER TABLE bench ADD COLUMN viewing_mm      REAL    NOT NULL DEFAULT 300 CHECK (viewing_mm > 0);
ALTER TABLE bench ADD COLUMN attended_from_h REAL    NOT NULL DEFAULT 9   CHECK (attended_from_h >= 0);
ALTER TABLE bench ADD COLUMN attended_to_h   REAL    NOT NULL DEFAULT 18  CHECK (attended_to_h <= 24);
ALTER TABLE bench ADD COLUMN attended_days   INTEGER NOT NULL DEFAULT 5   CHECK (attended_days BETWEEN 1 AND 7);
ALTER TABLE bench ADD COLUMN turnaround_min  REAL    NOT NULL DEFAULT 25  CHECK (turnaround_min >= 0);
ALTER TABLE bench ADD COLUMN run_h_per_week  REAL    NOT NULL DEFAULT 30  CHECK (run_h_per_week > 0);

-- How a machine can expose cells of one plate differently: not at all, all at
-- once (a layer takes as long as its longest cell) or one after the other.
ALTER TABLE machine ADD COLUMN cell_exposure TEXT NOT NULL DEFAULT 'none' CHECK (cell_exposure IN ('none', 'together', 'in_turn'));
ALTER TABLE machine ADD COLUMN claimed_mm_h  REAL CHECK (claimed_mm_h > 0);

-- geometry holds what was read off the slices, as JSON; coupon the choices that
-- a coupon of our own was made from. Both are empty where there is none.
ALTER TABLE piece ADD COLUMN support_ml     REAL NOT NULL DEFAULT 0 CHECK (support_ml >= 0);
ALTER TABLE piece ADD COLUMN raft_ml        REAL NOT NULL DEFAULT 0 CHECK (raft_ml >= 0);
ALTER TABLE piece ADD COLUMN hollow_wall_mm REAL CHECK (hollow_wall_mm > 0);
ALTER TABLE piece ADD COLUMN hollow_ml      REAL NOT NULL DEFAULT 0 CHECK (hollow_ml >= 0);
ALTER TABLE piece ADD COLUMN finest_mm      REAL CHECK (finest_mm > 0);
ALTER TABLE piece ADD COLUMN relief_mm      REAL CHECK (relief_mm > 0);
ALTER TABLE piece ADD COLUMN coupon         TEXT NOT NULL DEFAULT '';
ALTER TABLE piece ADD COLUMN geometry       TEXT NOT NULL DEFAULT '';

-- What the rungs of a ladder are: post, wall, slot, hole, raised stroke, ...
ALTER TABLE feature ADD COLUMN shape TEXT NOT NULL DEFAULT '';

ALTER TABLE series ADD COLUMN piece_id TEXT REFERENCES piece (id);

CREATE TABLE plate (
  id              TEXT    PRIMARY KEY,
  code            TEXT    NOT NULL UNIQUE,
  version         INTEGER NOT NULL,
  created_ms      INTEGER NOT NULL,
  name            TEXT    NOT NULL CHECK (name <> ''),
  machine_id      TEXT    NOT NULL REFERENCES machine (id),
  profile_id      TEXT    REFERENCES profile (id),
  bottle_id       TEXT    REFERENCES bottle (id),
  series_id       TEXT    REFERENCES series (id),
  margin_mm       REAL    NOT NULL CHECK (margin_mm >= 0),
  spacing_mm      REAL    NOT NULL CHECK (spacing_mm >= 0),
  overlap_allowed INTEGER NOT NULL CHECK (overlap_allowed IN (0, 1)),
  vat_fill_ml     REAL    CHECK (vat_fill_ml >= 0),
  drip_ml         REAL    NOT NULL CHECK (drip_ml >= 0),
  liquid_ratio    REAL    NOT NULL CHECK (liquid_ratio > 0),
  software        TEXT    NOT NULL,
  software_estimate_s REAL CHECK (software_estimate_s > 0),
  CHECK (profile_id IS NOT NULL OR series_id IS NOT NULL)
) STRICT;
CREATE INDEX plate_created ON plate (created_ms);

-- Where a copy stands: the middle of its box, from the front left corner of the
-- plate as it lies before you. exposure_s is that of its cell, where cells of
-- one plate differ.
CREATE TABLE placement (
  id         TEXT    PRIMARY KEY,
  plate_id   TEXT    NOT NULL REFERENCES plate (id),
  position   INTEGER NOT NULL,
  piece_id   TEXT    NOT NULL REFERENCES piece (id),
  scale_pct  REAL    NOT NULL CHECK (scale_pct > 0),
  x_mm       REAL    NOT NULL,
  y_mm       REAL    NOT NULL,
  turn_deg   REAL    NOT NULL,
  number     INTEGER CHECK (number > 0),
  exposure_s REAL    CHECK (exposure_s > 0),
  UNIQUE (plate_id, position)
) STRICT;

ALTER TABLE run ADD COLUMN plate_id TEXT REFERENCES plate (id);
CREATE INDEX run_plate ON run (plate_id);
CREATE INDEX run_bottle ON run (bottle_id);

-- NULL is a specimen of the run's own piece whose place was not planned.
ALTER TABLE specimen ADD COLUMN piece_id   TEXT REFERENCES piece (id);
ALTER TABLE specimen ADD COLUMN x_mm       REAL;
ALTER TABLE specimen ADD COLUMN y_mm       REAL;
ALTER TABLE specimen ADD COLUMN turn_deg   REAL;
ALTER TABLE specimen ADD COLUMN exposure_s REAL CHECK (exposure_s > 0);

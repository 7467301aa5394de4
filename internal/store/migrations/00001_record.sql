-- +goose Up
-- The record. Every measured column carries its unit, every instant is UTC
-- milliseconds (_ms), every calendar day is text YYYY-MM-DD (_on). NULL in a
-- condition of a run means "not known", which the reviewer said so.

CREATE TABLE bench (
  id             INTEGER PRIMARY KEY CHECK (id = 1),
  currency       TEXT    NOT NULL,
  energy_per_kwh REAL    NOT NULL CHECK (energy_per_kwh >= 0),
  labour_per_h   REAL    NOT NULL CHECK (labour_per_h >= 0),
  waste_pct      REAL    NOT NULL CHECK (waste_pct >= 0),
  version        INTEGER NOT NULL
) STRICT;
INSERT INTO bench VALUES (1, '€', 0.30, 0, 5, 1);

CREATE TABLE machine (
  id                 TEXT    PRIMARY KEY,
  code               TEXT    NOT NULL UNIQUE,
  version            INTEGER NOT NULL,
  created_ms         INTEGER NOT NULL,
  name               TEXT    NOT NULL CHECK (name <> ''),
  maker              TEXT    NOT NULL,
  light_engine       TEXT    NOT NULL CHECK (light_engine IN ('masked_lcd', 'projector', 'laser')),
  width_mm           REAL    NOT NULL CHECK (width_mm > 0),
  depth_mm           REAL    NOT NULL CHECK (depth_mm > 0),
  height_mm          REAL    NOT NULL CHECK (height_mm > 0),
  px_x               INTEGER CHECK (px_x > 0),
  px_y               INTEGER CHECK (px_y > 0),
  irradiance_mw_cm2  REAL    CHECK (irradiance_mw_cm2 > 0),
  dial_step_s        REAL    NOT NULL CHECK (dial_step_s > 0),
  spot_um            REAL    CHECK (spot_um > 0),
  hatch_mm           REAL    CHECK (hatch_mm > 0),
  hatch_mm_s         REAL    CHECK (hatch_mm_s > 0),
  contour_passes     INTEGER CHECK (contour_passes >= 0),
  contour_mm_s       REAL    CHECK (contour_mm_s > 0),
  settle_s           REAL    CHECK (settle_s >= 0),
  vat_max_ml         REAL    CHECK (vat_max_ml > 0),
  vat_dead_ml        REAL    CHECK (vat_dead_ml >= 0),
  lift               TEXT    NOT NULL,
  retract            TEXT    NOT NULL,
  release_s          REAL    CHECK (release_s >= 0),
  wait_before_s      REAL    NOT NULL CHECK (wait_before_s >= 0),
  wait_after_s       REAL    NOT NULL CHECK (wait_after_s >= 0),
  wait_lift_s        REAL    NOT NULL CHECK (wait_lift_s >= 0),
  start_s            REAL    NOT NULL CHECK (start_s >= 0),
  end_s              REAL    NOT NULL CHECK (end_s >= 0),
  power_w            REAL    NOT NULL CHECK (power_w >= 0),
  price_list         REAL    CHECK (price_list >= 0),
  price_discount     REAL    NOT NULL CHECK (price_discount >= 0),
  price_shipping     REAL    NOT NULL CHECK (price_shipping >= 0),
  price_tax_pct      REAL    NOT NULL CHECK (price_tax_pct >= 0),
  price_tax_included INTEGER NOT NULL CHECK (price_tax_included IN (0, 1)),
  price_extras       REAL    NOT NULL CHECK (price_extras >= 0),
  film_price         REAL    CHECK (film_price >= 0),
  film_life_layers   REAL    CHECK (film_life_layers > 0),
  light_price        REAL    CHECK (light_price >= 0),
  light_life_h       REAL    CHECK (light_life_h > 0),
  supplied_by        TEXT    NOT NULL,
  notes              TEXT    NOT NULL
) STRICT;

-- A knot on the machine's cord: what changed it between runs.
CREATE TABLE machine_event (
  id         TEXT    PRIMARY KEY,
  machine_id TEXT    NOT NULL REFERENCES machine (id),
  at_ms      INTEGER NOT NULL,
  kind       TEXT    NOT NULL CHECK (kind IN ('film', 'panel', 'relevel', 'move', 'vat_clean', 'firmware', 'upgrade', 'light_calibration', 'incident')),
  note       TEXT    NOT NULL,
  created_ms INTEGER NOT NULL
) STRICT;
CREATE INDEX machine_event_machine ON machine_event (machine_id, at_ms);

CREATE TABLE resin (
  id                 TEXT    PRIMARY KEY,
  code               TEXT    NOT NULL UNIQUE,
  version            INTEGER NOT NULL,
  created_ms         INTEGER NOT NULL,
  name               TEXT    NOT NULL CHECK (name <> ''),
  maker              TEXT    NOT NULL,
  family             TEXT    NOT NULL,
  colour             TEXT    NOT NULL,
  density_g_ml       REAL    CHECK (density_g_ml > 0),
  bottle_ml          REAL    CHECK (bottle_ml > 0),
  bottle_g           REAL    CHECK (bottle_g > 0),
  price_list         REAL    NOT NULL CHECK (price_list >= 0),
  price_discount     REAL    NOT NULL CHECK (price_discount >= 0),
  price_shipping     REAL    NOT NULL CHECK (price_shipping >= 0),
  price_tax_pct      REAL    NOT NULL CHECK (price_tax_pct >= 0),
  price_tax_included INTEGER NOT NULL CHECK (price_tax_included IN (0, 1)),
  stated_wash_s      REAL    CHECK (stated_wash_s >= 0),
  stated_cure_s      REAL    CHECK (stated_cure_s >= 0),
  notes              TEXT    NOT NULL
) STRICT;

CREATE TABLE bottle (
  id         TEXT    PRIMARY KEY,
  code       TEXT    NOT NULL UNIQUE,
  version    INTEGER NOT NULL,
  created_ms INTEGER NOT NULL,
  resin_id   TEXT    NOT NULL REFERENCES resin (id),
  lot        TEXT    NOT NULL,
  opened_on  TEXT    CHECK (opened_on IS NULL OR opened_on GLOB '[0-9][0-9][0-9][0-9]-[0-9][0-9]-[0-9][0-9]'),
  expires_on TEXT    CHECK (expires_on IS NULL OR expires_on GLOB '[0-9][0-9][0-9][0-9]-[0-9][0-9]-[0-9][0-9]')
) STRICT;

CREATE TABLE instrument (
  id             TEXT    PRIMARY KEY,
  code           TEXT    NOT NULL UNIQUE,
  version        INTEGER NOT NULL,
  created_ms     INTEGER NOT NULL,
  name           TEXT    NOT NULL CHECK (name <> ''),
  resolution_mm  REAL    NOT NULL CHECK (resolution_mm >= 0),
  reference_u_mm REAL    NOT NULL CHECK (reference_u_mm >= 0)
) STRICT;

CREATE TABLE piece (
  id                TEXT    PRIMARY KEY,
  code              TEXT    NOT NULL UNIQUE,
  version           INTEGER NOT NULL,
  created_ms        INTEGER NOT NULL,
  name              TEXT    NOT NULL CHECK (name <> ''),
  revision          TEXT    NOT NULL,
  mesh_sha256       TEXT    NOT NULL,
  file_name         TEXT    NOT NULL,
  format            TEXT    NOT NULL,
  triangles         INTEGER NOT NULL CHECK (triangles > 0),
  size_x_mm         REAL    NOT NULL,
  size_y_mm         REAL    NOT NULL,
  size_z_mm         REAL    NOT NULL,
  surface_mm2       REAL    NOT NULL,
  volume_ml         REAL    NOT NULL,
  shells            INTEGER NOT NULL,
  open_edges        INTEGER NOT NULL,
  nonmanifold_edges INTEGER NOT NULL,
  mesh_warnings     TEXT    NOT NULL,
  support_pct       REAL    NOT NULL CHECK (support_pct >= 0),
  outline_mm2       REAL    NOT NULL CHECK (outline_mm2 >= 0)
) STRICT;

-- What is measured on a piece: a dimension, a ladder of pins or gaps with its
-- rungs, or a checkpoint.
CREATE TABLE feature (
  id         TEXT    PRIMARY KEY,
  piece_id   TEXT    NOT NULL REFERENCES piece (id),
  position   INTEGER NOT NULL,
  kind       TEXT    NOT NULL CHECK (kind IN ('dimension', 'pins', 'gaps', 'checkpoint')),
  name       TEXT    NOT NULL CHECK (name <> ''),
  nominal_mm REAL    CHECK (nominal_mm > 0),
  axis       TEXT    CHECK (axis IN ('x', 'y', 'z')),
  side       TEXT    CHECK (side IN ('outer', 'inner')),
  rungs_mm   TEXT    NOT NULL,
  place      TEXT    NOT NULL,
  retired_ms INTEGER,
  CHECK (kind <> 'dimension' OR (nominal_mm IS NOT NULL AND axis IS NOT NULL AND side IS NOT NULL))
) STRICT;
CREATE INDEX feature_piece ON feature (piece_id, position);

CREATE TABLE review (
  id           TEXT    PRIMARY KEY,
  code         TEXT    NOT NULL UNIQUE,
  version      INTEGER NOT NULL,
  created_ms   INTEGER NOT NULL,
  question     TEXT    NOT NULL CHECK (question <> ''),
  readers      TEXT    NOT NULL,
  under_test   TEXT    NOT NULL,
  policy       TEXT    NOT NULL CHECK (policy IN ('same_settings', 'maker_default', 'each_calibrated')),
  disclosure   TEXT    NOT NULL,
  verdict      TEXT    NOT NULL,
  not_tested   TEXT    NOT NULL,
  machine_ids  TEXT    NOT NULL,
  resin_ids    TEXT    NOT NULL,
  piece_ids    TEXT    NOT NULL
) STRICT;

-- Immutable once written: a change makes a new profile with its parent.
CREATE TABLE profile (
  id                TEXT    PRIMARY KEY,
  code              TEXT    NOT NULL UNIQUE,
  created_ms        INTEGER NOT NULL,
  machine_id        TEXT    NOT NULL REFERENCES machine (id),
  resin_id          TEXT    NOT NULL REFERENCES resin (id),
  layer_um          REAL    NOT NULL CHECK (layer_um > 0),
  exposure_s        REAL    CHECK (exposure_s > 0),
  bottom_layers     INTEGER NOT NULL CHECK (bottom_layers >= 0),
  bottom_exposure_s REAL    CHECK (bottom_exposure_s > 0),
  transition_layers INTEGER NOT NULL CHECK (transition_layers >= 0),
  antialiasing      TEXT    NOT NULL,
  basis             TEXT    NOT NULL CHECK (basis IN ('default', 'calibrated', 'borrowed', 'sealed')),
  sealed_name       TEXT    NOT NULL,
  series_id         TEXT    REFERENCES series (id),
  parent_id         TEXT    REFERENCES profile (id),
  note              TEXT    NOT NULL,
  CHECK (basis <> 'sealed' OR sealed_name <> '')
) STRICT;
CREATE INDEX profile_machine ON profile (machine_id, resin_id);

CREATE TABLE series (
  id                TEXT    PRIMARY KEY,
  code              TEXT    NOT NULL UNIQUE,
  version           INTEGER NOT NULL,
  created_ms        INTEGER NOT NULL,
  machine_id        TEXT    NOT NULL REFERENCES machine (id),
  resin_id          TEXT    NOT NULL REFERENCES resin (id),
  layer_um          REAL    NOT NULL CHECK (layer_um > 0),
  school            TEXT    NOT NULL CHECK (school IN ('fit', 'detail', 'survival')),
  bottom_layers     INTEGER NOT NULL CHECK (bottom_layers >= 0),
  bottom_exposure_s REAL    NOT NULL CHECK (bottom_exposure_s > 0),
  transition_layers INTEGER NOT NULL CHECK (transition_layers >= 0),
  origin            TEXT    NOT NULL,
  profile_id        TEXT    REFERENCES profile (id)
) STRICT;

CREATE TABLE cell (
  id         TEXT    PRIMARY KEY,
  series_id  TEXT    NOT NULL REFERENCES series (id),
  number     INTEGER NOT NULL CHECK (number > 0),
  exposure_s REAL    NOT NULL CHECK (exposure_s > 0),
  UNIQUE (series_id, number)
) STRICT;

-- Appended, never overwritten: the last one of a cell counts.
CREATE TABLE cell_reading (
  id              TEXT    PRIMARY KEY,
  cell_id         TEXT    NOT NULL REFERENCES cell (id),
  recorded_ms     INTEGER NOT NULL,
  survived        INTEGER CHECK (survived IN (0, 1)),
  smallest_pin_mm REAL    CHECK (smallest_pin_mm > 0),
  smallest_gap_mm REAL    CHECK (smallest_gap_mm > 0),
  outer_error_mm  REAL,
  inner_error_mm  REAL,
  features_ok     INTEGER CHECK (features_ok >= 0),
  features_total  INTEGER CHECK (features_total > 0)
) STRICT;
CREATE INDEX cell_reading_cell ON cell_reading (cell_id, recorded_ms);

CREATE TABLE run (
  id                  TEXT    PRIMARY KEY,
  code                TEXT    NOT NULL UNIQUE,
  version             INTEGER NOT NULL,
  created_ms          INTEGER NOT NULL,
  machine_id          TEXT    NOT NULL REFERENCES machine (id),
  resin_id            TEXT    NOT NULL REFERENCES resin (id),
  bottle_id           TEXT    REFERENCES bottle (id),
  profile_id          TEXT    NOT NULL REFERENCES profile (id),
  piece_id            TEXT    NOT NULL REFERENCES piece (id),
  copies              INTEGER NOT NULL CHECK (copies > 0),
  started_ms          INTEGER NOT NULL,
  ended_ms            INTEGER CHECK (ended_ms > started_ms),
  software            TEXT,
  software_estimate_s REAL    CHECK (software_estimate_s > 0),
  our_estimate_s      REAL    CHECK (our_estimate_s > 0),
  light_on_s          REAL    CHECK (light_on_s >= 0),
  layers              INTEGER NOT NULL CHECK (layers > 0),
  estimate_model      TEXT    NOT NULL,
  resin_used_g        REAL    CHECK (resin_used_g > 0),
  attended_min        REAL    CHECK (attended_min >= 0),
  room_temp_c         REAL,
  resin_temp_c        REAL,
  film_layers         REAL    CHECK (film_layers >= 0),
  film_clouded        INTEGER CHECK (film_clouded IN (0, 1)),
  days_since_level    REAL    CHECK (days_since_level >= 0),
  moved_since_level   INTEGER CHECK (moved_since_level IN (0, 1)),
  orientation         TEXT,
  supports            TEXT,
  scale_pct           REAL    CHECK (scale_pct > 0),
  wash_s              REAL    CHECK (wash_s >= 0),
  cure_s              REAL    CHECK (cure_s >= 0),
  surface             TEXT    CHECK (surface IN ('raw', 'primed', 'painted')),
  notes               TEXT    NOT NULL
) STRICT;
CREATE INDEX run_machine ON run (machine_id, started_ms);
CREATE INDEX run_started ON run (started_ms);

CREATE TABLE specimen (
  id       TEXT    PRIMARY KEY,
  run_id   TEXT    NOT NULL REFERENCES run (id),
  copy     INTEGER NOT NULL CHECK (copy > 0),
  code     TEXT    NOT NULL UNIQUE,
  outcome  TEXT    NOT NULL CHECK (outcome IN ('pending', 'whole', 'micro_defect', 'lost')),
  symptom  TEXT    NOT NULL,
  origin   TEXT    NOT NULL CHECK (origin IN ('printed', 'removal', 'wash', 'supports', 'handling', 'unknown')),
  fault    TEXT    NOT NULL CHECK (fault IN ('none', 'machine', 'resin', 'file', 'operator', 'unknown')),
  note     TEXT    NOT NULL,
  UNIQUE (run_id, copy),
  CHECK (outcome NOT IN ('micro_defect', 'lost') OR symptom <> '')
) STRICT;

-- Appended, never overwritten: a correction points to what it corrects.
CREATE TABLE reading (
  id            TEXT    PRIMARY KEY,
  specimen_id   TEXT    NOT NULL REFERENCES specimen (id),
  feature_id    TEXT    NOT NULL REFERENCES feature (id),
  instrument_id TEXT    REFERENCES instrument (id),
  recorded_ms   INTEGER NOT NULL,
  value_mm      REAL    CHECK (value_mm > 0),
  rung_mm       REAL    CHECK (rung_mm > 0),
  intact        INTEGER CHECK (intact IN (0, 1)),
  state         TEXT    CHECK (state IN ('present', 'damaged', 'missing')),
  corrects_id   TEXT    UNIQUE REFERENCES reading (id),
  CHECK ((value_mm IS NOT NULL) + (rung_mm IS NOT NULL AND intact IS NOT NULL) + (state IS NOT NULL) = 1)
) STRICT;
CREATE INDEX reading_specimen ON reading (specimen_id, feature_id, recorded_ms);

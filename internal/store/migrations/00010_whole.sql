-- +goose Up
-- Every piece by its name, settings whole, conditions computed, and a history of
-- every entry. Words (kinds, origins, faults, bases) are the program's, which checks
-- them before it writes; a CHECK here would say them a second time.
-- Foreign keys are off while this runs, since tables are made anew.

DROP TRIGGER specimen_added;
DROP TRIGGER specimen_judged;

-- What was typed of film and level becomes what the machine's knots say: the first
-- print of a machine tells how many layers its film had and when it was levelled.
-- The rest is kept in words with the print.
CREATE TABLE machine_event_whole (
  id             TEXT    PRIMARY KEY,
  machine_id     TEXT    NOT NULL REFERENCES machine (id),
  at_ms          INTEGER NOT NULL,
  kinds          TEXT    NOT NULL,
  note           TEXT    NOT NULL,
  created_ms     INTEGER NOT NULL,
  changes        TEXT    NOT NULL,
  film_layers    REAL    CHECK (film_layers >= 0),
  light_h        REAL    CHECK (light_h >= 0),
  unknown_before INTEGER NOT NULL CHECK (unknown_before IN (0, 1)),
  resin_id       TEXT    REFERENCES resin (id),
  version        INTEGER NOT NULL,
  retired_ms     INTEGER,
  retired_why    TEXT    NOT NULL
) STRICT;
INSERT INTO machine_event_whole
SELECT id, machine_id, at_ms, json_array(kind), note, created_ms, changes, NULL, NULL, 0, NULL, 1, NULL, '' FROM machine_event;
INSERT INTO machine_event_whole
SELECT lower(hex(randomblob(9))), machine_id, started_ms, '["counter"]', 'as noted with ' || code, created_ms, '', film_layers, NULL, 0, NULL, 1, NULL, ''
FROM (SELECT *, row_number() OVER (PARTITION BY machine_id ORDER BY started_ms, rowid) AS n FROM run WHERE film_layers IS NOT NULL) AS noted WHERE n = 1;
INSERT INTO machine_event_whole
SELECT lower(hex(randomblob(9))), machine_id, started_ms - CAST(days_since_level * 86400000 AS INTEGER), '["relevel"]', 'as noted with ' || code, created_ms, '', NULL, NULL, 0, NULL, 1, NULL, ''
FROM (SELECT *, row_number() OVER (PARTITION BY machine_id ORDER BY started_ms, rowid) AS n FROM run WHERE days_since_level IS NOT NULL) AS noted WHERE n = 1;
INSERT INTO machine_event_whole
SELECT lower(hex(randomblob(9))), machine_id, started_ms - 1, '["move"]', 'as noted with ' || code, created_ms, '', NULL, NULL, 0, NULL, 1, NULL, ''
FROM (SELECT *, row_number() OVER (PARTITION BY machine_id ORDER BY started_ms, rowid) AS n FROM run WHERE moved_since_level = 1) AS noted WHERE n = 1;
DROP TABLE machine_event;
ALTER TABLE machine_event_whole RENAME TO machine_event;
CREATE INDEX machine_event_machine ON machine_event (machine_id, at_ms);

-- What a machine never tells (it has no thermometer), as names of conditions.
ALTER TABLE machine ADD COLUMN not_known TEXT NOT NULL DEFAULT '[]';
-- Faults that the quirk card names, with what is done against each since when, as JSON.
ALTER TABLE machine ADD COLUMN quirk_faults TEXT NOT NULL DEFAULT '[]';

-- Settings hold all that shapes a print; what is hidden is NULL.
CREATE TABLE profile_whole (
  id                TEXT    PRIMARY KEY,
  code              TEXT    NOT NULL UNIQUE,
  created_ms        INTEGER NOT NULL,
  machine_id        TEXT    NOT NULL REFERENCES machine (id),
  resin_id          TEXT    NOT NULL REFERENCES resin (id),
  layer_um          REAL    NOT NULL CHECK (layer_um > 0),
  exposure_s        REAL    CHECK (exposure_s > 0),
  bottom_layers     INTEGER CHECK (bottom_layers >= 0),
  bottom_exposure_s REAL    CHECK (bottom_exposure_s > 0),
  transition_layers INTEGER CHECK (transition_layers >= 0),
  antialiasing      TEXT    NOT NULL,
  basis             TEXT    NOT NULL,
  sealed_name       TEXT    NOT NULL,
  series_id         TEXT    REFERENCES series (id),
  parent_id         TEXT    REFERENCES profile (id),
  note              TEXT    NOT NULL,
  name              TEXT    NOT NULL,
  lift              TEXT    NOT NULL,
  retract           TEXT    NOT NULL,
  release_s         REAL    CHECK (release_s >= 0),
  wait_before_s     REAL    CHECK (wait_before_s >= 0),
  wait_after_s      REAL    CHECK (wait_after_s >= 0),
  wait_lift_s       REAL    CHECK (wait_lift_s >= 0),
  light_power_pct   REAL    CHECK (light_power_pct > 0),
  options           TEXT    NOT NULL,
  version           INTEGER NOT NULL,
  archived_ms       INTEGER,
  archived_why      TEXT    NOT NULL
) STRICT;
INSERT INTO profile_whole
SELECT p.id, p.code, p.created_ms, p.machine_id, p.resin_id, p.layer_um, p.exposure_s,
  CASE WHEN p.basis = 'sealed' AND p.bottom_layers = 0 THEN NULL ELSE p.bottom_layers END, p.bottom_exposure_s,
  CASE WHEN p.basis = 'sealed' AND p.transition_layers = 0 THEN NULL ELSE p.transition_layers END,
  p.antialiasing, p.basis, p.sealed_name, p.series_id, p.parent_id, p.note, '',
  CASE WHEN p.basis = 'sealed' OR m.light_engine = 'laser' THEN '[]' ELSE m.lift END,
  CASE WHEN p.basis = 'sealed' OR m.light_engine = 'laser' THEN '[]' ELSE m.retract END,
  CASE WHEN p.basis = 'sealed' OR m.light_engine = 'laser' THEN NULL ELSE m.release_s END,
  CASE WHEN p.basis = 'sealed' OR m.light_engine = 'laser' THEN NULL ELSE m.wait_before_s END,
  CASE WHEN p.basis = 'sealed' OR m.light_engine = 'laser' THEN NULL ELSE m.wait_after_s END,
  CASE WHEN p.basis = 'sealed' OR m.light_engine = 'laser' THEN NULL ELSE m.wait_lift_s END,
  NULL, '[]', 1, NULL, ''
FROM profile AS p JOIN machine AS m ON m.id = p.machine_id;
DROP TABLE profile;
ALTER TABLE profile_whole RENAME TO profile;
CREATE INDEX profile_machine ON profile (machine_id, resin_id);

-- A specimen is a copy of a piece. failed, failed_by, micro_printed and accident
-- are what the program derived from its defects when it was judged.
CREATE TABLE specimen_whole (
  id            TEXT    PRIMARY KEY,
  run_id        TEXT    NOT NULL REFERENCES run (id),
  copy          INTEGER NOT NULL CHECK (copy > 0),
  code          TEXT    NOT NULL UNIQUE,
  outcome       TEXT    NOT NULL,
  note          TEXT    NOT NULL,
  piece_id      TEXT    NOT NULL REFERENCES piece (id),
  x_mm          REAL,
  y_mm          REAL,
  turn_deg      REAL,
  exposure_s    REAL    CHECK (exposure_s > 0),
  swapped_with  TEXT    NOT NULL,
  version       INTEGER NOT NULL,
  scale_pct     REAL    NOT NULL CHECK (scale_pct > 0),
  failed        INTEGER NOT NULL CHECK (failed IN (0, 1)),
  failed_by     TEXT    NOT NULL,
  micro_printed INTEGER NOT NULL CHECK (micro_printed IN (0, 1)),
  accident      INTEGER NOT NULL CHECK (accident IN (0, 1)),
  UNIQUE (run_id, copy)
) STRICT;
INSERT INTO specimen_whole
SELECT s.id, s.run_id, s.copy, s.code, s.outcome, s.note, coalesce(s.piece_id, r.piece_id), s.x_mm, s.y_mm, s.turn_deg, s.exposure_s, s.swapped_with, s.version,
  coalesce((SELECT p.scale_pct FROM placement AS p WHERE p.plate_id = r.plate_id AND p.piece_id = coalesce(s.piece_id, r.piece_id) AND p.x_mm = s.x_mm AND p.y_mm = s.y_mm LIMIT 1), r.scale_pct, 100),
  s.outcome = 'lost' AND s.origin IN ('printed', 'unknown'),
  CASE WHEN s.outcome = 'lost' AND s.origin IN ('printed', 'unknown') THEN s.fault ELSE '' END,
  s.outcome = 'micro_defect' AND s.origin IN ('printed', 'unknown'),
  s.outcome IN ('lost', 'micro_defect') AND s.origin NOT IN ('printed', 'unknown')
FROM specimen AS s JOIN run AS r ON r.id = s.run_id;

-- Appended; one that was taken back stays, with its reason.
CREATE TABLE defect (
  id             TEXT    PRIMARY KEY,
  specimen_id    TEXT    NOT NULL REFERENCES specimen (id),
  symptom        TEXT    NOT NULL CHECK (symptom <> ''),
  severity       TEXT    NOT NULL,
  began_layer    INTEGER CHECK (began_layer > 0),
  began_mm       REAL    CHECK (began_mm >= 0),
  origin         TEXT    NOT NULL,
  fault          TEXT    NOT NULL,
  note           TEXT    NOT NULL,
  at_ms          INTEGER NOT NULL,
  taken_back_ms  INTEGER,
  taken_back_why TEXT    NOT NULL
) STRICT;
INSERT INTO defect
SELECT lower(hex(randomblob(9))), s.id, s.symptom, s.severity, s.began_layer, s.began_mm, s.origin, s.fault, '', r.created_ms, NULL, ''
FROM specimen AS s JOIN run AS r ON r.id = s.run_id WHERE s.symptom <> '' AND s.outcome IN ('lost', 'micro_defect') ORDER BY s.rowid;
DROP TABLE specimen;
ALTER TABLE specimen_whole RENAME TO specimen;
CREATE INDEX specimen_piece ON specimen (piece_id, run_id);
CREATE INDEX defect_specimen ON defect (specimen_id);

-- How many of a print's copies of a piece came out how: sums of what was derived.
CREATE TABLE tally_whole (
  run_id        TEXT    NOT NULL REFERENCES run (id),
  piece_id      TEXT    NOT NULL REFERENCES piece (id),
  specimens     INTEGER NOT NULL,
  pending       INTEGER NOT NULL,
  whole         INTEGER NOT NULL,
  micro         INTEGER NOT NULL,
  lost          INTEGER NOT NULL,
  micro_printed INTEGER NOT NULL,
  failed        INTEGER NOT NULL,
  by_machine    INTEGER NOT NULL,
  by_resin      INTEGER NOT NULL,
  accidents     INTEGER NOT NULL,
  PRIMARY KEY (run_id, piece_id)
) STRICT;
INSERT INTO tally_whole
SELECT run_id, piece_id, count(*), sum(outcome = 'pending'), sum(outcome = 'whole'), sum(outcome = 'micro_defect'), sum(outcome = 'lost'),
  sum(micro_printed), sum(failed), sum(failed_by = 'machine'), sum(failed_by = 'resin'), sum(accident)
FROM specimen GROUP BY run_id, piece_id;
DROP TABLE tally;
ALTER TABLE tally_whole RENAME TO tally;

-- A print. worn_layers and worn_light_s are what it took of film and light: nothing
-- of one that has not ended or that a stand-in made, a part of one that was stopped.
-- area_mm2 and outline_mm are all its layers together, as its time is learned from;
-- job names what was printed, and shape what became of it.
CREATE TABLE run_whole (
  id                  TEXT    PRIMARY KEY,
  code                TEXT    NOT NULL UNIQUE,
  version             INTEGER NOT NULL,
  created_ms          INTEGER NOT NULL,
  machine_id          TEXT    NOT NULL REFERENCES machine (id),
  resin_id            TEXT    NOT NULL REFERENCES resin (id),
  bottle_id           TEXT    REFERENCES bottle (id),
  profile_id          TEXT    NOT NULL REFERENCES profile (id),
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
  film_clouded        INTEGER CHECK (film_clouded IN (0, 1)),
  orientation         TEXT,
  supports            TEXT,
  wash_s              REAL    CHECK (wash_s >= 0),
  cure_s              REAL    CHECK (cure_s >= 0),
  surface             TEXT,
  notes               TEXT    NOT NULL,
  plate_id            TEXT    REFERENCES plate (id),
  prepared_ms         INTEGER,
  vat_fill_ml         REAL    CHECK (vat_fill_ml >= 0),
  prediction          TEXT    NOT NULL,
  prediction_fail_pct REAL    CHECK (prediction_fail_pct BETWEEN 0 AND 100),
  speed_up            REAL    CHECK (speed_up > 0),
  clock_went_back     INTEGER NOT NULL CHECK (clock_went_back IN (0, 1)),
  ended_how           TEXT    NOT NULL,
  paused_s            REAL    NOT NULL CHECK (paused_s >= 0),
  level_off           INTEGER CHECK (level_off IN (0, 1)),
  observed            TEXT    NOT NULL,
  stopped_layer       INTEGER CHECK (stopped_layer >= 0),
  dial_changed        INTEGER NOT NULL CHECK (dial_changed IN (0, 1)),
  end_confirmed       INTEGER NOT NULL CHECK (end_confirmed IN (0, 1)),
  worn_layers         INTEGER NOT NULL CHECK (worn_layers >= 0),
  worn_light_s        REAL    CHECK (worn_light_s >= 0),
  area_mm2            REAL,
  outline_mm          REAL,
  job                 TEXT    NOT NULL,
  shape               TEXT    NOT NULL
) STRICT;
INSERT INTO run_whole
SELECT id, code, version, created_ms, machine_id, resin_id, bottle_id, profile_id, copies, started_ms, ended_ms, software, software_estimate_s, our_estimate_s, light_on_s, layers,
  estimate_model, resin_used_g, attended_min, room_temp_c, resin_temp_c, film_clouded, orientation, supports, wash_s, cure_s, surface, notes, plate_id, prepared_ms, vat_fill_ml, prediction,
  prediction_fail_pct, speed_up, clock_went_back, ended_how, paused_s, NULL,
  CASE WHEN film_layers IS NULL AND days_since_level IS NULL THEN '' ELSE rtrim('Noted then: '
    || CASE WHEN film_layers IS NULL THEN '' ELSE CAST(film_layers AS INTEGER) || ' layers on the film, ' END
    || CASE WHEN days_since_level IS NULL THEN '' ELSE CAST(days_since_level AS INTEGER) || ' days since levelling, ' END
    || CASE moved_since_level WHEN 1 THEN 'moved since.' WHEN 0 THEN 'not moved since.' ELSE '' END, ', ') END,
  NULL, 0, 0,
  CASE WHEN ended_ms IS NULL OR speed_up IS NOT NULL THEN 0
    WHEN ended_how = 'stopped' AND our_estimate_s IS NOT NULL THEN CAST(min(layers, ceil(layers * max(0, (ended_ms - started_ms) / 1000.0 - paused_s) / our_estimate_s)) AS INTEGER)
    ELSE layers END,
  CASE WHEN ended_ms IS NULL OR speed_up IS NOT NULL THEN 0
    WHEN ended_how = 'stopped' AND our_estimate_s IS NOT NULL THEN light_on_s * min(1, max(0, (ended_ms - started_ms) / 1000.0 - paused_s) / our_estimate_s)
    ELSE light_on_s END,
  NULL, NULL, '',
  coalesce((SELECT CASE WHEN sum(pending) > 0 THEN 'open' WHEN sum(lost) = sum(specimens) THEN 'ring' WHEN sum(lost) > 0 THEN 'split' WHEN sum(micro) > 0 THEN 'nicked' ELSE 'whole' END
    FROM tally WHERE tally.run_id = run.id), 'open')
FROM run;
DROP TABLE run;
ALTER TABLE run_whole RENAME TO run;
CREATE INDEX run_started ON run (started_ms, id, machine_id, resin_id, code);
CREATE INDEX run_plate ON run (plate_id);
CREATE INDEX run_shape ON run (shape, started_ms);
CREATE INDEX run_open ON run (prepared_ms) WHERE prepared_ms IS NOT NULL AND ended_ms IS NULL;
CREATE INDEX run_profile ON run (profile_id, started_ms);
CREATE INDEX run_resin ON run (resin_id, started_ms);
CREATE INDEX run_used ON run (machine_id, started_ms, ended_ms, speed_up, resin_id, worn_layers, worn_light_s, id);
CREATE INDEX run_bottle_used ON run (bottle_id, started_ms, resin_used_g);
CREATE INDEX run_thread ON run (machine_id, started_ms, resin_id, code);
CREATE INDEX run_times ON run (machine_id, started_ms, profile_id, job, ended_ms, ended_how, paused_s, clock_went_back, speed_up, dial_changed, our_estimate_s, estimate_model, software, software_estimate_s, layers, area_mm2, outline_mm);

-- A reading that was taken back stays, with its reason, and counts no more.
ALTER TABLE reading ADD COLUMN taken_back_ms INTEGER;
ALTER TABLE reading ADD COLUMN taken_back_why TEXT NOT NULL DEFAULT '';

-- Why an item was left out before a print.
ALTER TABLE preflight ADD COLUMN reason TEXT NOT NULL DEFAULT '';

-- More that can happen to a print and to a bottle.
CREATE TABLE run_event_whole (
  id         TEXT    PRIMARY KEY,
  run_id     TEXT    NOT NULL REFERENCES run (id),
  at_ms      INTEGER NOT NULL,
  kind       TEXT    NOT NULL,
  ml         REAL    CHECK (ml > 0),
  note       TEXT    NOT NULL,
  created_ms INTEGER NOT NULL,
  position   INTEGER NOT NULL,
  layer      INTEGER CHECK (layer >= 0)
) STRICT;
INSERT INTO run_event_whole SELECT id, run_id, at_ms, kind, ml, note, created_ms, position, NULL FROM run_event;
DROP TABLE run_event;
ALTER TABLE run_event_whole RENAME TO run_event;
CREATE UNIQUE INDEX run_event_position ON run_event (run_id, position);

CREATE TABLE bottle_event_whole (
  id        TEXT    PRIMARY KEY,
  bottle_id TEXT    NOT NULL REFERENCES bottle (id),
  at_ms     INTEGER NOT NULL,
  kind      TEXT    NOT NULL,
  gross_g   REAL    CHECK (gross_g > 0),
  note      TEXT    NOT NULL,
  ml        REAL    CHECK (ml > 0),
  other     TEXT    NOT NULL
) STRICT;
INSERT INTO bottle_event_whole SELECT id, bottle_id, at_ms, kind, gross_g, note, NULL, '' FROM bottle_event;
DROP TABLE bottle_event;
ALTER TABLE bottle_event_whole RENAME TO bottle_event;
CREATE INDEX bottle_event_bottle ON bottle_event (bottle_id, at_ms);

-- Pieces that are one model printed in parts, as JSON: a piece and how many of it.
CREATE TABLE assembly (
  id         TEXT    PRIMARY KEY,
  code       TEXT    NOT NULL UNIQUE,
  version    INTEGER NOT NULL,
  created_ms INTEGER NOT NULL,
  name       TEXT    NOT NULL CHECK (name <> ''),
  note       TEXT    NOT NULL,
  parts      TEXT    NOT NULL
) STRICT;

-- What a command changed of an entry: enough to put it back.
CREATE TABLE amendment (
  id      TEXT    PRIMARY KEY,
  kind    TEXT    NOT NULL,
  entry   TEXT    NOT NULL,
  at_ms   INTEGER NOT NULL,
  command TEXT    NOT NULL,
  why     TEXT    NOT NULL,
  before  TEXT    NOT NULL,
  after   TEXT    NOT NULL
) STRICT;
CREATE INDEX amendment_entry ON amendment (kind, entry, at_ms);

-- +goose Up
-- After the print: steps with their times, baths, waste; what became of each
-- specimen in full; bottles that are weighed; what a knot changed; what a maker
-- asks to be done, and what was counted of each run.

ALTER TABLE specimen ADD COLUMN severity     TEXT NOT NULL DEFAULT '' CHECK (severity IN ('', 'slight', 'plain', 'grave'));
ALTER TABLE specimen ADD COLUMN began_layer  INTEGER CHECK (began_layer > 0);
ALTER TABLE specimen ADD COLUMN began_mm     REAL CHECK (began_mm >= 0);
-- The code of the specimen that it may have been swapped with.
ALTER TABLE specimen ADD COLUMN swapped_with TEXT NOT NULL DEFAULT '';

CREATE TABLE bath (
  id          TEXT    PRIMARY KEY,
  code        TEXT    NOT NULL UNIQUE,
  version     INTEGER NOT NULL,
  created_ms  INTEGER NOT NULL,
  name        TEXT    NOT NULL CHECK (name <> ''),
  solvent     TEXT    NOT NULL CHECK (solvent <> ''),
  volume_ml   REAL    CHECK (volume_ml > 0),
  filled_ms   INTEGER NOT NULL,
  life_prints INTEGER CHECK (life_prints > 0),
  notes       TEXT    NOT NULL
) STRICT;

-- What is done to a print after it. ended_ms is NULL while its timer runs.
CREATE TABLE process_step (
  id         TEXT    PRIMARY KEY,
  run_id     TEXT    NOT NULL REFERENCES run (id),
  kind       TEXT    NOT NULL CHECK (kind IN ('drip', 'wash', 'dry', 'supports', 'cure')),
  started_ms INTEGER NOT NULL,
  ended_ms   INTEGER CHECK (ended_ms >= started_ms),
  planned_s  REAL    CHECK (planned_s > 0),
  bath_id    TEXT    REFERENCES bath (id),
  how        TEXT    NOT NULL,
  effort     INTEGER CHECK (effort BETWEEN 1 AND 5),
  scars      TEXT    NOT NULL CHECK (scars IN ('', 'none', 'light', 'deep')),
  note       TEXT    NOT NULL,
  CHECK (bath_id IS NULL OR kind = 'wash')
) STRICT;
CREATE INDEX process_step_run ON process_step (run_id, started_ms);
CREATE INDEX process_step_bath ON process_step (bath_id, started_ms);

CREATE TABLE waste (
  id        TEXT    PRIMARY KEY,
  at_ms     INTEGER NOT NULL,
  kind      TEXT    NOT NULL CHECK (kind IN ('solvent', 'wash_water', 'resin', 'scrap', 'filter', 'wipes')),
  amount    REAL    NOT NULL CHECK (amount > 0),
  unit      TEXT    NOT NULL CHECK (unit IN ('ml', 'g', 'pieces')),
  run_id    TEXT    REFERENCES run (id),
  bath_id   TEXT    REFERENCES bath (id),
  went_to   TEXT    NOT NULL,
  note      TEXT    NOT NULL
) STRICT;
CREATE INDEX waste_at ON waste (at_ms);

ALTER TABLE bottle ADD COLUMN tare_g REAL CHECK (tare_g >= 0);

-- gross_g is bottle and content on the scale.
CREATE TABLE bottle_event (
  id        TEXT    PRIMARY KEY,
  bottle_id TEXT    NOT NULL REFERENCES bottle (id),
  at_ms     INTEGER NOT NULL,
  kind      TEXT    NOT NULL CHECK (kind IN ('opened', 'weighed', 'emptied')),
  gross_g   REAL    CHECK (gross_g > 0),
  note      TEXT    NOT NULL,
  CHECK (kind <> 'weighed' OR gross_g IS NOT NULL)
) STRICT;
CREATE INDEX bottle_event_bottle ON bottle_event (bottle_id, at_ms);

-- All that changed with a knot, as JSON: an upgrade seldom changes one thing.
ALTER TABLE machine_event ADD COLUMN changes TEXT NOT NULL DEFAULT '';

-- What is to be done again and again, by the maker's word or one's own; a
-- contradicted one stays on record and no longer reminds.
CREATE TABLE reminder (
  id              TEXT    PRIMARY KEY,
  machine_id      TEXT    NOT NULL REFERENCES machine (id),
  created_ms      INTEGER NOT NULL,
  kind            TEXT    NOT NULL CHECK (kind IN ('film', 'panel', 'relevel', 'zero', 'vat_clean', 'firmware', 'light_calibration', 'filter')),
  every           REAL    NOT NULL CHECK (every > 0),
  unit            TEXT    NOT NULL CHECK (unit IN ('layers', 'light_h', 'days', 'runs')),
  source          TEXT    NOT NULL CHECK (source IN ('maker', 'own')),
  note            TEXT    NOT NULL,
  contradicted_ms INTEGER,
  contradiction   TEXT    NOT NULL,
  CHECK (contradicted_ms IS NULL OR contradiction <> '')
) STRICT;
CREATE INDEX reminder_machine ON reminder (machine_id);

-- How many of a run's specimens came out how. Kept by the triggers below, so
-- that pages need not count a hundred thousand specimens anew.
CREATE TABLE tally (
  run_id    TEXT    PRIMARY KEY REFERENCES run (id),
  specimens INTEGER NOT NULL,
  pending   INTEGER NOT NULL,
  whole     INTEGER NOT NULL,
  micro     INTEGER NOT NULL,
  lost      INTEGER NOT NULL,
  failed    INTEGER NOT NULL,
  laid      INTEGER NOT NULL,
  laid_resin INTEGER NOT NULL,
  mixed     INTEGER NOT NULL
) STRICT;

INSERT INTO tally
SELECT run_id, count(*), sum(outcome = 'pending'), sum(outcome = 'whole'), sum(outcome = 'micro_defect'), sum(outcome = 'lost'),
  sum(outcome = 'lost' AND origin IN ('printed', 'unknown')),
  sum(outcome = 'lost' AND origin IN ('printed', 'unknown') AND fault = 'machine'),
  sum(outcome = 'lost' AND origin IN ('printed', 'unknown') AND fault = 'resin'),
  max(specimen.piece_id IS NOT NULL AND specimen.piece_id <> run.piece_id)
FROM specimen JOIN run ON run.id = specimen.run_id GROUP BY run_id;

-- +goose StatementBegin
CREATE TRIGGER specimen_added AFTER INSERT ON specimen BEGIN
  INSERT INTO tally VALUES (NEW.run_id, 1, NEW.outcome = 'pending', NEW.outcome = 'whole', NEW.outcome = 'micro_defect', NEW.outcome = 'lost',
    NEW.outcome = 'lost' AND NEW.origin IN ('printed', 'unknown'),
    NEW.outcome = 'lost' AND NEW.origin IN ('printed', 'unknown') AND NEW.fault = 'machine',
    NEW.outcome = 'lost' AND NEW.origin IN ('printed', 'unknown') AND NEW.fault = 'resin',
    NEW.piece_id IS NOT NULL AND NEW.piece_id <> (SELECT piece_id FROM run WHERE id = NEW.run_id))
  ON CONFLICT (run_id) DO UPDATE SET
    specimens = specimens + 1, pending = pending + excluded.pending, whole = whole + excluded.whole, micro = micro + excluded.micro,
    lost = lost + excluded.lost, failed = failed + excluded.failed, laid = laid + excluded.laid, laid_resin = laid_resin + excluded.laid_resin, mixed = max(mixed, excluded.mixed);
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER specimen_judged AFTER UPDATE OF outcome, origin, fault ON specimen BEGIN
  UPDATE tally SET
    pending = pending + (NEW.outcome = 'pending') - (OLD.outcome = 'pending'),
    whole = whole + (NEW.outcome = 'whole') - (OLD.outcome = 'whole'),
    micro = micro + (NEW.outcome = 'micro_defect') - (OLD.outcome = 'micro_defect'),
    lost = lost + (NEW.outcome = 'lost') - (OLD.outcome = 'lost'),
    failed = failed + (NEW.outcome = 'lost' AND NEW.origin IN ('printed', 'unknown')) - (OLD.outcome = 'lost' AND OLD.origin IN ('printed', 'unknown')),
    laid = laid + (NEW.outcome = 'lost' AND NEW.origin IN ('printed', 'unknown') AND NEW.fault = 'machine')
      - (OLD.outcome = 'lost' AND OLD.origin IN ('printed', 'unknown') AND OLD.fault = 'machine'),
    laid_resin = laid_resin + (NEW.outcome = 'lost' AND NEW.origin IN ('printed', 'unknown') AND NEW.fault = 'resin')
      - (OLD.outcome = 'lost' AND OLD.origin IN ('printed', 'unknown') AND OLD.fault = 'resin')
  WHERE run_id = NEW.run_id;
END;
-- +goose StatementEnd

CREATE INDEX tally_pending ON tally (run_id) WHERE pending > 0;
CREATE INDEX run_open ON run (prepared_ms) WHERE prepared_ms IS NOT NULL AND ended_ms IS NULL;
CREATE INDEX run_profile ON run (profile_id, started_ms);
CREATE INDEX run_piece ON run (piece_id, started_ms);
CREATE INDEX run_resin ON run (resin_id, started_ms);

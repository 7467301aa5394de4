-- +goose Up
-- What a review plans to print: how its order was drawn. Its plates stand with it, each
-- with its turn on its machine.
CREATE TABLE review_plan (
  id         TEXT    PRIMARY KEY,
  created_ms INTEGER NOT NULL,
  review_id  TEXT    NOT NULL REFERENCES review (id),
  seed       INTEGER NOT NULL CHECK (seed >= 0),
  prints     INTEGER NOT NULL CHECK (prints > 0),
  says       TEXT    NOT NULL
) STRICT;
CREATE INDEX review_plan_review ON review_plan (review_id);

-- How what lies on a plate is prepared and treated, where that is planned.
ALTER TABLE plate ADD COLUMN orientation    TEXT;
ALTER TABLE plate ADD COLUMN supports       TEXT;
ALTER TABLE plate ADD COLUMN wash_s         REAL CHECK (wash_s >= 0);
ALTER TABLE plate ADD COLUMN cure_s         REAL CHECK (cure_s >= 0);
ALTER TABLE plate ADD COLUMN review_plan_id TEXT REFERENCES review_plan (id);
ALTER TABLE plate ADD COLUMN plan_turn      INTEGER CHECK (plan_turn > 0);
ALTER TABLE plate ADD COLUMN archived_ms    INTEGER;
ALTER TABLE plate ADD COLUMN archived_why   TEXT NOT NULL DEFAULT '';
CREATE INDEX plate_review_plan ON plate (review_plan_id);

-- What it takes to empty, clean and fill a vat with another resin.
ALTER TABLE bench ADD COLUMN vat_change_min REAL NOT NULL DEFAULT 20 CHECK (vat_change_min >= 0);

-- What a review declared to decide, declaration by declaration, and what its set-ups are
-- called, in their order.
ALTER TABLE review ADD COLUMN deciding TEXT NOT NULL DEFAULT '[]';
ALTER TABLE review ADD COLUMN set_ups  TEXT NOT NULL DEFAULT '[]';

-- What was claimed of a change: the time of a print, in per cent of before.
ALTER TABLE machine_event ADD COLUMN claimed_time_pct REAL CHECK (claimed_time_pct > 0);

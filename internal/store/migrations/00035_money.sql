-- +goose Up
-- Prices as they were asked on a day, what makes machines alike, and how an owner is taken to use one. An amount that is not
-- known is NULL, which is not 0.
CREATE TABLE price (
  id             TEXT    NOT NULL PRIMARY KEY,
  at_ms          INTEGER NOT NULL,
  machine_id     TEXT    REFERENCES machine (id),
  resin_id       TEXT    REFERENCES resin (id),
  day            TEXT    NOT NULL,
  state          TEXT    NOT NULL CHECK (state IN ('list', 'offer', 'coupon', 'pledge', 'paid', 'used')),
  until_day      TEXT,
  amount         REAL,
  shipping       REAL,
  tax_pct        REAL    NOT NULL,
  tax_included   INTEGER NOT NULL,
  source         TEXT    NOT NULL,
  note           TEXT    NOT NULL,
  taken_back_ms  INTEGER,
  taken_back_why TEXT    NOT NULL DEFAULT ''
) STRICT;

CREATE TABLE equipment (
  id         TEXT    NOT NULL PRIMARY KEY,
  at_ms      INTEGER NOT NULL,
  machine_id TEXT    NOT NULL REFERENCES machine (id),
  item       TEXT    NOT NULL,
  need       TEXT    NOT NULL CHECK (need IN ('included', 'to_buy', 'not_needed', 'unknown')),
  amount     REAL,
  source     TEXT    NOT NULL
) STRICT;

CREATE TABLE budget (
  id              TEXT    NOT NULL PRIMARY KEY,
  version         INTEGER NOT NULL,
  review_id       TEXT    NOT NULL UNIQUE REFERENCES review (id),
  pieces_per_year REAL    NOT NULL CHECK (pieces_per_year > 0),
  years           REAL    NOT NULL CHECK (years > 0),
  resale_pct      REAL    NOT NULL,
  upkeep          TEXT    NOT NULL,
  per_piece       REAL,
  paths           TEXT    NOT NULL
) STRICT;

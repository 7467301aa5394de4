-- +goose Up
-- Versions of reviews as they went out. Text, plots and figures are frozen; errata are added.
CREATE TABLE publication (
  id         TEXT    NOT NULL PRIMARY KEY,
  version    INTEGER NOT NULL,
  review_id  TEXT    NOT NULL REFERENCES review (id),
  number     INTEGER NOT NULL CHECK (number > 0),
  at_ms      INTEGER NOT NULL,
  title      TEXT    NOT NULL,
  text       TEXT    NOT NULL,
  plots      TEXT    NOT NULL,
  figures    TEXT    NOT NULL,
  prints     INTEGER NOT NULL,
  questioned INTEGER NOT NULL,
  why        TEXT    NOT NULL,
  errata     TEXT    NOT NULL
) STRICT;
CREATE UNIQUE INDEX publication_number ON publication (review_id, number);

-- +goose Up
-- How a review is written up: which parts stand in it, in which order, and what the reviewer put between them.
ALTER TABLE review ADD COLUMN blocks TEXT NOT NULL DEFAULT '[]';
-- The pictures of a version that went out, by their content.
ALTER TABLE publication ADD COLUMN pictures TEXT NOT NULL DEFAULT '[]';
-- Questions that a review left open, each with the day on which it wants an answer.
CREATE TABLE follow_up (
  id          TEXT    NOT NULL PRIMARY KEY,
  version     INTEGER NOT NULL,
  created_ms  INTEGER NOT NULL,
  review_id   TEXT    NOT NULL REFERENCES review (id),
  question    TEXT    NOT NULL CHECK (question <> ''),
  due_day     TEXT    NOT NULL,
  answer      TEXT    NOT NULL DEFAULT '',
  answered_ms INTEGER
) STRICT;
CREATE INDEX follow_up_review ON follow_up (review_id);

-- +goose Up
-- Prints that a review leaves out, each with its reason.
ALTER TABLE review ADD COLUMN left_out TEXT NOT NULL DEFAULT '[]';

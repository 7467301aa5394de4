-- +goose Up
-- Whether a size is of an outer or an inner face: "side" is what is compared.
ALTER TABLE feature RENAME COLUMN side TO face;

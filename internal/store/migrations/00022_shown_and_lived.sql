-- +goose Up
-- A scale of the reviewer's own may be of machines as well as of specimens, and may say which
-- conditions a score on it needs.
ALTER TABLE rating_scale ADD COLUMN about TEXT NOT NULL DEFAULT 'specimens' CHECK (about IN ('specimens', 'machines'));
ALTER TABLE rating_scale ADD COLUMN conditions TEXT NOT NULL DEFAULT '';
-- A photograph may show one defect of its specimen.
ALTER TABLE photograph ADD COLUMN defect_id TEXT REFERENCES defect (id);
-- A series of stress tests may end before all of it is tested, for a reason that is said.
ALTER TABLE stress_series ADD COLUMN ended_ms INTEGER;
ALTER TABLE stress_series ADD COLUMN ended_why TEXT NOT NULL DEFAULT '';
-- A print may be one made again, with what was changed by hand since.
ALTER TABLE run ADD COLUMN again_of_id TEXT REFERENCES run (id);
ALTER TABLE run ADD COLUMN again_change TEXT NOT NULL DEFAULT '';
CREATE INDEX run_again ON run (again_of_id) WHERE again_of_id IS NOT NULL;

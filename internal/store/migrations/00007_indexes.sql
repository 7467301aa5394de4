-- +goose Up
-- What is added up on every page is answered from the index alone.
CREATE INDEX run_used ON run (machine_id, started_ms, ended_ms, layers, light_on_s);
CREATE INDEX run_bottle_used ON run (bottle_id, started_ms, resin_used_g);
CREATE INDEX run_times ON run (machine_id, started_ms, ended_ms, speed_up, our_estimate_s, estimate_model, software, software_estimate_s);
CREATE INDEX run_listed ON run (started_ms, id, machine_id, resin_id, piece_id, code);
-- The shape of a bead, as the list of runs asks for it.
CREATE INDEX tally_shape ON tally (CASE WHEN pending > 0 THEN 'open' WHEN lost = specimens THEN 'ring' WHEN lost > 0 THEN 'split' WHEN micro > 0 THEN 'nicked' ELSE 'whole' END, run_id);
CREATE INDEX tally_rates ON tally (pending, run_id, specimens, whole, micro, lost, failed, laid, laid_resin, mixed);
CREATE INDEX run_thread ON run (machine_id, started_ms, resin_id, code);
DROP INDEX run_machine;
DROP INDEX run_bottle;

-- +goose Up
-- What is added up on every page is answered from the index alone.
CREATE INDEX run_used ON run (machine_id, started_ms, ended_ms, layers, light_on_s);
CREATE INDEX run_bottle_used ON run (bottle_id, started_ms, resin_used_g);
CREATE INDEX run_times ON run (machine_id, started_ms, ended_ms, speed_up, our_estimate_s, estimate_model, software, software_estimate_s);
CREATE INDEX tally_rates ON tally (pending, run_id, specimens, whole, micro, lost, failed, laid, laid_resin, mixed);
CREATE INDEX run_thread ON run (machine_id, started_ms, resin_id, code);
DROP INDEX run_machine;
DROP INDEX run_bottle;

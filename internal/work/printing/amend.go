package printing

import (
	"context"
	"encoding/json"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/planning"
	"ojime/internal/work/task"
)

// amendable are the fields of a run that a command may change.
var amendable = []string{"bottle_id", "profile_id", "started_ms", "ended_ms", "ended_how", "paused_s", "stopped_layer", "software", "software_estimate_s", "resin_used_g", "attended_min",
	"room_temp_c", "resin_temp_c", "humidity_pct", "heater_on", "film_clouded", "level_off", "observed", "orientation", "supports", "wash_s", "cure_s", "surface", "notes", "vat_fill_ml"}

// MayAmend says whether a command may change a field of a run.
func MayAmend(name string) bool { return slices.Contains(amendable, name) }

// AmendRun changes what a command names of a run, and nothing else; what it was before
// stays in its history.
func (w *Tasks) AmendRun(ctx context.Context, id string, version int64, change json.RawMessage, why string, confirmed bool) (out RunSheet, err error) {
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		old, err := t.Run(id)
		if err != nil {
			return err
		}
		if err := task.Stale(old.Version, version); err != nil {
			return err
		}
		r, err := task.Merge(old, change, amendable...)
		if err != nil {
			return err
		}
		if err := w.amended(t, old, &r, confirmed); err != nil {
			return err
		}
		r.Version = old.Version + 1
		if beyond := bench.Beyond(r); len(beyond) > 0 {
			return beyond[0]
		}
		if err := w.Note(t, "run", id, "amend the print", why, old, r); err != nil {
			return err
		}
		if err := PutRun(t, r); err != nil {
			return err
		}
		out, err = ReadRunSheet(t, id)
		return err
	})
	return out, err
}

// amended holds a changed run against its rules.
func (w *Tasks) amended(t *store.Tx, old bench.Run, r *bench.Run, confirmed bool) error {
	events, err := t.EventsOfRun(r.ID)
	if err != nil {
		return err
	}
	if told := len(events) > 0; told {
		if r.EndedHow != old.EndedHow || r.PausedS != old.PausedS {
			return quantity.Errorf("ended_how", "follows from what happened to the print; undo its end instead")
		}
		if (r.EndedMS == nil) != (old.EndedMS == nil) {
			return quantity.Errorf("ended_ms", "follows from what happened to the print; end it, or undo its end")
		}
	}
	if err := roomStands(t, r, &old); err != nil {
		return err
	}
	if r.EndedMS == nil {
		r.EndedHow = ""
	}
	r.EndedHow = r.Ended()
	if err := w.timesMakeSense(*r); err != nil {
		return err
	}
	if err := refers(t, r); err != nil {
		return err
	}
	if r.ProfileID != old.ProfileID {
		loads, err := planning.RunLoads(t, r.ID)
		if err != nil {
			return err
		}
		if err := w.estimate(t, r, loads); err != nil {
			return err
		}
	}
	if r.StartedMS != old.StartedMS || quantity.Or(r.EndedMS, 0) != quantity.Or(old.EndedMS, 0) || r.EndedHow != old.EndedHow ||
		quantity.Or(r.SoftwareEstimateS, 0) != quantity.Or(old.SoftwareEstimateS, 0) || r.PausedS != old.PausedS {
		r.EndConfirmed = false
		return believable(r, confirmed)
	}
	return nil
}

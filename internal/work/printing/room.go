package printing

import (
	"context"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/machine"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
)

// ReadRoom appends what the room and the resin of a print had at one moment; what the print was
// made in on the whole follows.
func (w *Tasks) ReadRoom(ctx context.Context, runID string, r bench.RoomReading) (out RunSheet, err error) {
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		run, err := t.Run(runID)
		if err != nil {
			return err
		}
		r.DeviceID = nil // typed
		if err := w.KeepRoom(t, run, r); err != nil {
			return err
		}
		out, err = ReadRunSheet(t, runID)
		return err
	})
	return out, err
}

// KeepRoom is ReadRoom within a transaction, also of what a device told.
func (w *Tasks) KeepRoom(t *store.Tx, run bench.Run, r bench.RoomReading) error {
	var err error
	if r.ID, err = w.NewID(); err != nil {
		return err
	}
	if r.RunID = run.ID; r.AtMS == 0 {
		r.AtMS = w.readAt(run, r.Moment)
	}
	r.TakenBackMS, r.TakenBackWhy = nil, ""
	if err := r.Check(); err != nil {
		return err
	}
	if r.AtMS > w.NowMS() {
		return quantity.Errorf("at_ms", "lies ahead; say when it was read")
	}
	if err := w.keepTyped(t, run); err != nil {
		return err
	}
	if err := t.SaveRoomReading(r); err != nil {
		return err
	}
	return RoomOfRun(t, run.ID)
}

// readAt is when a reading of which only the moment is said was taken: one of the start may be typed
// in after the end.
func (w *Tasks) readAt(run bench.Run, moment string) int64 {
	switch {
	case moment == "start":
		return min(run.StartedMS, w.NowMS())
	case moment == "end" && run.EndedMS != nil:
		return min(*run.EndedMS, w.NowMS())
	}
	return w.NowMS()
}

// keepTyped makes a first reading of what was typed for the whole print before any was read, so
// that it still counts beside those that follow.
func (w *Tasks) keepTyped(t *store.Tx, run bench.Run) error {
	readings, err := t.RoomReadingsOfRuns([]string{run.ID})
	if err != nil || len(readings[run.ID]) > 0 {
		return err
	}
	typed := bench.RoomReading{RunID: run.ID, AtMS: run.StartedMS, Moment: "start", RoomTempC: run.RoomTempC, HumidityPct: run.HumidityPct, ResinTempC: run.ResinTempC, HeaterOn: run.HeaterOn, Note: bench.TypedForWhole}
	if typed.Check() != nil { // nothing was typed
		return nil
	}
	if typed.ID, err = w.NewID(); err != nil {
		return err
	}
	return t.SaveRoomReading(typed)
}

// TakeRoomBack takes a reading of a room back with its reason.
func (w *Tasks) TakeRoomBack(ctx context.Context, id, why string) (out RunSheet, err error) {
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		r, err := t.RoomReading(id)
		if err != nil {
			return err
		}
		if r.TakenBackMS != nil {
			return fmt.Errorf("this reading was taken back before: %w", bench.ErrConflict)
		}
		before := r
		r.TakenBackMS, r.TakenBackWhy = quantity.Ptr(w.NowMS()), why
		if err := t.SaveRoomReading(r); err != nil {
			return err
		}
		if err := w.Note(t, "room_reading", r.ID, "take a reading of the room back", why, before, r); err != nil {
			return err
		}
		if err := RoomOfRun(t, r.RunID); err != nil {
			return err
		}
		out, err = ReadRunSheet(t, r.RunID)
		return err
	})
	return out, err
}

// standing are the readings that were not taken back, as their summary takes them.
func standing(readings []bench.RoomReading) []machine.RoomReading {
	var out []machine.RoomReading
	for _, r := range readings {
		if r.TakenBackMS == nil {
			out = append(out, r.Read())
		}
	}
	return out
}

// roomOf is what a print was made in: by its readings, or else by what was typed for the whole.
func roomOf(run bench.Run, readings []bench.RoomReading) machine.Room {
	if len(readings) == 0 {
		return machine.RoomOver([]machine.RoomReading{{AtMS: run.StartedMS, RoomTempC: run.RoomTempC, HumidityPct: run.HumidityPct, ResinTempC: run.ResinTempC, HeaterOn: run.HeaterOn}})
	}
	return machine.RoomOver(standing(readings))
}

// RoomOfRun takes over into a print what its readings come to.
func RoomOfRun(t *store.Tx, runID string) error {
	run, err := t.Run(runID)
	if err != nil {
		return err
	}
	readings, err := t.RoomReadingsOfRuns([]string{runID})
	if err != nil {
		return err
	}
	room := roomOf(run, readings[runID])
	mean := func(c *machine.Course) *float64 {
		if c == nil {
			return nil
		}
		return &c.Mean
	}
	run.RoomTempC, run.HumidityPct, run.ResinTempC, run.HeaterOn = mean(room.RoomC), mean(room.HumidityPct), mean(room.ResinC), room.HeaterOn
	run.Version++
	return PutRun(t, run)
}

// roomStands refuses to type over what follows from readings.
func roomStands(t *store.Tx, r, old *bench.Run) error {
	readings, err := t.RoomReadingsOfRuns([]string{r.ID})
	if err != nil || len(readings[r.ID]) == 0 {
		return err
	}
	for _, f := range []struct {
		name     string
		now, was *float64
	}{{"room_temp_c", r.RoomTempC, old.RoomTempC}, {"humidity_pct", r.HumidityPct, old.HumidityPct}, {"resin_temp_c", r.ResinTempC, old.ResinTempC}} {
		if (f.now == nil) != (f.was == nil) || (f.now != nil && *f.now != *f.was) {
			return quantity.Errorf(f.name, "follows from the readings of the room on the page of the print; add one there, or take one back")
		}
	}
	if (r.HeaterOn == nil) != (old.HeaterOn == nil) || quantity.Or(r.HeaterOn, false) != quantity.Or(old.HeaterOn, false) {
		return quantity.Errorf("heater_on", "follows from the readings of the room on the page of the print; add one there, or take one back")
	}
	return nil
}

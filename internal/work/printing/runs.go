package printing

import (
	"context"
	"errors"
	"fmt"
	"math"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/planning"
	"ojime/internal/work/task"
)

// RunDraft is what a next run on a machine would be, and where it came from.
type RunDraft struct {
	Run         bench.Run `json:"run"`
	CarriedFrom string    `json:"carried_from"`
}

// DraftRun carries conditions over from the machine's last run, moved on by
// what happened since: layers that the last run put on the film, days passed,
// and knots tied. What is measured anew for each print (temperatures, resin
// used, times) is left open.
func (w *Tasks) DraftRun(ctx context.Context, machineID string) (out RunDraft, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		last, err := t.LastRunOfMachine(machineID)
		if task.IsMissing(err) {
			out.Run = bench.Run{MachineID: machineID, Copies: 1, ScalePct: quantity.Ptr(100.0), StartedMS: w.NowMS()}
			return nil
		}
		if err != nil {
			return err
		}
		events, err := t.EventsOfMachine(machineID)
		if err != nil {
			return err
		}
		out.CarriedFrom = last.Code
		out.Run = carry(last, events, w.NowMS())
		return nil
	})
	return out, err
}

func carry(last bench.Run, events []bench.MachineEvent, now int64) bench.Run {
	next := last
	next.ID, next.Code, next.Version, next.CreatedMS = "", "", 0, 0
	next.StartedMS, next.EndedMS, next.EndedHow, next.PausedS, next.ClockWentBack, next.Notes = now, nil, "", 0, false, ""
	next.SoftwareEstimateS, next.ResinUsedG, next.RoomTempC, next.ResinTempC = nil, nil, nil, nil
	if last.FilmLayers != nil {
		next.FilmLayers = quantity.Ptr(*last.FilmLayers + float64(last.Layers))
	}
	if last.DaysSinceLevel != nil {
		next.DaysSinceLevel = quantity.Ptr(*last.DaysSinceLevel + math.Floor(float64(now-last.StartedMS)/task.DayMS))
	}
	for _, e := range events {
		if e.MachineID != last.MachineID || e.AtMS < last.StartedMS || e.AtMS > now {
			continue
		}
		switch e.Kind {
		case "film":
			next.FilmLayers, next.FilmClouded = quantity.Ptr(0.0), quantity.Ptr(false)
		case "relevel":
			next.DaysSinceLevel, next.MovedSinceLevel = quantity.Ptr(math.Floor(float64(now-e.AtMS)/task.DayMS)), quantity.Ptr(false)
		case "move":
			next.MovedSinceLevel = quantity.Ptr(true)
		}
	}
	return next
}

var runEntry = task.Entry[bench.Run]{Table: "run",
	Head: func(r *bench.Run) task.Head {
		return task.Head{ID: &r.ID, Code: &r.Code, Version: &r.Version, CreatedMS: &r.CreatedMS}
	},
	Get: (*store.Tx).Run, Put: (*store.Tx).SaveRun}

// SaveRun records a print or changes its conditions. A new run gets its
// specimens, one a copy, with their codes; what is printed, and how many, does
// not change afterwards.
func (w *Tasks) SaveRun(ctx context.Context, r bench.Run) (RunSheet, error) {
	if err := r.Check(); err != nil {
		return RunSheet{}, err
	}
	if err := errors.Join(bench.HasBeen("started_ms", r.StartedMS, w.NowMS()), bench.HasBeen("ended_ms", quantity.Or(r.EndedMS, 0), w.NowMS())); err != nil {
		return RunSheet{}, err
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (RunSheet, error) { return w.putRun(t, r) })
}

func (w *Tasks) putRun(t *store.Tx, r bench.Run) (RunSheet, error) {
	isNew := r.ID == ""
	r, err := task.Put(w.Base, t, runEntry, r, w.runFits)
	if err != nil {
		return RunSheet{}, err
	}
	if isNew {
		if err := w.addSpecimens(t, r); err != nil {
			return RunSheet{}, err
		}
	}
	return ReadRunSheet(t, r.ID)
}

// runFits holds a run against what it refers to and fills in our estimate.
func (w *Tasks) runFits(t *store.Tx, r *bench.Run) error {
	p, err := t.Profile(r.ProfileID)
	if err != nil {
		return err
	}
	if p.MachineID != r.MachineID {
		return quantity.Errorf("profile_id", "%s belongs to another machine; choose a profile of this one", p.Code)
	}
	if p.ResinID != r.ResinID {
		return quantity.Errorf("profile_id", "%s is for another resin; choose a profile of this one", p.Code)
	}
	if r.BottleID != nil {
		b, err := t.Bottle(*r.BottleID)
		if err != nil {
			return err
		}
		if b.ResinID != r.ResinID {
			return quantity.Errorf("bottle_id", "%s holds another resin; choose a bottle of this one", b.Code)
		}
	}
	m, err := t.Machine(r.MachineID)
	if err != nil {
		return err
	}
	if r.ID != "" {
		old, err := t.Run(r.ID)
		if err != nil {
			return err
		}
		events, err := t.EventsOfRun(r.ID)
		if err != nil {
			return err
		}
		*r = bench.Amended(old, *r, len(events) > 0)
		if old.PieceID != r.PieceID || old.Copies != r.Copies || old.MachineID != r.MachineID {
			return fmt.Errorf("%s keeps its machine, piece and copies, since its specimens carry codes; record another run instead: %w", old.Code, bench.ErrConflict)
		}
	}
	r.EndedHow = r.Ended()
	if r.PlateID != nil {
		if err := plateFits(t, r); err != nil {
			return err
		}
	}
	loads, err := w.Planning.RunLoads(t, *r)
	if err != nil {
		return err
	}
	e, _, err := w.Planning.Estimate(t, m, planning.DialsOf(p), loads)
	if err != nil {
		return err
	}
	r.OurEstimateS, r.LightOnS, r.Layers, r.EstimateModel = e.TotalS, e.LightOnS, e.Layers, e.Model
	return nil
}

// plateFits takes over what a plate says of a run: its copies, and the piece
// that most of them are.
func plateFits(t *store.Tx, r *bench.Run) error {
	plate, err := t.Plate(*r.PlateID)
	if err != nil {
		return err
	}
	if plate.MachineID != r.MachineID {
		return quantity.Errorf("plate_id", "%s is laid for another machine; choose a plate of this one", plate.Code)
	}
	placements, err := t.PlacementsOfPlate(plate.ID)
	if err != nil {
		return err
	}
	if len(placements) == 0 {
		return quantity.Errorf("plate_id", "%s is empty; lay a piece on it first", plate.Code)
	}
	loads, err := planning.LoadsOf(t, placements)
	if err != nil {
		return err
	}
	most := loads[0]
	for _, l := range loads {
		if l.Copies > most.Copies {
			most = l
		}
	}
	r.PieceID, r.Copies, r.ScalePct = most.Piece.ID, int64(len(placements)), quantity.Ptr(most.Scale*100)
	return nil
}

func (w *Tasks) addSpecimens(t *store.Tx, r bench.Run) error {
	var placements []bench.Placement
	if r.PlateID != nil {
		var err error
		if placements, err = t.PlacementsOfPlate(*r.PlateID); err != nil {
			return err
		}
	}
	for n := range r.Copies {
		id, err := w.NewID()
		if err != nil {
			return err
		}
		s := bench.Specimen{ID: id, RunID: r.ID, Copy: n + 1, Code: bench.SpecimenCode(r.Code, n+1), Outcome: "pending", Origin: "printed", Fault: "none", Version: 1}
		if int(n) < len(placements) {
			p := placements[n]
			s.PieceID, s.XMM, s.YMM, s.TurnDeg, s.ExposureS = &p.PieceID, &p.XMM, &p.YMM, &p.TurnDeg, p.ExposureS
		}
		if err := t.SaveSpecimen(s); err != nil {
			return err
		}
	}
	return nil
}

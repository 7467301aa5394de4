package work

import (
	"context"
	"errors"
	"fmt"
	"math"
	"reflect"
	"strings"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
)

// RunDraft is what a next run on a machine would be, and where it came from.
type RunDraft struct {
	Run         bench.Run `json:"run"`
	CarriedFrom string    `json:"carried_from"`
}

// dayMS is a day in milliseconds.
const dayMS = 24 * 60 * 60 * 1000

// DraftRun carries conditions over from the machine's last run, moved on by
// what happened since: layers that the last run put on the film, days passed,
// and knots tied. What is measured anew for each print (temperatures, resin
// used, times) is left open.
func (w *Work) DraftRun(ctx context.Context, machineID string) (out RunDraft, err error) {
	err = w.store.Read(ctx, func(t *store.Tx) error {
		last, err := t.LastRunOfMachine(machineID)
		if isMissing(err) {
			out.Run = bench.Run{MachineID: machineID, Copies: 1, ScalePct: quantity.Ptr(100.0), StartedMS: w.nowMS()}
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
		out.Run = carry(last, events, w.nowMS())
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
		next.DaysSinceLevel = quantity.Ptr(*last.DaysSinceLevel + math.Floor(float64(now-last.StartedMS)/dayMS))
	}
	for _, e := range events {
		if e.MachineID != last.MachineID || e.AtMS < last.StartedMS || e.AtMS > now {
			continue
		}
		switch e.Kind {
		case "film":
			next.FilmLayers, next.FilmClouded = quantity.Ptr(0.0), quantity.Ptr(false)
		case "relevel":
			next.DaysSinceLevel, next.MovedSinceLevel = quantity.Ptr(math.Floor(float64(now-e.AtMS)/dayMS)), quantity.Ptr(false)
		case "move":
			next.MovedSinceLevel = quantity.Ptr(true)
		}
	}
	return next
}

var runEntry = entry[bench.Run]{"run",
	func(r *bench.Run) head { return head{&r.ID, &r.Code, &r.Version, &r.CreatedMS} },
	(*store.Tx).Run, (*store.Tx).SaveRun}

// SaveRun records a print or changes its conditions. A new run gets its
// specimens, one a copy, with their codes; what is printed, and how many, does
// not change afterwards.
func (w *Work) SaveRun(ctx context.Context, r bench.Run) (RunSheet, error) {
	if err := r.Check(); err != nil {
		return RunSheet{}, err
	}
	if err := errors.Join(bench.HasBeen("started_ms", r.StartedMS, w.nowMS()), bench.HasBeen("ended_ms", quantity.Or(r.EndedMS, 0), w.nowMS())); err != nil {
		return RunSheet{}, err
	}
	return keep(ctx, w, func(t *store.Tx) (RunSheet, error) { return w.putRun(t, r) })
}

func (w *Work) putRun(t *store.Tx, r bench.Run) (RunSheet, error) {
	isNew := r.ID == ""
	r, err := put(w, t, runEntry, r, w.runFits)
	if err != nil {
		return RunSheet{}, err
	}
	if isNew {
		if err := w.addSpecimens(t, r); err != nil {
			return RunSheet{}, err
		}
	}
	return runSheet(t, r.ID)
}

// runFits holds a run against what it refers to and fills in our estimate.
func (w *Work) runFits(t *store.Tx, r *bench.Run) error {
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
	loads, err := w.runLoads(t, *r)
	if err != nil {
		return err
	}
	e, _, err := w.estimate(t, m, dialsOf(p), loads)
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
	loads, err := loadsOf(t, placements)
	if err != nil {
		return err
	}
	most := loads[0]
	for _, l := range loads {
		if l.copies > most.copies {
			most = l
		}
	}
	r.PieceID, r.Copies, r.ScalePct = most.piece.ID, int64(len(placements)), quantity.Ptr(most.scale*100)
	return nil
}

func (w *Work) addSpecimens(t *store.Tx, r bench.Run) error {
	var placements []bench.Placement
	if r.PlateID != nil {
		var err error
		if placements, err = t.PlacementsOfPlate(*r.PlateID); err != nil {
			return err
		}
	}
	for n := range r.Copies {
		id, err := w.newID()
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

// SaveOutcomes says what became of the specimens of a run, all in one.
func (w *Work) SaveOutcomes(ctx context.Context, runID string, outcomes []bench.Specimen) (out RunSheet, err error) {
	err = w.write(ctx, &out, func(t *store.Tx) error {
		specimens, err := t.SpecimensOfRun(runID)
		if err != nil {
			return err
		}
		known := byID(specimens, func(s bench.Specimen) string { return s.ID })
		if err := judgedMeanwhile(known, outcomes); err != nil {
			return err
		}
		for i, s := range outcomes {
			old, ok := known[s.ID]
			if !ok {
				return quantity.Errorf(fmt.Sprintf("outcomes[%d].id", i), "is no specimen of this run")
			}
			s.RunID, s.Copy, s.Code, s.Version = old.RunID, old.Copy, old.Code, old.Version
			s.PieceID, s.XMM, s.YMM, s.TurnDeg, s.ExposureS = old.PieceID, old.XMM, old.YMM, old.TurnDeg, old.ExposureS
			s.SwappedWith = old.SwappedWith
			if s.Outcome == "whole" || s.Outcome == "pending" {
				s.Symptom, s.Fault, s.Origin = "", "none", "printed"
				s.Severity, s.BeganLayer, s.BeganMM = "", nil, nil
			}
			if err := began(t, runID, &s); err != nil {
				return withPrefix(fmt.Sprintf("outcomes[%d].", i), err)
			}
			if err := s.Check(); err != nil {
				return withPrefix(fmt.Sprintf("outcomes[%d].", i), err)
			}
			if reflect.DeepEqual(s, old) {
				continue
			}
			s.Version++
			if err := t.SaveSpecimen(s); err != nil {
				return err
			}
		}
		out, err = runSheet(t, runID)
		return err
	})
	return out, err
}

// judgedMeanwhile refuses judgements of specimens that were judged by someone
// else since they were read, and says how.
func judgedMeanwhile(known map[string]bench.Specimen, outcomes []bench.Specimen) error {
	var changed []string
	for _, s := range outcomes {
		if old, ok := known[s.ID]; ok && s.Version != old.Version {
			changed = append(changed, strings.TrimSpace(fmt.Sprintf("%s is now %s %s", old.Code, strings.ReplaceAll(old.Outcome, "_", " "), old.Symptom)))
		}
	}
	if len(changed) == 0 {
		return nil
	}
	return &bench.StaleError{Changed: changed}
}

// began tells layer and height where a defect began from each other; the height
// counts where both are given.
func began(t *store.Tx, runID string, s *bench.Specimen) error {
	if s.BeganLayer == nil && s.BeganMM == nil {
		return nil
	}
	r, err := t.Run(runID)
	if err != nil {
		return err
	}
	p, err := t.Profile(r.ProfileID)
	if err != nil {
		return err
	}
	if s.BeganMM != nil {
		s.BeganLayer = quantity.Ptr(max(1, int64(quantity.Ceil(*s.BeganMM*1000/p.LayerUM))))
	} else {
		s.BeganMM = quantity.Ptr(float64(*s.BeganLayer) * p.LayerUM / 1000)
	}
	if *s.BeganLayer > r.Layers {
		return quantity.Errorf("began_layer", "is %d; %s has %d layers of %g µm", *s.BeganLayer, r.Code, r.Layers, p.LayerUM)
	}
	return nil
}

// RunSheet reads one run with everything that hangs on it.
func (w *Work) RunSheet(ctx context.Context, id string) (out RunSheet, err error) {
	err = w.store.Read(ctx, func(t *store.Tx) error {
		out, err = runSheet(t, id)
		return err
	})
	return out, err
}

// days is the whole days from a calendar day to an instant, nil without a day.
func days(from *string, untilMS int64) *float64 {
	if from == nil {
		return nil
	}
	day, err := time.Parse(time.DateOnly, *from)
	if err != nil {
		return nil // the record refuses such days; an old one counts as not known
	}
	return quantity.Ptr(math.Max(0, math.Floor(float64(untilMS-day.UnixMilli())/dayMS)))
}

// dayOf is the calendar day of an instant, in UTC.
func dayOf(ms int64) string { return time.UnixMilli(ms).UTC().Format(time.DateOnly) }

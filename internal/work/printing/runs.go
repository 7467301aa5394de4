package printing

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/machine"
	"ojime/internal/core/quantity"
	"ojime/internal/core/timing"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/planning"
	"ojime/internal/work/task"
)

// Portion is copies of one piece at one scale.
type Portion struct {
	PieceID  string   `json:"piece_id" minLength:"1"`
	Copies   int64    `json:"copies" minimum:"1" maximum:"999"`
	ScalePct *float64 `json:"scale_pct" required:"false" exclusiveMinimum:"0"`
}

// Recording is a print as it is put on record: the run with what was printed, unless
// its plate says that. Confirmed keeps values that were questioned.
type Recording struct {
	bench.Run
	Pieces    []Portion `json:"pieces" required:"false"`
	Confirmed bool      `json:"confirmed" required:"false"`
}

// RunDraft is what a next run on a machine would be, where it came from, and the
// condition of the machine now.
type RunDraft struct {
	Run         bench.Run         `json:"run"`
	Pieces      []Portion         `json:"pieces"`
	CarriedFrom string            `json:"carried_from"`
	Condition   machine.Condition `json:"condition"`
}

// DraftRun carries over from the machine's last run what seldom changes. What is
// measured anew for each print (temperatures, resin used, times) and what was seen
// then is left open; the machine's condition is computed, not carried.
func (w *Tasks) DraftRun(ctx context.Context, machineID string) (out RunDraft, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = w.draft(t, machineID)
		return err
	})
	return out, err
}

func (w *Tasks) draft(t *store.Tx, machineID string) (out RunDraft, err error) {
	history, err := kit.HistoryOf(t, machineID)
	if err != nil {
		return out, err
	}
	out.Condition, out.Pieces = history.At(w.NowMS()), []Portion{}
	last, err := t.LastRunOfMachine(machineID)
	if task.IsMissing(err) {
		out.Run, err = w.first(t, machineID)
		return out, err
	}
	if err != nil {
		return out, err
	}
	out.CarriedFrom, out.Run = last.Code, carry(last, w.NowMS())
	out.Pieces, err = portionsOf(t, last.ID)
	return out, err
}

// first is the first run on a machine: as the reviewer usually does it.
func (w *Tasks) first(t *store.Tx, machineID string) (bench.Run, error) {
	usual, err := t.Settings()
	said := func(text string) *string {
		if text == "" {
			return nil
		}
		return &text
	}
	return bench.Run{MachineID: machineID, StartedMS: w.NowMS(), Software: said(usual.UsualSoftware), Orientation: said(usual.UsualOrientation), Supports: said(usual.UsualSupports),
		WashS: usual.UsualWashS, CureS: usual.UsualCureS}, err
}

func carry(last bench.Run, now int64) bench.Run {
	return bench.Run{MachineID: last.MachineID, ResinID: last.ResinID, BottleID: last.BottleID, ProfileID: last.ProfileID, StartedMS: now,
		Software: last.Software, AttendedMin: last.AttendedMin, Orientation: last.Orientation, Supports: last.Supports, WashS: last.WashS, CureS: last.CureS, Surface: last.Surface}
}

func portionsOf(t *store.Tx, runID string) ([]Portion, error) {
	loads, err := planning.RunLoads(t, runID)
	out := []Portion{}
	for _, l := range loads {
		out = append(out, Portion{PieceID: l.Piece.ID, Copies: l.Copies, ScalePct: quantity.Ptr(100 * l.Scale)})
	}
	return out, err
}

var runEntry = task.Entry[bench.Run]{Table: "run",
	Head: func(r *bench.Run) task.Head {
		return task.Head{ID: &r.ID, Code: &r.Code, Version: &r.Version, CreatedMS: &r.CreatedMS}
	},
	Get: (*store.Tx).Run, Put: PutRun}

// PutRun writes a run with what it took of its machine.
func PutRun(t *store.Tx, r bench.Run) error {
	r.Wear()
	return t.SaveRun(r)
}

// RecordRun puts a print on record with its specimens, one a copy, and their codes.
// What is printed, and how many, does not change afterwards.
func (w *Tasks) RecordRun(ctx context.Context, rec Recording) (RunSheet, error) {
	if rec.ID != "" {
		return RunSheet{}, quantity.Errorf("id", "is given; a print that is on record is amended")
	}
	// What slicing may take long for is worked out before the record is held for writing.
	var ready Recording
	err := w.Store.Read(ctx, func(t *store.Tx) (err error) {
		ready, err = w.Ready(t, rec)
		return err
	})
	if err != nil {
		return RunSheet{}, err
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (RunSheet, error) {
		id, err := w.RecordIn(t, ready)
		if err != nil {
			return RunSheet{}, err
		}
		return ReadRunSheet(t, id)
	})
}

// RecordIn keeps a recording that Ready let pass, within a transaction; the id is that of its
// print.
func (w *Tasks) RecordIn(t *store.Tx, ready Recording) (id string, err error) {
	// What it refers to may have changed meanwhile.
	if err := refers(t, &ready.Run); err != nil {
		return "", err
	}
	r, err := task.Put(w.Base, t, runEntry, ready.Run)
	if err != nil {
		return "", err
	}
	return r.ID, w.addSpecimens(t, r, ready.Pieces)
}

func (w *Tasks) timesMakeSense(r bench.Run) error {
	if err := r.Check(); err != nil {
		return err
	}
	return errors.Join(bench.HasBeen("started_ms", r.StartedMS, w.NowMS()), bench.HasBeen("ended_ms", quantity.Or(r.EndedMS, 0), w.NowMS()))
}

// Ready holds a recording against what it refers to and works out its estimate. What is hard to
// believe is bench.ErrQuestioned.
func (w *Tasks) Ready(t *store.Tx, rec Recording) (Recording, error) {
	if err := w.timesMakeSense(rec.Run); err != nil {
		return rec, err
	}
	if err := refers(t, &rec.Run); err != nil {
		return rec, err
	}
	loads, err := loadsOf(t, &rec)
	if err != nil {
		return rec, err
	}
	rec.Copies = 0
	for _, l := range loads {
		rec.Copies += l.Copies
	}
	rec.EndedHow, rec.Shape = rec.Ended(), bench.Counts{}.Shape()
	if err := w.estimate(t, &rec.Run, loads); err != nil {
		return rec, err
	}
	return rec, believable(&rec.Run, rec.Confirmed)
}

// loadsOf is what is printed: what the plate holds, else the pieces that were named.
func loadsOf(t *store.Tx, rec *Recording) ([]planning.PlateLoad, error) {
	if rec.PlateID != nil {
		plate, err := t.Plate(*rec.PlateID)
		if err != nil {
			return nil, err
		}
		if plate.MachineID != rec.MachineID {
			return nil, quantity.Errorf("plate_id", "%s is laid for another machine; choose a plate of this one", plate.Code)
		}
		placements, err := t.PlacementsOfPlate(plate.ID)
		if err != nil {
			return nil, err
		}
		if len(placements) == 0 {
			return nil, quantity.Errorf("plate_id", "%s is empty; lay a piece on it first", plate.Code)
		}
		return planning.LoadsOf(t.Piece, placements)
	}
	if len(rec.Pieces) == 0 {
		return nil, quantity.Errorf("pieces", "are missing; say which pieces were printed, and how many of each")
	}
	var out []planning.PlateLoad
	for i, p := range rec.Pieces {
		piece, err := t.Piece(p.PieceID)
		if err != nil {
			return nil, fmt.Errorf("pieces[%d]: %w", i, err)
		}
		if p.Copies < 1 {
			return nil, quantity.Errorf(fmt.Sprintf("pieces[%d].copies", i), "is %d; it must be at least 1", p.Copies)
		}
		out = append(out, planning.PlateLoad{Piece: piece, Scale: quantity.Or(p.ScalePct, 100) / 100, Copies: p.Copies})
	}
	return out, nil
}

// refers holds a run against its settings and its bottle.
func refers(t *store.Tx, r *bench.Run) error {
	if _, err := t.Machine(r.MachineID); err != nil {
		return err
	}
	p, err := t.Profile(r.ProfileID)
	if err != nil {
		return err
	}
	if p.MachineID != r.MachineID {
		return quantity.Errorf("profile_id", "%s belongs to another machine; choose settings of this one", p.Code)
	}
	if p.ResinID != r.ResinID {
		return quantity.Errorf("profile_id", "%s is for another resin; choose settings of this one", p.Code)
	}
	if err := notWithdrawn(t, r); err != nil || r.BottleID == nil {
		return err
	}
	b, err := t.Bottle(*r.BottleID)
	if err != nil {
		return err
	}
	if b.ResinID != r.ResinID {
		return quantity.Errorf("bottle_id", "%s holds another resin; choose a bottle of this one", b.Code)
	}
	return nil
}

// estimate notes our estimate as it is before the print, and what is printed.
func (w *Tasks) estimate(t *store.Tx, r *bench.Run, loads []planning.PlateLoad) error {
	m, err := t.Machine(r.MachineID)
	if err != nil {
		return err
	}
	p, err := t.Profile(r.ProfileID)
	if err != nil {
		return err
	}
	if p, err = exposedFor(t, p, r); err != nil {
		return err
	}
	e, _, err := w.Planning.Estimate(t, m, p, loads)
	if err != nil {
		return err
	}
	r.OurEstimateS, r.LightOnS, r.Layers, r.EstimateModel = e.TotalS, e.LightOnS, e.Layers, e.Model
	r.AreaMM2, r.OutlineMM, r.Job = &e.Job.AreaMM2, &e.Job.OutlineMM, planning.JobKey(p.LayerUM, loads)
	return nil
}

// exposedFor are the settings of a print of series cells with the exposure of the
// longest cell on its plate; all others have their own.
func exposedFor(t *store.Tx, p bench.Profile, r *bench.Run) (bench.Profile, error) {
	if p.Basis != bench.BasisSeries || r.PlateID == nil {
		return p, nil
	}
	placements, err := t.PlacementsOfPlate(*r.PlateID)
	for _, place := range placements {
		if place.ExposureS != nil && *place.ExposureS > quantity.Or(p.ExposureS, 0) {
			p.ExposureS = place.ExposureS
		}
	}
	return p, err
}

// believable asks once about times that are hard to believe.
func believable(r *bench.Run, confirmed bool) error {
	if confirmed {
		r.EndConfirmed = true
		return nil
	}
	if r.EndConfirmed || r.OurEstimateS == nil {
		return nil
	}
	if s := r.SoftwareEstimateS; s != nil && timing.UnitSlip(*s, *r.OurEstimateS) {
		return bench.Questioned("software_estimate_s", "reads as %s; our estimate is %s. Were minutes meant for seconds, or hours for minutes?", say.Duration(*s), say.Duration(*r.OurEstimateS))
	}
	if took := r.TookS(); took != nil && r.EstimateModel != "learned" && timing.UnlikelyEnd(*took, *r.OurEstimateS) {
		return bench.Questioned("ended_ms", "makes the print take %s; our estimate is %s. Is the time right? If it was stopped, say so", say.Duration(*took), say.Duration(*r.OurEstimateS))
	}
	return nil
}

func (w *Tasks) addSpecimens(t *store.Tx, r bench.Run, pieces []Portion) error {
	var places []bench.Placement
	if r.PlateID != nil {
		var err error
		if places, err = t.PlacementsOfPlate(*r.PlateID); err != nil {
			return err
		}
	} else {
		for _, p := range pieces {
			one := bench.Placement{PieceID: p.PieceID, ScalePct: quantity.Or(p.ScalePct, 100)}
			places = append(places, slices.Repeat([]bench.Placement{one}, int(p.Copies))...)
		}
	}
	for i, p := range places {
		id, err := w.NewID()
		if err != nil {
			return err
		}
		n := int64(i + 1)
		s := bench.Specimen{ID: id, RunID: r.ID, Copy: n, Code: bench.SpecimenCode(r.Code, n), Outcome: "pending", PieceID: p.PieceID, ScalePct: p.ScalePct, ExposureS: p.ExposureS, Version: 1}
		if r.PlateID != nil {
			s.XMM, s.YMM, s.TurnDeg = &p.XMM, &p.YMM, &p.TurnDeg
		}
		if err := t.SaveSpecimen(s); err != nil {
			return err
		}
	}
	return Count(t, r.ID)
}

// Count counts a run's specimens anew, piece by piece, and gives its bead the shape
// that follows.
func Count(t *store.Tx, runID string) error {
	specimens, err := t.SpecimensOfRun(runID)
	if err != nil {
		return err
	}
	tallies := bench.TallyOf(specimens)
	for _, c := range tallies {
		if err := t.SaveTally(c); err != nil {
			return err
		}
	}
	r, err := t.Run(runID)
	if err != nil {
		return err
	}
	r.Shape = bench.CountsOf(tallies).Shape()
	return t.SaveRun(r)
}

// NoteJobs works out what runs printed of which that was not noted yet: those of a
// record from before it was.
func (w *Tasks) NoteJobs(ctx context.Context) error {
	var open []bench.Run
	if err := w.Store.Read(ctx, func(t *store.Tx) (err error) {
		open, err = t.RunsWithoutJob()
		return err
	}); err != nil {
		return err
	}
	for _, r := range open {
		noted := r
		if err := w.Store.Read(ctx, func(t *store.Tx) error { return w.noteJob(t, &noted) }); err != nil {
			return fmt.Errorf("note what %s printed: %w", r.Code, err)
		}
		if err := w.Store.Write(ctx, func(t *store.Tx) error {
			now, err := t.Run(r.ID)
			if err != nil {
				return err
			}
			now.Job, now.AreaMM2, now.OutlineMM = noted.Job, noted.AreaMM2, noted.OutlineMM
			return t.SaveRun(now)
		}); err != nil {
			return err
		}
	}
	return nil
}

func (w *Tasks) noteJob(t *store.Tx, r *bench.Run) error {
	p, err := t.Profile(r.ProfileID)
	if err != nil {
		return err
	}
	loads, err := planning.RunLoads(t, r.ID)
	if err != nil {
		return err
	}
	job, err := w.Planning.JobOf(t, loads, p.LayerUM)
	r.Job, r.AreaMM2, r.OutlineMM = planning.JobKey(p.LayerUM, loads), &job.AreaMM2, &job.OutlineMM
	return err
}

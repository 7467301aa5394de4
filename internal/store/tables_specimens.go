package store

import (
	"cmp"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// Specimens with their defects, and what was counted of them.

func toSpecimen(r db.Specimen) bench.Specimen {
	return bench.Specimen{ID: r.ID, RunID: r.RunID, Copy: r.Copy, Code: r.Code, Outcome: r.Outcome, Note: r.Note, PieceID: r.PieceID, XMM: r.XMM, YMM: r.YMM,
		TurnDeg: r.TurnDeg, ExposureS: r.ExposureS, SwappedWith: r.SwappedWith, Version: r.Version, ScalePct: r.ScalePct,
		Failed: r.Failed, FailedBy: r.FailedBy, MicroPrinted: r.MicroPrinted, Accident: r.Accident, Defects: []bench.Defect{}}
}

// SaveSpecimen writes a specimen and its defects: new ones are appended, and of those
// on record only what took them back is changed.
func (t *Tx) SaveSpecimen(v bench.Specimen) error {
	t.touched[v.RunID], t.touched[v.ID] = true, true
	err := t.q.SaveSpecimen(t.ctx, db.SaveSpecimenParams{ID: v.ID, RunID: v.RunID, Copy: v.Copy, Code: v.Code, Outcome: v.Outcome, Note: v.Note, PieceID: v.PieceID,
		XMM: v.XMM, YMM: v.YMM, TurnDeg: v.TurnDeg, ExposureS: v.ExposureS, SwappedWith: v.SwappedWith, Version: v.Version, ScalePct: v.ScalePct,
		Failed: v.Failed, FailedBy: v.FailedBy, MicroPrinted: v.MicroPrinted, Accident: v.Accident})
	if err != nil {
		return saved("specimen", err)
	}
	for _, d := range v.Defects {
		d.SpecimenID = v.ID
		if err := t.q.SaveDefect(t.ctx, db.SaveDefectParams(d)); err != nil {
			return saved("defect", err)
		}
	}
	return nil
}

// Specimens lists every specimen in its order.
func (t *Tx) Specimens() ([]bench.Specimen, error) {
	rows, err := t.q.Specimens(t.ctx)
	if err != nil {
		return nil, read("specimens", "", err)
	}
	defects, err := t.q.Defects(t.ctx)
	return withDefects("specimen", rows, defects, err)
}

// SpecimensOfRun lists the specimens of a run.
func (t *Tx) SpecimensOfRun(runID string) ([]bench.Specimen, error) {
	rows, err := t.q.SpecimensOfRun(t.ctx, runID)
	if err != nil {
		return nil, read("specimens of run", runID, err)
	}
	defects, err := t.q.DefectsOfRun(t.ctx, runID)
	return withDefects("specimens of run", rows, defects, err)
}

// SpecimensOfRuns lists the specimens of many runs at once, by run, in the order of
// their copies.
func (t *Tx) SpecimensOfRuns(ids []string) (map[string][]bench.Specimen, error) {
	if err := t.beginToSee(); err != nil {
		return nil, err
	}
	out, missing := make(map[string][]bench.Specimen, len(ids)), []string{}
	for _, id := range ids {
		if specimens, known := t.keptSpecimens(id); known {
			out[id] = specimens
		} else {
			missing = append(missing, id)
		}
	}
	if len(missing) == 0 {
		return out, nil
	}
	rows, err := t.q.SpecimensOfRuns(t.ctx, missing)
	if err != nil {
		return nil, read("specimens", "of runs", err)
	}
	defects, err := t.q.DefectsOfRuns(t.ctx, missing)
	all, err := withDefects("specimens of runs", rows, defects, err)
	if err != nil {
		return nil, err
	}
	for _, s := range all {
		out[s.RunID] = append(out[s.RunID], s)
	}
	if t.kept != nil {
		for _, id := range missing {
			t.kept.keepSpecimens(id, out[id], t.began)
		}
	}
	return out, nil
}

func (t *Tx) keptSpecimens(run string) ([]bench.Specimen, bool) {
	if t.kept == nil {
		return nil, false
	}
	return t.kept.specimensOf(run, t.began)
}

func withDefects(what string, rows []db.Specimen, defects []db.Defect, err error) ([]bench.Specimen, error) {
	out, err := list(what, rows, err, toSpecimen)
	of := map[string][]bench.Defect{}
	for _, d := range defects {
		of[d.SpecimenID] = append(of[d.SpecimenID], bench.Defect(d))
	}
	for i := range out {
		if d := of[out[i].ID]; d != nil {
			out[i].Defects = d
		}
	}
	return out, err
}

// RunOfSpecimen is the run that a specimen is of, or bench.ErrNotFound.
func (t *Tx) RunOfSpecimen(id string) (string, error) {
	run, err := t.q.RunOfSpecimen(t.ctx, id)
	return run, read("specimen", id, err)
}

// SpecimenByCode reads the specimen with a label's code, or bench.ErrNotFound.
func (t *Tx) SpecimenByCode(code string) (bench.Specimen, error) {
	row, err := t.q.SpecimenByCode(t.ctx, code)
	return toSpecimen(row), read("specimen", code, err)
}

func toTally(r db.Tally) bench.Tally {
	return bench.Tally{RunID: r.RunID, PieceID: r.PieceID, Counts: bench.Counts{Specimens: r.Specimens, Pending: r.Pending, Whole: r.Whole, Micro: r.Micro, Lost: r.Lost,
		MicroPrinted: r.MicroPrinted, Failed: r.Failed, ByMachine: r.ByMachine, ByResin: r.ByResin, Accidents: r.Accidents}}
}

// SaveTally writes what was counted of a run's copies of a piece.
func (t *Tx) SaveTally(v bench.Tally) error {
	return saved("tally", t.q.SaveTally(t.ctx, db.SaveTallyParams{RunID: v.RunID, PieceID: v.PieceID, Specimens: v.Specimens, Pending: v.Pending, Whole: v.Whole, Micro: v.Micro,
		Lost: v.Lost, MicroPrinted: v.MicroPrinted, Failed: v.Failed, ByMachine: v.ByMachine, ByResin: v.ByResin, Accidents: v.Accidents}))
}

// TalliesOfRun reads what was counted of a run, piece by piece.
func (t *Tx) TalliesOfRun(runID string) ([]bench.Tally, error) {
	rows, err := t.q.TalliesOfRun(t.ctx, runID)
	return list("tallies of run", rows, err, toTally)
}

// TalliesOfRuns reads what was counted of several runs, by run.
func (t *Tx) TalliesOfRuns(runIDs []string) (map[string][]bench.Tally, error) {
	return askLists(t, talliesKey{strings.Join(runIDs, " ")}, []string{"tally"}, func() (map[string][]bench.Tally, error) {
		rows, err := t.q.TalliesOfRuns(t.ctx, runIDs)
		return byRun("tallies of runs", rows, err)
	})
}

type talliesKey struct{ runs string }

// TalliesBetween reads what was counted of the runs that began from one instant to
// another, by run.
func (t *Tx) TalliesBetween(fromMS, toMS int64) (map[string][]bench.Tally, error) {
	rows, err := t.q.TalliesBetween(t.ctx, db.TalliesBetweenParams{StartedMS: fromMS, StartedMS_2: toMS})
	return byRun("tallies", rows, err)
}

func byRun(what string, rows []db.Tally, err error) (map[string][]bench.Tally, error) {
	tallies, err := list(what, rows, err, toTally)
	out := map[string][]bench.Tally{}
	for _, v := range tallies {
		out[v.RunID] = append(out[v.RunID], v)
	}
	return out, err
}

// JudgedTally is what was counted of a judged run's copies of a piece, with what
// printed them.
type JudgedTally struct {
	MachineID, ResinID, ProfileID string
	Software                      *string
	StartedMS                     int64
	bench.Tally
}

// JudgedTallies lists the counts of all judged runs, by their start.
func (t *Tx) JudgedTallies() ([]JudgedTally, error) {
	return askList(t, judgedKey{}, []string{"run", "tally"}, t.judgedTallies)
}

type judgedKey struct{}

func (t *Tx) judgedTallies() ([]JudgedTally, error) {
	rows, err := t.q.JudgedTallies(t.ctx)
	out, err := list("judged runs", rows, err, func(r db.JudgedTalliesRow) JudgedTally {
		return JudgedTally{r.MachineID, r.ResinID, r.ProfileID, r.Software, r.StartedMS, toTally(db.Tally{RunID: r.RunID, PieceID: r.PieceID, Specimens: r.Specimens, Pending: r.Pending, Whole: r.Whole, Micro: r.Micro,
			Lost: r.Lost, MicroPrinted: r.MicroPrinted, Failed: r.Failed, ByMachine: r.ByMachine, ByResin: r.ByResin, Accidents: r.Accidents})}
	})
	slices.SortStableFunc(out, func(a, b JudgedTally) int { return cmp.Compare(a.RunID, b.RunID) })
	return out, err
}

// SaveAmendment appends a change to an entry's history.
func (t *Tx) SaveAmendment(v bench.Amendment) error {
	return saved("amendment", t.q.SaveAmendment(t.ctx, db.SaveAmendmentParams(v)))
}

// AmendmentsOf lists the changes of an entry, in order.
func (t *Tx) AmendmentsOf(kind, id string) ([]bench.Amendment, error) {
	rows, err := t.q.AmendmentsOf(t.ctx, db.AmendmentsOfParams{Kind: kind, Entry: id})
	return list("history", rows, err, func(r db.Amendment) bench.Amendment { return bench.Amendment(r) })
}

// Amendment is one change.
func (t *Tx) Amendment(id string) (bench.Amendment, error) {
	row, err := t.q.AmendmentByID(t.ctx, id)
	return bench.Amendment(row), read("change", id, err)
}

// NewestAmendments lists changes of entries of a kind, of all where it is empty, the newest first:
// as many as most, after the first skip.
func (t *Tx) NewestAmendments(kind string, most, skip int64) ([]bench.Amendment, error) {
	rows, err := t.q.NewestAmendments(t.ctx, db.NewestAmendmentsParams{Kind: kind, Skip: skip, Most: most})
	return list("history", rows, err, func(r db.Amendment) bench.Amendment { return bench.Amendment(r) })
}

// Amendments lists the changes of all entries, in order.
func (t *Tx) Amendments() ([]bench.Amendment, error) {
	rows, err := t.q.Amendments(t.ctx)
	return list("amendment", rows, err, func(r db.Amendment) bench.Amendment { return bench.Amendment(r) })
}

// Assembly reads one assembly, or bench.ErrNotFound.
func (t *Tx) Assembly(id string) (bench.Assembly, error) {
	row, err := t.q.AssemblyByID(t.ctx, id)
	return bench.Assembly(row), read("assembly", id, err)
}

// SaveAssembly writes an assembly.
func (t *Tx) SaveAssembly(v bench.Assembly) error {
	return saved("assembly", t.q.SaveAssembly(t.ctx, db.SaveAssemblyParams(v)))
}

// Assemblies lists every assembly in its order.
func (t *Tx) Assemblies() ([]bench.Assembly, error) {
	rows, err := t.q.Assemblies(t.ctx)
	return list("assembly", rows, err, func(r db.Assembly) bench.Assembly { return bench.Assembly(r) })
}

// PrintedSymptom is a symptom that copies of a piece on a run had, with its origin.
type PrintedSymptom = db.PrintedSymptomsRow

// PrintedSymptoms lists the symptoms on all runs by their pieces, those not taken back.
func (t *Tx) PrintedSymptoms() ([]PrintedSymptom, error) {
	return askList(t, symptomsKey{}, []string{"specimen", "defect"}, func() ([]PrintedSymptom, error) {
		rows, err := t.q.PrintedSymptoms(t.ctx)
		return list("symptoms", rows, err, func(r db.PrintedSymptomsRow) PrintedSymptom { return r })
	})
}

type symptomsKey struct{}

// SpecimenByID reads one specimen, or bench.ErrNotFound.
func (t *Tx) SpecimenByID(id string) (bench.Specimen, error) {
	row, err := t.q.SpecimenByID(t.ctx, id)
	return toSpecimen(row), read("specimen", id, err)
}

package upkeep

import (
	"cmp"
	"maps"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/diagnose"
	"ojime/internal/core/outcome"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// FaultRecord is what the judged prints of a record showed as printed so, and how each
// fault went on. Prints are by machine in the order of time, symptoms by print and piece.
type FaultRecord struct {
	Tallies  []store.JudgedTally
	Prints   map[string][]diagnose.JudgedPrint
	Symptoms map[OnPiece][]string
	Courses  map[string][]diagnose.Course
	remedies []bench.Remedy
	machine  map[string]string // of a judged run
}

// OnPiece is a piece on a print.
type OnPiece struct{ RunID, PieceID string }

// FaultsAt reads the faults of the whole record, once for each state of it: at is the count
// of changes before the transaction began.
func (w *Tasks) FaultsAt(t *store.Tx, at int64) (*FaultRecord, error) {
	return task.Recall(&w.Memory, at, faultsKey{}, func() (*FaultRecord, error) { return Faults(t) })
}

type faultsKey struct{}

// Faults reads the faults of the whole record.
func Faults(t *store.Tx) (*FaultRecord, error) {
	out := &FaultRecord{Prints: map[string][]diagnose.JudgedPrint{}, Symptoms: map[OnPiece][]string{}, Courses: map[string][]diagnose.Course{}, machine: map[string]string{}}
	var err error
	if out.Tallies, err = t.JudgedTallies(); err != nil {
		return nil, err
	}
	symptoms, err := t.PrintedSymptoms()
	if err != nil {
		return nil, err
	}
	if out.remedies, err = t.Remedies(); err != nil {
		return nil, err
	}
	onRun := map[string][]string{}
	for _, s := range symptoms {
		if !(outcome.Defect{Origin: s.Origin}).PrintedSo() {
			continue
		}
		out.Symptoms[OnPiece{s.RunID, s.PieceID}] = append(out.Symptoms[OnPiece{s.RunID, s.PieceID}], s.Symptom)
		if !slices.Contains(onRun[s.RunID], s.Symptom) {
			onRun[s.RunID] = append(onRun[s.RunID], s.Symptom)
		}
	}
	tried := map[string][]diagnose.Attempt{}
	for _, r := range out.remedies {
		tried[r.RunID] = append(tried[r.RunID], diagnose.Attempt{ID: r.ID, Symptom: r.Symptom, Cause: r.Cause})
	}
	for i, j := range out.Tallies {
		prints := out.Prints[j.MachineID]
		if i == 0 || out.Tallies[i-1].RunID != j.RunID {
			prints = append(prints, diagnose.JudgedPrint{Run: j.RunID, AtMS: j.StartedMS, Symptoms: onRun[j.RunID], Tried: tried[j.RunID]})
			out.machine[j.RunID] = j.MachineID
		}
		last := &prints[len(prints)-1]
		last.Pieces = append(last.Pieces, j.PieceID)
		out.Prints[j.MachineID] = prints
	}
	for id, prints := range out.Prints {
		slices.SortStableFunc(prints, func(a, b diagnose.JudgedPrint) int { return cmp.Compare(a.AtMS, b.AtMS) })
		out.Courses[id] = diagnose.Courses(prints)
	}
	return out, nil
}

// Of are the courses of the machines that are asked for, in a fixed order.
func (f *FaultRecord) Of(asked func(machineID string) bool) (out []diagnose.Course) {
	for _, id := range slices.Sorted(maps.Keys(f.Courses)) {
		if asked(id) {
			out = append(out, f.Courses[id]...)
		}
	}
	return out
}

// All are the courses of every machine.
func (f *FaultRecord) All() []diagnose.Course { return f.Of(func(string) bool { return true }) }

// TriedRemedy is what was tried on a print, with the print that told what came of it:
// Returned is nil while none has. Alone is false where other causes were gone after at the
// same time; Says puts it in words. What was tried against a symptom that no longer counts
// on its print has nothing to tell.
type TriedRemedy struct {
	bench.Remedy
	Run        string `json:"run"`
	Title      string `json:"title"`
	ToldBy     string `json:"told_by"`
	ToldByCode string `json:"told_by_code"`
	Returned   *bool  `json:"returned" required:"false"`
	Alone      bool   `json:"alone"`
	Says       string `json:"says"`
}

// TriedOn is what was tried on prints, in the order of time, with what came of it.
func (f *FaultRecord) TriedOn(t *store.Tx, on func(runID string) bool) ([]TriedRemedy, error) {
	out := []TriedRemedy{}
	codeOf := task.Memoise(func(id string) (string, error) {
		if id == "" {
			return "", nil
		}
		r, err := t.Run(id)
		return r.Code, err
	})
	for _, v := range f.remedies {
		if !on(v.RunID) {
			continue
		}
		tried := TriedRemedy{Remedy: v, Title: diagnose.TitleOf(v.Cause), Says: "is not on record as printed so"}
		var err error
		if tried.Run, err = codeOf(v.RunID); err != nil {
			return out, err
		}
		for _, c := range f.Courses[f.machine[v.RunID]] {
			if c.Run != v.RunID || c.Symptom != v.Symptom {
				continue
			}
			if tried.ToldByCode, err = codeOf(c.ToldBy); err != nil {
				return out, err
			}
			if tried.ToldBy = c.ToldBy; c.ToldBy != "" {
				tried.Returned = &c.Returned
			}
			tried.Alone, tried.Says = c.Alone(), c.Sentence(tried.ToldByCode)
		}
		out = append(out, tried)
	}
	return out, nil
}

package tally

import (
	"cmp"
	"context"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/diagnose"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
	"ojime/internal/work/upkeep"
)

// FailureRates are the failures of machines, resins, settings, pieces and software, and how
// faults fared with and without a remedy.
type FailureRates struct {
	Machines []FailureRow     `json:"machines"`
	Resins   []FailureRow     `json:"resins"`
	Profiles []FailureRow     `json:"profiles"`
	Pieces   []FailureRow     `json:"pieces"`
	Software []FailureRow     `json:"software"`
	Fared    []diagnose.Fared `json:"fared"`
}

// FailureRow is one of them: rates over prints (something on the plate failed) and
// over specimens, of all failures and of those attributed to it. Accidents after
// printing are counted beside and count against nobody. Few says that there were
// fewer than three trials, where a rate means next to nothing.
type FailureRow struct {
	ID           string              `json:"id"`
	Name         string              `json:"name"`
	AttributedTo string              `json:"attributed_to"`
	Runs         FailureCount        `json:"runs"`
	Specimens    FailureCount        `json:"specimens"`
	Micro        evidence.RateResult `json:"micro_defects"`
	MicroN       int64               `json:"micro_n"`
	Accidents    int64               `json:"accidents"`
	FewRuns      bool                `json:"few_runs"`
	// Symptoms are those that count against what was printed, the commonest first.
	Symptoms []SymptomCount `json:"symptoms"`
}

// SymptomCount is on how many judged prints a symptom was seen.
type SymptomCount struct {
	Symptom string `json:"symptom"`
	Prints  int64  `json:"prints"`
}

// FailureCount is counts with their rates. Over specimens the interval knows that copies
// of one print share its fate.
type FailureCount struct {
	Tried          int64               `json:"tried"`
	Failed         int64               `json:"failed"`
	Attributed     int64               `json:"attributed"`
	All            evidence.RateResult `json:"all"`
	AttributedRate evidence.RateResult `json:"attributed_rate"`
}

type failuresKey struct{}

// FailureRates counts failures over the whole record.
func (w *Tasks) FailureRates(ctx context.Context) (FailureRates, error) {
	return task.Recall(&w.Memory, w.Store.Changes(), failuresKey{}, func() (out FailureRates, err error) {
		err = w.Store.Read(ctx, func(t *store.Tx) error {
			out, err = failureRates(t)
			return err
		})
		return out, err
	})
}

func failureRates(t *store.Tx) (out FailureRates, err error) {
	faults, err := upkeep.Faults(t)
	if err != nil {
		return out, err
	}
	names, err := kit.KitNames(t)
	if err != nil {
		return out, err
	}
	names[bench.NoSoftware] = bench.NoSoftware
	for _, j := range faults.Tallies {
		if j.Software != nil {
			names[*j.Software] = *j.Software
		}
	}
	if out.Fared, err = diagnose.Fare(faults.All()); err != nil {
		return out, err
	}
	byMachine := func(c bench.Counts) int64 { return c.ByMachine }
	for _, g := range []struct {
		to   string
		id   func(store.JudgedTally) string
		of   func(bench.Counts) int64
		into *[]FailureRow
	}{
		{"machine", func(j store.JudgedTally) string { return j.MachineID }, byMachine, &out.Machines},
		{"resin", func(j store.JudgedTally) string { return j.ResinID }, func(c bench.Counts) int64 { return c.ByResin }, &out.Resins},
		{"machine", func(j store.JudgedTally) string { return j.ProfileID }, byMachine, &out.Profiles},
		{"machine", func(j store.JudgedTally) string { return j.PieceID }, byMachine, &out.Pieces},
		{"machine", func(j store.JudgedTally) string { return quantity.Or(j.Software, bench.NoSoftware) }, byMachine, &out.Software},
	} {
		tally := failureTally{names: names, attributedTo: g.to, of: g.of, position: map[string]int{}}
		tally.addAll(faults, g.id)
		if *g.into, err = tally.rates(); err != nil {
			return out, err
		}
	}
	return out, nil
}

// failureTally adds prints up by one of their references.
type failureTally struct {
	names        map[string]string
	attributedTo string
	of           func(bench.Counts) int64
	position     map[string]int
	rows         []FailureRow
	prints       [][]bench.Counts // of each row
}

// addAll counts the prints, whose tallies stand together: a print counts once for whatever
// it is counted by, however many pieces it held.
func (g *failureTally) addAll(faults *upkeep.FaultRecord, id func(store.JudgedTally) string) {
	tallies := faults.Tallies
	for from := 0; from < len(tallies); {
		to := from
		counts, symptoms := map[string]*bench.Counts{}, map[string][]string{}
		var order []string
		for ; to < len(tallies) && tallies[to].RunID == tallies[from].RunID; to++ {
			of := id(tallies[to])
			if counts[of] == nil {
				counts[of], order = &bench.Counts{}, append(order, of)
			}
			counts[of].Sum(tallies[to].Counts)
			for _, symptom := range faults.Symptoms[upkeep.OnPiece{RunID: tallies[to].RunID, PieceID: tallies[to].PieceID}] {
				if !slices.Contains(symptoms[of], symptom) {
					symptoms[of] = append(symptoms[of], symptom)
				}
			}
		}
		for _, of := range order {
			g.add(of, *counts[of], symptoms[of])
		}
		from = to
	}
}

// add counts one print with the symptoms it showed.
func (g *failureTally) add(id string, c bench.Counts, symptoms []string) {
	at, seen := g.position[id]
	if !seen {
		at = len(g.rows)
		g.position[id], g.rows = at, append(g.rows, FailureRow{ID: id, Name: g.names[id], AttributedTo: g.attributedTo, Symptoms: []SymptomCount{}})
		g.prints = append(g.prints, nil)
	}
	g.prints[at] = append(g.prints[at], c)
	r, attributed := &g.rows[at], g.of(c)
	r.Runs.Tried, r.Runs.Failed, r.Runs.Attributed = r.Runs.Tried+1, r.Runs.Failed+min(c.Failed, 1), r.Runs.Attributed+min(attributed, 1)
	r.Specimens.Tried, r.Specimens.Failed, r.Specimens.Attributed = r.Specimens.Tried+c.Judged(), r.Specimens.Failed+c.Failed, r.Specimens.Attributed+attributed
	r.MicroN, r.Accidents = r.MicroN+c.MicroPrinted, r.Accidents+c.Accidents
	for _, symptom := range symptoms {
		at := slices.IndexFunc(r.Symptoms, func(o SymptomCount) bool { return o.Symptom == symptom })
		if at < 0 {
			at, r.Symptoms = len(r.Symptoms), append(r.Symptoms, SymptomCount{Symptom: symptom})
		}
		r.Symptoms[at].Prints++
	}
}

func (g *failureTally) rates() ([]FailureRow, error) {
	for i := range g.rows {
		r := &g.rows[i]
		r.FewRuns = evidence.Few(r.Runs.Tried)
		slices.SortStableFunc(r.Symptoms, func(a, b SymptomCount) int {
			return cmp.Or(cmp.Compare(b.Prints, a.Prints), cmp.Compare(a.Symptom, b.Symptom))
		})
		var err error
		if r.Runs.All, err = evidence.Rate(evidence.Count{Events: r.Runs.Failed, Trials: r.Runs.Tried}); err != nil {
			return nil, err
		}
		if r.Runs.AttributedRate, err = evidence.Rate(evidence.Count{Events: r.Runs.Attributed, Trials: r.Runs.Tried}); err != nil {
			return nil, err
		}
		for _, over := range []struct {
			of   func(bench.Counts) int64
			into *evidence.RateResult
		}{
			{func(c bench.Counts) int64 { return c.Failed }, &r.Specimens.All}, {g.of, &r.Specimens.AttributedRate},
			{func(c bench.Counts) int64 { return c.MicroPrinted }, &r.Micro},
		} {
			if *over.into, err = overPrints(g.prints[i], over.of); err != nil {
				return nil, err
			}
		}
	}
	slices.SortStableFunc(g.rows, func(a, b FailureRow) int { return cmp.Compare(b.Runs.Tried, a.Runs.Tried) })
	if g.rows == nil {
		return []FailureRow{}, nil
	}
	return g.rows, nil
}

// overPrints is a rate over specimens with the interval that their prints allow.
func overPrints(prints []bench.Counts, of func(bench.Counts) int64) (evidence.RateResult, error) {
	var counts []evidence.PrintCount
	for _, c := range prints {
		if judged := c.Judged(); judged > 0 {
			counts = append(counts, evidence.PrintCount{Failed: of(c), Judged: judged})
		}
	}
	if len(counts) == 0 {
		return evidence.Rate(evidence.Count{})
	}
	r, err := evidence.Prints(evidence.PrintsInput{A: counts})
	return evidence.RateResult{Rate: &r.A.Rate, CI: &r.A.CI, UpperIfNone: r.A.UpperIfNone, Warnings: r.Warnings}, err
}

package compare

import (
	"cmp"
	"context"
	"slices"

	"ojime/internal/core/evidence"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// FailureRates are the failures of machines, resins, profiles and pieces.
type FailureRates struct {
	Machines []FailureRow `json:"machines"`
	Resins   []FailureRow `json:"resins"`
	Profiles []FailureRow `json:"profiles"`
	Pieces   []FailureRow `json:"pieces"`
}

// FailureRow is one of them: rates over runs (something on the plate failed) and
// over specimens, of all failures and of those laid to it. Few says that there
// were fewer than three trials, where a rate means next to nothing.
type FailureRow struct {
	ID        string              `json:"id"`
	Name      string              `json:"name"`
	LaidTo    string              `json:"laid_to"`
	Runs      FailureCount        `json:"runs"`
	Specimens FailureCount        `json:"specimens"`
	Micro     evidence.RateResult `json:"micro_defects"`
	FewRuns   bool                `json:"few_runs"`

	micro int64
}

// FailureCount is counts with their rates.
type FailureCount struct {
	Tried    int64               `json:"tried"`
	Failed   int64               `json:"failed"`
	Laid     int64               `json:"laid"`
	All      evidence.RateResult `json:"all"`
	LaidRate evidence.RateResult `json:"laid_rate"`
}

// FailureRates counts failures over the whole record.
func (w *Tasks) FailureRates(ctx context.Context) (FailureRates, error) {
	return task.Recall(&w.Memory, w.Store.Changes(), "failure rates", func() (out FailureRates, err error) {
		err = w.Store.Read(ctx, func(t *store.Tx) error {
			out, err = failureRates(t)
			return err
		})
		return out, err
	})
}

func failureRates(t *store.Tx) (out FailureRates, err error) {
	groups, err := t.JudgedGroups()
	if err != nil {
		return out, err
	}
	mixed, err := t.MixedPieces()
	if err != nil {
		return out, err
	}
	names, err := kit.KitNames(t)
	if err != nil {
		return out, err
	}
	by := func(laidTo string, id func(store.JudgedGroup) string) *failureTally {
		g := &failureTally{names: names, laidTo: laidTo, place: map[string]int{}}
		for _, j := range groups {
			if id != nil {
				g.add(id(j), j)
			}
		}
		return g
	}
	pieces := by("machine", nil)
	for _, j := range groups {
		if j.Mixed == 0 {
			pieces.add(j.PieceID, j)
		}
	}
	for _, m := range mixed {
		pieces.add(m.Piece, store.JudgedGroup{Runs: 1, RunsFailed: some(m.Failed), RunsLaid: some(m.Laid), Specimens: m.Specimens, Micro: m.Micro, Failed: m.Failed, Laid: m.Laid})
	}
	for _, g := range []struct {
		from *failureTally
		into *[]FailureRow
	}{
		{by("machine", func(j store.JudgedGroup) string { return j.MachineID }), &out.Machines},
		{by("resin", func(j store.JudgedGroup) string { return j.ResinID }), &out.Resins},
		{by("machine", func(j store.JudgedGroup) string { return j.ProfileID }), &out.Profiles},
		{pieces, &out.Pieces},
	} {
		if *g.into, err = g.from.rates(); err != nil {
			return out, err
		}
	}
	return out, nil
}

func some(n int64) int64 { return min(n, 1) }

// gathering adds groups up by one of their references.
type failureTally struct {
	names  map[string]string
	laidTo string
	place  map[string]int
	rows   []FailureRow
}

func (g *failureTally) add(id string, j store.JudgedGroup) {
	at, seen := g.place[id]
	if !seen {
		at = len(g.rows)
		g.place[id], g.rows = at, append(g.rows, FailureRow{ID: id, Name: g.names[id], LaidTo: g.laidTo})
	}
	r := &g.rows[at]
	laid, runsLaid := j.Laid, j.RunsLaid
	if g.laidTo == "resin" {
		laid, runsLaid = j.LaidResin, j.RunsLaidResin
	}
	r.Runs.Tried, r.Runs.Failed, r.Runs.Laid = r.Runs.Tried+j.Runs, r.Runs.Failed+j.RunsFailed, r.Runs.Laid+runsLaid
	r.Specimens.Tried, r.Specimens.Failed, r.Specimens.Laid = r.Specimens.Tried+j.Specimens, r.Specimens.Failed+j.Failed, r.Specimens.Laid+laid
	r.micro += j.Micro
}

func (g *failureTally) rates() ([]FailureRow, error) {
	for i := range g.rows {
		r := &g.rows[i]
		r.FewRuns = r.Runs.Tried < task.FewTrials
		for _, c := range []*FailureCount{&r.Runs, &r.Specimens} {
			var err error
			if c.All, err = evidence.Rate(evidence.Count{Events: c.Failed, Trials: c.Tried}); err != nil {
				return nil, err
			}
			if c.LaidRate, err = evidence.Rate(evidence.Count{Events: c.Laid, Trials: c.Tried}); err != nil {
				return nil, err
			}
		}
		var err error
		if r.Micro, err = evidence.Rate(evidence.Count{Events: r.micro, Trials: r.Specimens.Tried}); err != nil {
			return nil, err
		}
	}
	slices.SortStableFunc(g.rows, func(a, b FailureRow) int { return cmp.Compare(b.Runs.Tried, a.Runs.Tried) })
	if g.rows == nil {
		return []FailureRow{}, nil
	}
	return g.rows, nil
}

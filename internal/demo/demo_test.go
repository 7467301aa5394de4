package demo

import (
	"crypto/rand"
	"slices"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/store"
	"ojime/internal/work"
)

func TestTheDemoIsARecordAsAUserMakesIt(t *testing.T) {
	s, err := store.Open(t.Context(), t.TempDir())
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = s.Close() }()
	// The instant at which the browser tests begin, in a place whose days are those of UTC.
	now := time.Date(2026, 11, 25, 14, 5, 0, 0, time.UTC)
	local := time.Local
	time.Local = time.UTC
	t.Cleanup(func() { time.Local = local })
	for round, want := range []bool{true, false} {
		if filled, err := Fill(t.Context(), s, now); err != nil || filled != want {
			t.Fatalf("round %d: filled %v (%v), want %v", round, filled, err, want)
		}
	}
	tablesTravel(t, s, now)
	bundleTravels(t, s, now)
	sampleStands(t, s, now)
	err = s.Read(t.Context(), func(tx *store.Tx) error {
		machines, err := tx.Machines()
		if err != nil {
			return err
		}
		runs, err := tx.Runs()
		if err != nil {
			return err
		}
		pieces, err := tx.Pieces()
		if err != nil {
			return err
		}
		readings, err := tx.Readings()
		if err != nil {
			return err
		}
		if len(machines) < 3 || len(runs) < 25 || len(pieces) < 4 || len(readings) < 200 {
			t.Errorf("%d machines, %d runs, %d pieces, %d readings", len(machines), len(runs), len(pieces), len(readings))
		}
		for _, p := range pieces {
			if p.OpenEdges != 0 || p.NonmanifoldEdges != 0 || p.VolumeML <= 0 {
				t.Errorf("%s: %d open edges, %d nonmanifold, %v ml", p.Name, p.OpenEdges, p.NonmanifoldEdges, p.VolumeML)
			}
		}
		assemblies, err := tx.Assemblies()
		if err != nil {
			return err
		}
		profiles, err := tx.Profiles()
		if err != nil {
			return err
		}
		changed := 0
		for _, p := range profiles {
			if p.ParentID != nil {
				changed++
			}
		}
		changes, err := tx.Amendments()
		if err != nil {
			return err
		}
		if len(assemblies) == 0 || changed < 2 || len(changes) == 0 {
			t.Errorf("%d assemblies, %d settings made from others, %d changes in the history", len(assemblies), changed, len(changes))
		}
		first, last, open, again := runs[0].StartedMS, int64(0), 0, 0
		for _, r := range runs {
			if r.AgainOfID != nil && r.AgainChange != "" {
				again++
			}
			if r.EndedMS == nil {
				open++
				continue
			}
			last = max(last, *r.EndedMS)
		}
		if open != 3 || again != 1 {
			t.Errorf("%d runs are open and %d made again, want one that prints, one prepared and one more of them made again", open, again)
		}
		if days := (last - first) / 86_400_000; days < 50 || last > now.UnixMilli() {
			t.Errorf("the runs span %d days and end %v", days, time.UnixMilli(last))
		}
		return drawnPhotographs(t, s, tx)
	})
	if err != nil {
		t.Error(err)
	}
}

// drawnPhotographs holds the demo's photographs against what they are drawn from: each has its
// files and a scale, none is blurred, and the machine with the finer pixels has the narrower
// edges.
func drawnPhotographs(t *testing.T, s *store.Store, tx *store.Tx) error {
	all, err := tx.Photographs()
	if err != nil {
		return err
	}
	stages, edges := map[string]int{}, map[string][]float64{}
	for _, p := range all {
		measures, err := tx.MeasuresOf([]string{p.ID})
		if err != nil {
			return err
		}
		shown, err := p.WithMeasures(measures)
		if err != nil {
			return err
		}
		stages[p.Stage]++
		if shown.MMPerPX == nil || shown.Blurred {
			t.Errorf("%s: scale %v, blurred %v (%v)", p.Code, shown.MMPerPX, shown.Blurred, p.Blur)
		}
		for _, name := range p.Files() {
			if !s.Photographs().Has(name) {
				t.Errorf("%s lacks a file", p.Code)
			}
		}
		for _, m := range shown.Measures {
			if m.Kind != "edge" {
				continue
			}
			run, err := tx.RunOfSpecimen(*p.SpecimenID)
			if err != nil {
				return err
			}
			of, err := tx.RunsByID([]string{run})
			if err != nil {
				return err
			}
			machine, err := tx.Machine(of[run].MachineID)
			if err != nil {
				return err
			}
			edges[machine.Name] = append(edges[machine.Name], 1000**m.SizeMM)
		}
	}
	if stages["raw"] < 10 || stages["primed"] < 4 {
		t.Errorf("%v", stages)
	}
	if fine, coarse := edges[dunnock], edges[wheatear]; len(fine) != 3 || len(coarse) != 3 || slices.Max(fine) >= slices.Min(coarse) {
		t.Errorf("edges of %v µm on %s, %v µm on %s", fine, dunnock, coarse, wheatear)
	}
	return nil
}

// A review of the demo comes out of its bundle in another record word for word.
func bundleTravels(t *testing.T, s *store.Store, now time.Time) {
	t.Helper()
	other, err := store.Open(t.Context(), t.TempDir())
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = other.Close() }()
	from, to := work.New(s, func() time.Time { return now }, rand.Reader), work.New(other, func() time.Time { return now }, rand.Reader)
	reviews, err := from.Reviews.Reviews(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	at := slices.IndexFunc(reviews, func(r bench.Review) bool { return len(r.Blocks) > 0 })
	data, err := from.Bundle.Make(t.Context(), reviews[at].ID)
	if err != nil {
		t.Fatal(err)
	}
	got, err := to.Bundle.Open(t.Context(), data, nil)
	if err != nil || !got.SameText || len(got.Differ)+len(got.Damaged) != 0 || got.Figures < 500 {
		t.Errorf("%v: %+v", err, got)
	}
}

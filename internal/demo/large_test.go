package demo

import (
	"testing"
	"time"

	"ojime/internal/store"
)

func TestALargeRecordHoldsWhatItSays(t *testing.T) {
	s, err := store.Open(t.Context(), t.TempDir())
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = s.Close() }()
	size := Size{Runs: 48, Specimens: 6, Readings: 3}
	told := 0
	now := time.Date(2026, 11, 1, 12, 0, 0, 0, time.UTC)
	if filled, err := FillLarge(t.Context(), s, now, size, func(done int) { told = done }); err != nil || !filled || told != size.Runs {
		t.Fatalf("filled %v (%v), told of %d runs", filled, err, told)
	}
	if again, err := FillLarge(t.Context(), s, now, size, func(int) {}); err != nil || again {
		t.Errorf("filled again: %v (%v)", again, err)
	}
	err = s.Read(t.Context(), func(tx *store.Tx) error {
		runs, err := tx.Runs()
		if err != nil {
			return err
		}
		specimens, err := tx.Specimens()
		if err != nil {
			return err
		}
		readings, err := tx.Readings()
		if err != nil {
			return err
		}
		standing := 0
		for _, p := range specimens {
			if p.Judged() && !p.SetAside() {
				standing++
			}
		}
		if len(runs) != size.Runs || len(specimens) != size.Runs*size.Specimens || len(readings) != standing*size.Readings {
			t.Errorf("%d runs, %d specimens, %d readings of %d standing", len(runs), len(specimens), len(readings), standing)
		}
		return nil
	})
	if err != nil {
		t.Error(err)
	}
	if wrong, err := s.Check(t.Context()); err != nil || len(wrong) > 0 {
		t.Errorf("check: %v (%v)", wrong, err)
	}
}

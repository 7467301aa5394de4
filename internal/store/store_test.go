package store

import (
	"context"
	"errors"
	"sync"
	"testing"

	"ojime/internal/bench"
)

func open(t *testing.T, dir string) *Store {
	t.Helper()
	s, err := Open(t.Context(), dir)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() {
		if err := s.Close(); err != nil {
			t.Error(err)
		}
	})
	return s
}

func resin(id, code string) bench.Resin {
	ml := 1000.0
	return bench.Resin{ID: id, Code: code, Version: 1, Name: "Fable Grey", BottleML: &ml, Colour: "#555555"}
}

func save(t *testing.T, s *Store, r bench.Resin) {
	t.Helper()
	if err := s.Write(t.Context(), func(tx *Tx) error { return tx.SaveResin(r) }); err != nil {
		t.Fatal(err)
	}
}

// The driver's defaults are wrong for us: no foreign keys, no waiting, no
// write-ahead log. Every connection of both pools must have ours.
func TestEveryConnectionHasOurSettings(t *testing.T) {
	s := open(t, t.TempDir())
	want := map[string]string{"foreign_keys": "1", "journal_mode": "wal", "synchronous": "2", "busy_timeout": "5000"}
	for range readers { // held together, so that each is another connection
		conn, err := s.reader.Conn(t.Context())
		if err != nil {
			t.Fatal(err)
		}
		defer func() { _ = conn.Close() }()
		for pragma, value := range want {
			var got string
			if err := conn.QueryRowContext(t.Context(), "PRAGMA "+pragma).Scan(&got); err != nil || got != value {
				t.Errorf("%s is %q (%v), want %q", pragma, got, err, value)
			}
		}
	}
}

func TestWhatWasWrittenComesBack(t *testing.T) {
	dir := t.TempDir()
	s := open(t, dir)
	want := resin("r1", "L1")
	save(t, s, want)
	if err := s.Close(); err != nil {
		t.Fatal(err)
	}
	again, err := Open(t.Context(), dir) // migrations run a second time and change nothing
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = again.Close() }()
	err = again.Read(t.Context(), func(tx *Tx) error {
		got, err := tx.Resin("r1")
		if err == nil && (got.Name != want.Name || *got.BottleML != *want.BottleML || got.DensityGML != nil) {
			t.Errorf("got %+v, want %+v", got, want)
		}
		return err
	})
	if err != nil {
		t.Error(err)
	}
}

func TestAFailedTransactionLeavesNothing(t *testing.T) {
	s := open(t, t.TempDir())
	stop := errors.New("stop")
	err := s.Write(t.Context(), func(tx *Tx) error {
		if err := tx.SaveResin(resin("r1", "L1")); err != nil {
			return err
		}
		return stop
	})
	if !errors.Is(err, stop) {
		t.Fatalf("error %v, want it to wrap the cause", err)
	}
	err = s.Read(t.Context(), func(tx *Tx) error {
		_, err := tx.Resin("r1")
		return err
	})
	if !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("error %v, want not found", err)
	}
}

func TestErrorsAreTranslated(t *testing.T) {
	s := open(t, t.TempDir())
	save(t, s, resin("r1", "L1"))
	negative := resin("r3", "L3")
	negative.PriceList = -1
	for name, put := range map[string]func(*Tx) error{
		"a code twice":         func(tx *Tx) error { return tx.SaveResin(resin("r2", "L1")) },
		"a resin not there":    func(tx *Tx) error { return tx.SaveBottle(bench.Bottle{ID: "b", Code: "B1", ResinID: "nobody"}) },
		"a price below zero":   func(tx *Tx) error { return tx.SaveResin(negative) },
		"a reading of nothing": func(tx *Tx) error { return tx.SaveReading(bench.Reading{ID: "x", SpecimenID: "s", FeatureID: "f"}) },
	} {
		if err := s.Write(t.Context(), put); !errors.Is(err, bench.ErrConflict) {
			t.Errorf("%s: error %v, want a conflict", name, err)
		}
	}
}

func TestWritersWaitForEachOther(t *testing.T) {
	s := open(t, t.TempDir())
	const writers = 20
	var group sync.WaitGroup
	failed := make(chan error, writers)
	for range writers {
		group.Go(func() {
			failed <- s.Write(context.Background(), func(tx *Tx) error {
				n, err := tx.NextNumber("resin")
				if err != nil {
					return err
				}
				return tx.SaveResin(resin(bench.Code("run", n), bench.Code("resin", n)))
			})
		})
	}
	group.Wait()
	close(failed)
	for err := range failed {
		if err != nil {
			t.Error(err)
		}
	}
	err := s.Read(t.Context(), func(tx *Tx) error {
		all, err := tx.Resins()
		if len(all) != writers {
			t.Errorf("%d resins after %d writers", len(all), writers)
		}
		return err
	})
	if err != nil {
		t.Error(err)
	}
}

func TestANewerRecordIsRefused(t *testing.T) {
	dir := t.TempDir()
	s := open(t, dir)
	if _, err := s.writer.Exec("INSERT INTO goose_db_version (version_id, is_applied) VALUES (99999, 1)"); err != nil {
		t.Fatal(err)
	}
	if other, err := Open(t.Context(), dir); err == nil {
		_ = other.Close()
		t.Error("a record from a newer program was opened")
	}
}

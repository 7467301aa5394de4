package store

import (
	"errors"
	"fmt"
	"reflect"
	"sync"
	"testing"

	"ojime/internal/bench"
)

// measuredRecord is a record with its specimens by run, and one dimension to read.
func measuredRecord(t *testing.T) (s *Store, specimens map[string][]bench.Specimen, feature string) {
	t.Helper()
	s, _, _ = unpacked(t, "testdata/record-9.db.gz")
	err := s.Read(t.Context(), func(tx *Tx) error {
		runs, err := tx.Runs()
		if err != nil {
			return err
		}
		var ids []string
		for _, r := range runs {
			ids = append(ids, r.ID)
		}
		if specimens, err = tx.SpecimensOfRuns(ids); err != nil {
			return err
		}
		features, err := tx.Features()
		for _, f := range features {
			if f.Kind == "dimension" {
				feature = f.ID
			}
		}
		return err
	})
	if err != nil || len(specimens) < 3 || feature == "" {
		t.Fatalf("%d runs, feature %q: %v", len(specimens), feature, err)
	}
	return s, specimens, feature
}

// seen holds what is told of many runs at once against what SQLite tells of each in the
// same transaction.
func seen(tx *Tx, specimens map[string][]bench.Specimen) error {
	told, err := tx.ReadingsOfRuns(specimens)
	if err != nil {
		return err
	}
	for run := range specimens {
		want, err := tx.ReadingsOfRun(run)
		if err != nil {
			return err
		}
		got := map[string]bench.Reading{}
		for _, r := range told[run] {
			got[r.ID] = r
		}
		if len(got) != len(want) || len(told[run]) != len(want) {
			return fmt.Errorf("run %s: %d readings told, %d on record", run, len(told[run]), len(want))
		}
		for _, w := range want {
			if !reflect.DeepEqual(got[w.ID], w) {
				return fmt.Errorf("run %s: told %+v, on record %+v", run, got[w.ID], w)
			}
		}
	}
	return nil
}

func reading(id, specimen, feature string, valueMM float64) bench.Reading {
	return bench.Reading{ID: id, SpecimenID: specimen, FeatureID: feature, RecordedMS: 1_000_000, ValueMM: &valueMM}
}

func anySpecimen(specimens map[string][]bench.Specimen) bench.Specimen {
	for _, of := range specimens {
		if len(of) > 0 {
			return of[0]
		}
	}
	return bench.Specimen{}
}

// What was read before is told again only while it is what the record holds.
func TestReadingsAreToldAsTheyStand(t *testing.T) {
	s, specimens, feature := measuredRecord(t)
	one := anySpecimen(specimens)
	look := func(step string) {
		t.Helper()
		if err := s.Read(t.Context(), func(tx *Tx) error { return seen(tx, specimens) }); err != nil {
			t.Errorf("%s: %v", step, err)
		}
	}
	write := func(r bench.Reading, then error) error {
		return s.Write(t.Context(), func(tx *Tx) error {
			if err := tx.SaveReading(r); err != nil {
				return err
			}
			if err := seen(tx, specimens); err != nil { // a change sees itself
				t.Error(err)
			}
			return then
		})
	}
	look("first")
	look("kept")
	if err := write(reading("r1", one.ID, feature, 4.98), nil); err != nil {
		t.Fatal(err)
	}
	look("one more")
	if err := write(reading("r2", one.ID, feature, 5.01), errors.New("no")); err == nil {
		t.Fatal("a change that fails was kept")
	}
	look("one that was undone")
	back := reading("r1", one.ID, feature, 4.98)
	later := int64(2_000_000)
	back.TakenBackMS, back.TakenBackWhy = &later, "the wrong post"
	if err := write(back, nil); err != nil {
		t.Fatal(err)
	}
	look("one taken back")
}

// A transaction that began before a change goes on seeing the record as it was, whatever
// others were told meanwhile, and what it was told is not told to those who come after.
func TestAnOlderTransactionIsNotToldWhatCameAfter(t *testing.T) {
	s, specimens, feature := measuredRecord(t)
	one := anySpecimen(specimens)
	err := s.Read(t.Context(), func(old *Tx) error {
		if err := seen(old, specimens); err != nil {
			return err
		}
		if err := s.Write(t.Context(), func(tx *Tx) error { return tx.SaveReading(reading("r1", one.ID, feature, 5)) }); err != nil {
			return err
		}
		if err := seen(old, specimens); err != nil {
			return fmt.Errorf("after the change, before others looked: %w", err)
		}
		if err := s.Read(t.Context(), func(tx *Tx) error { return seen(tx, specimens) }); err != nil {
			return fmt.Errorf("after the change: %w", err)
		}
		return seen(old, specimens)
	})
	if err != nil {
		t.Fatal(err)
	}
	if err := s.Read(t.Context(), func(tx *Tx) error { return seen(tx, specimens) }); err != nil {
		t.Error(err)
	}
}

func TestReadingsAreRightWhileManyWriteAndLook(t *testing.T) {
	s, specimens, feature := measuredRecord(t)
	var ids []string
	for _, of := range specimens {
		for _, one := range of {
			ids = append(ids, one.ID)
		}
	}
	var work sync.WaitGroup
	for writer := range 3 {
		work.Go(func() {
			for i := range 15 {
				r := reading(fmt.Sprintf("w%d-%d", writer, i), ids[(writer*31+i*7)%len(ids)], feature, 5+float64(i)/100)
				if err := s.Write(t.Context(), func(tx *Tx) error { return tx.SaveReading(r) }); err != nil {
					t.Error(err)
				}
			}
		})
	}
	for range 3 {
		work.Go(func() {
			for range 15 {
				if err := s.Read(t.Context(), func(tx *Tx) error { return seen(tx, specimens) }); err != nil {
					t.Error(err)
				}
			}
		})
	}
	work.Wait()
}

// Memory is bounded: what does not fit any more is forgotten, and read again.
func TestReadingsThatAreKeptAreBounded(t *testing.T) {
	k := newReadingsKept()
	half := make([]bench.Reading, mostReadingsKept/2+1)
	k.keep("run 1", nil, half, 0)
	if _, known := k.of("run 1", nil, 0); !known {
		t.Error("what fits is not kept")
	}
	k.keep("run 2", nil, half, 0)
	if _, known := k.of("run 1", nil, 0); known || k.held > mostReadingsKept {
		t.Errorf("%d readings are held", k.held)
	}
	k.keep("run 2", nil, half[:10], 0)
	if k.held != 10 {
		t.Errorf("run 2 was read again and %d readings are counted, want 10", k.held)
	}
	all := map[string]bool{}
	for i := range mostReadingsKept + 1 {
		all[fmt.Sprint(i)] = true
	}
	k.committing(all)
	k.committed(all)
	if len(k.changed) != 0 {
		t.Errorf("%d changes are held", len(k.changed))
	}
	if _, known := k.of("run 2", []bench.Specimen{{ID: "7"}}, k.begin()); known {
		t.Error("what changed since is told as it was")
	}
}

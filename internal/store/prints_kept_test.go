package store

import (
	"cmp"
	"errors"
	"fmt"
	"maps"
	"reflect"
	"slices"
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
	if err := seenSpecimens(tx, specimens); err != nil {
		return err
	}
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

// seenSpecimens holds the copies that are told of many runs at once against what SQLite tells of each.
func seenSpecimens(tx *Tx, specimens map[string][]bench.Specimen) error {
	told, err := tx.SpecimensOfRuns(slices.Collect(maps.Keys(specimens)))
	if err != nil {
		return err
	}
	for run := range specimens {
		want, err := tx.SpecimensOfRun(run)
		if err != nil {
			return err
		}
		if !reflect.DeepEqual(told[run], want) {
			return fmt.Errorf("run %s: told %+v, on record %+v", run, told[run], want)
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

// A copy that is judged, comes to a defect, or is put back as it was is told so at once, with its defects.
func TestSpecimensAreToldAsTheyStand(t *testing.T) {
	s, specimens, _ := measuredRecord(t)
	look := func(step string) {
		t.Helper()
		if err := s.Read(t.Context(), func(tx *Tx) error { return seenSpecimens(tx, specimens) }); err != nil {
			t.Errorf("%s: %v", step, err)
		}
	}
	look("first")
	one := anySpecimen(specimens)
	before := one.Note
	save := func(step string, v bench.Specimen, then error) {
		t.Helper()
		err := s.Write(t.Context(), func(tx *Tx) error { return cmp.Or(tx.SaveSpecimen(v), seenSpecimens(tx, specimens), then) })
		if !errors.Is(err, then) {
			t.Fatalf("%s: %v", step, err)
		}
		look(step)
	}
	one.Note = "a chip at the foot"
	save("a note", one, nil)
	one.Defects = append(slices.Clone(one.Defects), bench.Defect{ID: "d1", Symptom: "curl", Severity: "marked", Origin: "printed", Fault: "machine"})
	save("a defect", one, nil)
	one.Note = "no"
	save("a change that was undone", one, errors.New("no"))
	next := one
	next.ID, next.Code, next.Copy, next.Defects = "s-new", "S-NEW", 90, []bench.Defect{}
	save("one copy more", next, nil)
	// What a person takes back is put back row by row.
	if err := s.Write(t.Context(), func(tx *Tx) error {
		row := Row{Table: "specimen"}
		if err := tx.tx.QueryRowContext(t.Context(), "SELECT rowid FROM specimen WHERE id = ?", one.ID).Scan(&row.rowID); err != nil {
			return err
		}
		now, err := tx.rowNow(row)
		if err != nil {
			return err
		}
		was := maps.Clone(now)
		was["note"] = before
		row.Before, row.After = was, now
		return tx.Revert([]Row{row})
	}); err != nil {
		t.Fatal(err)
	}
	look("one that was put back")
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
	k := newPrintsKept()
	half := make([]bench.Reading, mostReadingsKept/2+1)
	k.keepReadings("run 1", nil, half, 0)
	if _, known := k.readingsOf("run 1", nil, 0); !known {
		t.Error("what fits is not kept")
	}
	k.keepReadings("run 2", nil, half, 0)
	if _, known := k.readingsOf("run 1", nil, 0); known || k.readings.held > mostReadingsKept {
		t.Errorf("%d readings are held", k.readings.held)
	}
	k.keepReadings("run 2", nil, half[:10], 0)
	if k.readings.held != 10 {
		t.Errorf("run 2 was read again and %d readings are counted, want 10", k.readings.held)
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
	if _, known := k.readingsOf("run 2", []bench.Specimen{{ID: "7"}}, k.begin()); known {
		t.Error("what changed since is told as it was")
	}
}

package store

import (
	"errors"
	"fmt"
	"reflect"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
)

// told is a change that is written and told.
func told(t *testing.T, s *Store, f func(*Tx) error) []Row {
	t.Helper()
	rows, untellable, err := s.WriteTold(t.Context(), 100, f)
	if err != nil || untellable {
		t.Fatalf("%v, untellable %v", err, untellable)
	}
	return rows
}

func reverted(t *testing.T, s *Store, rows []Row) error {
	t.Helper()
	return s.Write(t.Context(), func(tx *Tx) error { return tx.Revert(rows) })
}

// everything is all rows of a record, by table.
func everything(t *testing.T, s *Store) map[string][]string {
	t.Helper()
	out := map[string][]string{}
	for table := range counts(t, s.reader) {
		if table == "sqlite_sequence" {
			continue
		}
		rows, err := s.reader.QueryContext(t.Context(), "SELECT * FROM "+table)
		if err != nil {
			t.Fatal(err)
		}
		names, err := rows.Columns()
		if err != nil {
			t.Fatal(err)
		}
		for rows.Next() {
			values, into := make([]any, len(names)), make([]any, len(names))
			for i := range values {
				into[i] = &values[i]
			}
			if err := rows.Scan(into...); err != nil {
				t.Fatal(err)
			}
			line := ""
			for i, name := range names {
				if name != versionColumn {
					line += fmt.Sprintf("%s=%v ", name, values[i])
				}
			}
			out[table] = append(out[table], line)
		}
		if err := errors.Join(rows.Err(), rows.Close()); err != nil {
			t.Fatal(err)
		}
	}
	return out
}

func TestWhatATransactionWroteIsPutBack(t *testing.T) {
	s := open(t, t.TempDir())
	grey := resin("L1", "L1")
	told(t, s, func(tx *Tx) error { return tx.SaveResin(grey) })
	before := everything(t, s)
	bottle := bench.Bottle{ID: "b", Code: "B1", ResinID: grey.ID, Version: 1, CreatedMS: 1}
	rows := told(t, s, func(tx *Tx) error {
		blue := grey
		blue.Name, blue.Version, blue.DensityGML = "Blue", 2, quantity.Ptr(1.2)
		return errors.Join(tx.SaveResin(blue), tx.SaveBottle(bottle))
	})
	if len(rows) != 2 || rows[0].Before["name"] != grey.Name || rows[0].After["name"] != "Blue" || rows[1].Before != nil || rows[1].After["code"] != "B1" {
		t.Fatalf("told %+v", rows)
	}
	if err := reverted(t, s, rows); err != nil {
		t.Fatal(err)
	}
	if after := everything(t, s); !reflect.DeepEqual(after, before) {
		t.Errorf("after %v\nbefore %v", after["resin"], before["resin"])
	}
	// The version goes on: a page that shows what was undone is not taken for the current one.
	_ = s.Read(t.Context(), func(tx *Tx) error {
		r, err := tx.Resin(grey.ID)
		if err != nil || r.Version != 3 || r.Name != grey.Name {
			t.Errorf("%+v, %v", r, err)
		}
		return nil
	})
	// Undone twice is refused, and so is what was changed since.
	if err := reverted(t, s, rows); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("undone twice: %v", err)
	}
	rows = told(t, s, func(tx *Tx) error { return tx.SaveBottle(bottle) })
	told(t, s, func(tx *Tx) error {
		changed := bottle
		changed.Lot = "shaken"
		return tx.SaveBottle(changed)
	})
	if err := reverted(t, s, rows); !errors.Is(err, bench.ErrConflict) || !strings.Contains(err.Error(), "a bottle was changed since") {
		t.Errorf("changed since: %v", err)
	}
}

func TestWhatSomethingRestsOnStays(t *testing.T) {
	s := open(t, t.TempDir())
	rows := told(t, s, func(tx *Tx) error { return tx.SaveResin(resin("L1", "L1")) })
	told(t, s, func(tx *Tx) error {
		return tx.SaveBottle(bench.Bottle{ID: "b", Code: "B1", ResinID: "L1", Version: 1, CreatedMS: 1})
	})
	if err := reverted(t, s, rows); !errors.Is(err, bench.ErrConflict) || !strings.Contains(err.Error(), "entered since rests on a resin") {
		t.Errorf("a resin with a bottle: %v", err)
	}
}

// A history that came from elsewhere may name anything.
func TestAnEntryThatIsNoneHasNoCode(t *testing.T) {
	s := open(t, t.TempDir())
	told(t, s, func(tx *Tx) error { return tx.SaveResin(resin("L1", "L1")) })
	err := s.Read(t.Context(), func(tx *Tx) error {
		for _, c := range []struct{ table, id, want string }{
			{"resin", "L1", "L1"}, {"resin", "L2", ""}, {"tally", "L1", ""}, {"device_message", "L1", ""}, {"sqlite_schema", "L1", ""}, {"nothing; DROP TABLE resin", "L1", ""}, {"", "", ""},
		} {
			if got, err := tx.CodeOfEntry(c.table, c.id); err != nil || got != c.want {
				t.Errorf("%s %s: %q, %v; want %q", c.table, c.id, got, err, c.want)
			}
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
}

func TestTooManyRowsAndFailedOnesAreNotTold(t *testing.T) {
	s := open(t, t.TempDir())
	many := func(tx *Tx) error {
		for _, id := range []string{"L1", "L2", "L3"} {
			if err := tx.SaveResin(resin(id, id)); err != nil {
				return err
			}
		}
		return nil
	}
	if rows, untellable, err := s.WriteTold(t.Context(), 2, many); err != nil || !untellable || rows != nil {
		t.Errorf("%d rows, %v, %v", len(rows), untellable, err)
	}
	refused := errors.New("refused")
	rows, _, err := s.WriteTold(t.Context(), 9, func(tx *Tx) error { return errors.Join(many(tx), refused) })
	if !errors.Is(err, refused) || rows != nil {
		t.Errorf("what was refused: %d rows, %v", len(rows), err)
	}
	// The connection listens no longer: a plain change works, and numbers go on from the highest.
	if err := s.Write(t.Context(), func(tx *Tx) error {
		n, err := tx.NextNumber("resin")
		if n != 4 {
			t.Errorf("the next is %d, want 4", n)
		}
		return err
	}); err != nil {
		t.Fatal(err)
	}
}

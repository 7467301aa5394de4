package demo

import (
	"crypto/rand"
	"slices"
	"strings"
	"testing"
	"time"

	"ojime/internal/store"
	"ojime/internal/store/storetest"
	"ojime/internal/work"
	"ojime/internal/work/tables"
)

// pasted is a file as a page would send its rows on.
func pasted(t *testing.T, w *work.Work, kind string, file []byte) tables.Rows {
	t.Helper()
	got, err := w.Tables.Paste(kind, string(file))
	if err != nil || len(got.Left) > 0 || len(got.Rows) == 0 {
		t.Fatalf("the file of %s: %d rows, %v left, %v", kind, len(got.Rows), got.Left, err)
	}
	return tables.Rows{Columns: got.Columns, Rows: got.Rows}
}

// tablesTravel holds that what comes out of a record as tables stands in it already, and fills
// another record with the same.
func tablesTravel(t *testing.T, s *store.Store, now time.Time) {
	clock := func() time.Time { return now }
	from, to := work.New(s, clock, rand.Reader), work.New(storetest.Open(t), clock, rand.Reader)
	for _, kind := range []string{"machines", "resins", "settings", "features", "prints", "outcomes"} {
		file, err := from.Tables.File(t.Context(), kind+".csv")
		if err != nil {
			t.Fatal(err)
		}
		in := pasted(t, from, kind, file)
		got, err := from.Tables.Look(t.Context(), kind, in)
		if err != nil {
			t.Fatal(err)
		}
		for i, r := range got.Rows {
			if r.Fate != tables.Same {
				t.Errorf("%s, row %d of %d, does not stand in the record that it comes from: %+v\n%q", kind, i+1, len(in.Rows), r, in.Rows[i])
				break
			}
		}
		if kind != "machines" && kind != "resins" {
			continue
		}
		if got, err = to.Tables.Keep(t.Context(), kind, in); err != nil || got.Kept != len(in.Rows) {
			t.Fatalf("%d of %d %s kept in another record: %v", got.Kept, len(in.Rows), kind, err)
		}
		again, err := to.Tables.File(t.Context(), kind)
		if err != nil {
			t.Fatal(err)
		}
		// Bottles are numbered anew in the order of their rows.
		if a, b := sortedLines(file), sortedLines(again); kind == "machines" && !slices.Equal(a, b) || len(a) != len(b) {
			t.Errorf("%s came out of the other record as\n%s\nnot as\n%s", kind, again, file)
		}
	}
}

func sortedLines(file []byte) []string {
	lines := strings.Split(strings.TrimSpace(string(file)), "\n")
	slices.Sort(lines)
	return lines
}

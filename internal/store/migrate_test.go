package store

import (
	"compress/gzip"
	"database/sql"
	"io"
	"io/fs"
	"math"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/pressly/goose/v3"

	"ojime/internal/bench"
	"ojime/internal/core/machine"
)

// A record of the first layout keeps all it holds when it is opened now.
func TestAnOlderRecordIsCarriedForward(t *testing.T) {
	dir := t.TempDir()
	old, err := sql.Open("sqlite", "file:"+filepath.Join(dir, "ojime.db"))
	if err != nil {
		t.Fatal(err)
	}
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		t.Fatal(err)
	}
	first, err := goose.NewProvider(goose.DialectSQLite3, old, files)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := first.UpTo(t.Context(), 1); err != nil {
		t.Fatal(err)
	}
	for _, statement := range []string{
		`INSERT INTO resin VALUES ('r', 'L1', 1, 1, 'Old Grey', '', '', '', NULL, 1000, NULL, 20, 0, 0, 0, 1, NULL, NULL, '')`,
		`INSERT INTO piece VALUES ('p', 'P1', 1, 1, 'Old piece', '1', 'abc', 'a.stl', 'stl_binary', 4, 1, 1, 1, 6, 1, 1, 0, 0, '[]', 10, 4)`,
		`INSERT INTO feature VALUES ('f', 'p', 0, 'pins', 'Pins', NULL, NULL, NULL, '[0.2,0.3]', '', NULL)`,
	} {
		if _, err := old.ExecContext(t.Context(), statement); err != nil {
			t.Fatal(err)
		}
	}
	if err := old.Close(); err != nil {
		t.Fatal(err)
	}
	s := open(t, dir)
	err = s.Read(t.Context(), func(tx *Tx) error {
		p, err := tx.Piece("p")
		if err != nil {
			return err
		}
		if p.Name != "Old piece" || p.SupportPct != 10 || p.SupportML != 0 || p.Geometry.Footprint != nil || p.Coupon.Params != nil {
			t.Errorf("%+v", p)
		}
		features, err := tx.FeaturesOfPiece("p")
		if err != nil {
			return err
		}
		if len(features) != 1 || len(features[0].RungsMM) != 2 || features[0].Shape != "" {
			t.Errorf("%+v", features)
		}
		settings, err := tx.Settings()
		if want := bench.UsualSettings; settings != want {
			t.Errorf("settings %+v, want %+v", settings, want)
		}
		return err
	})
	if err != nil {
		t.Error(err)
	}
}

// Runs that were judged before counts were kept are counted when the record is
// opened now, and a knot of then has no list of changes.
func TestOlderRunsAreCountedWhenCarriedForward(t *testing.T) {
	dir := t.TempDir()
	old, err := sql.Open("sqlite", "file:"+filepath.Join(dir, "ojime.db"))
	if err != nil {
		t.Fatal(err)
	}
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		t.Fatal(err)
	}
	before, err := goose.NewProvider(goose.DialectSQLite3, old, files)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := before.UpTo(t.Context(), 4); err != nil {
		t.Fatal(err)
	}
	for _, statement := range []string{
		`INSERT INTO machine_event VALUES ('e', 'm', 5, 'film', 'worn', 5)`,
		`INSERT INTO run (id, code, version, created_ms, machine_id, resin_id, profile_id, piece_id, copies, started_ms, layers, estimate_model, notes)
		 VALUES ('r', 'R-001', 1, 1, 'm', 'l', 'u', 'p', 4, 10, 100, 'none', '')`,
		`INSERT INTO specimen (id, run_id, copy, code, outcome, symptom, origin, fault, note, piece_id) VALUES
		 ('a', 'r', 1, 'S-1', 'whole', '', 'printed', 'none', '', NULL), ('b', 'r', 2, 'S-2', 'lost', 'void', 'printed', 'machine', '', 'p'),
		 ('c', 'r', 3, 'S-3', 'lost', 'void', 'wash', 'operator', '', 'q'), ('d', 'r', 4, 'S-4', 'pending', '', 'printed', 'none', '', NULL)`,
	} {
		if _, err := old.ExecContext(t.Context(), statement); err != nil {
			t.Fatal(err)
		}
	}
	if err := old.Close(); err != nil {
		t.Fatal(err)
	}
	s := open(t, dir)
	err = s.Read(t.Context(), func(tx *Tx) error {
		got, err := tx.TalliesOfRun("r")
		want := []bench.Tally{
			{RunID: "r", PieceID: "p", Counts: bench.Counts{Specimens: 3, Pending: 1, Whole: 1, Lost: 1, Failed: 1, ByMachine: 1}},
			{RunID: "r", PieceID: "q", Counts: bench.Counts{Specimens: 1, Lost: 1, Accidents: 1}},
		}
		if !slices.Equal(got, want) {
			t.Errorf("%+v, want %+v", got, want)
		}
		if err != nil {
			return err
		}
		knots, err := tx.EventsOfMachine("m")
		if len(knots) != 1 || len(knots[0].Changes) != 0 {
			t.Errorf("%+v", knots)
		}
		return err
	})
	if err != nil {
		t.Error(err)
	}
}

// unpacked opens a record that an older version wrote, with what it held before.
func unpacked(t *testing.T, file string) (s *Store, before, after map[string]int) {
	t.Helper()
	dir := t.TempDir()
	packed, err := os.Open(file)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = packed.Close() }()
	from, err := gzip.NewReader(packed)
	if err != nil {
		t.Fatal(err)
	}
	data, err := io.ReadAll(from)
	if err == nil {
		err = os.WriteFile(filepath.Join(dir, fileName), data, 0o600)
	}
	if err != nil {
		t.Fatal(err)
	}
	old, err := sql.Open("sqlite", "file:"+filepath.Join(dir, fileName))
	if err != nil {
		t.Fatal(err)
	}
	before = counts(t, old)
	if err := old.Close(); err != nil {
		t.Fatal(err)
	}
	s = open(t, dir)
	return s, before, counts(t, s.reader)
}

// Small records that older versions wrote open and lose nothing: what film and level
// were noted become knots, and a plate of several pieces is counted piece by piece.
func TestRecordsOfOlderVersionsAreCarriedForward(t *testing.T) {
	for _, file := range []string{"testdata/record-7.db.gz", "testdata/record-9.db.gz", "testdata/record-10.db.gz", "testdata/record-11.db.gz", "testdata/record-12.db.gz", "testdata/record-13.db.gz", "testdata/record-15.db.gz", "testdata/record-16.db.gz", "testdata/record-17.db.gz", "testdata/record-20.db.gz", "testdata/record-21.db.gz", "testdata/record-22.db.gz", "testdata/record-24.db.gz", "testdata/record-25.db.gz", "testdata/record-28.db.gz", "testdata/record-29.db.gz", "testdata/record-30.db.gz", "testdata/record-31.db.gz", "testdata/record-32.db.gz", "testdata/record-33.db.gz", "testdata/record-34.db.gz", "testdata/record-35.db.gz", "testdata/record-36.db.gz", "testdata/record-37.db.gz"} {
		s, before, after := unpacked(t, file)
		for table, n := range before {
			grows := table == "machine_event" || table == "tally"
			if table != "goose_db_version" && after[table] != n && !(grows && after[table] > n) {
				t.Errorf("%s: %s held %d rows, now %d", file, table, n, after[table])
			}
		}
		if before["reading"] < 500 {
			t.Errorf("the record is too small to show anything: %v", before)
		}
		if wrong, err := s.Check(t.Context()); err != nil || len(wrong) > 0 {
			t.Errorf("%s: %v, %v", file, wrong, err)
		}
	}
}

// The record of version 7 knows its events in their order, how each print ended and
// what it paused, to the millisecond.
func TestEventsOfAnOlderRecordStandInTheirOrder(t *testing.T) {
	s, _, _ := unpacked(t, "testdata/record-7.db.gz")
	err := s.Read(t.Context(), func(tx *Tx) error {
		events, err := tx.RunEvents()
		run, last := "", bench.RunEvent{}
		for _, e := range events {
			if e.RunID != run {
				run, last = e.RunID, bench.RunEvent{}
			}
			if e.Position != last.Position+1 || e.AtMS < last.AtMS {
				t.Errorf("%+v follows %+v", e, last)
			}
			last = e
		}
		if len(events) < 5 {
			t.Errorf("%d events", len(events))
		}
		if err != nil {
			return err
		}
		runs, err := tx.Runs()
		paused := 0
		for _, r := range runs {
			if (r.EndedMS == nil) != (r.EndedHow == "") {
				t.Errorf("%s ended %q", r.Code, r.EndedHow)
			}
			if r.PausedS > 0 {
				paused++
				if took := r.TookS(); r.PausedS != 0.009 || took == nil || math.Abs(*took-0.033) > 1e-9 {
					t.Errorf("%s paused %g s and took %v", r.Code, r.PausedS, took)
				}
			}
		}
		if paused != 1 {
			t.Errorf("%d prints paused, want 1", paused)
		}
		return err
	})
	if err != nil {
		t.Error(err)
	}
}

// The record of version 9: conditions become knots, settings take the machine's moves,
// defects stand with their specimens, and the mixed plate is two tallies.
func TestAnOlderRecordReadsRight(t *testing.T) {
	s, _, _ := unpacked(t, "testdata/record-9.db.gz")
	err := s.Read(t.Context(), func(tx *Tx) error {
		runs, err := tx.Runs()
		if err != nil {
			return err
		}
		by := map[string]bench.Run{}
		for _, r := range runs {
			by[r.Code] = r
		}
		prints, err := tx.WearOfMachine(by["R-001"].MachineID)
		if err != nil {
			return err
		}
		events, err := tx.EventsOfMachine(by["R-001"].MachineID)
		if err != nil {
			return err
		}
		var knots []machine.Knot
		for _, e := range events {
			knots = append(knots, e.Knot())
		}
		history := machine.New(knots, prints)
		// What was carried from print to print then is what is computed now.
		for code, layers := range map[string]float64{"R-001": 16159, "R-003": 16299, "R-016": 18019, "R-017": 0, "R-034": 2954} {
			c := history.At(by[code].StartedMS)
			if c.Film.Amount == nil || *c.Film.Amount != layers {
				t.Errorf("%s began with %v layers on its film, want %v", code, c.Film.Amount, layers)
			}
		}
		if r := by["R-035"]; r.EndedHow != bench.EndStopped || r.WornLayers == 0 || r.WornLayers >= r.Layers || !strings.Contains(r.Observed, "12741 layers") {
			t.Errorf("the stopped print wore %d of %d layers, %q", r.WornLayers, r.Layers, r.Observed)
		}
		if r := by["R-036"]; r.WornLayers != 0 {
			t.Errorf("a print that has not ended wore %d layers", r.WornLayers)
		}
		mixed, err := tx.TalliesOfRun(by["R-033"].ID)
		if len(mixed) != 2 || bench.CountsOf(mixed).Specimens != 3 {
			t.Errorf("the mixed plate: %+v", mixed)
		}
		if err != nil {
			return err
		}
		specimens, err := tx.Specimens()
		if err != nil {
			return err
		}
		for _, p := range specimens {
			kept := p
			kept.Weigh()
			if p.PieceID == "" || p.ScalePct != 100 || kept.Failed != p.Failed || kept.FailedBy != p.FailedBy || kept.Accident != p.Accident || kept.MicroPrinted != p.MicroPrinted {
				t.Errorf("%+v", p)
			}
			if (p.Outcome == "lost") != (len(p.Defects) == 1) && p.Outcome != "micro_defect" {
				t.Errorf("%s is %s with %d defects", p.Code, p.Outcome, len(p.Defects))
			}
		}
		profiles, err := tx.Profiles()
		for _, p := range profiles {
			if sealed := p.Basis == "sealed"; sealed != (len(p.Lift) == 0) || sealed != (p.BottomLayers == nil) {
				t.Errorf("%s (%s): lift %v, bottom layers %v", p.Code, p.Basis, p.Lift, p.BottomLayers)
			}
		}
		return err
	})
	if err != nil {
		t.Error(err)
	}
}

// counts are the rows of each table.
func counts(t *testing.T, pool *sql.DB) map[string]int {
	t.Helper()
	rows, err := pool.QueryContext(t.Context(), "SELECT name FROM sqlite_schema WHERE type = 'table' ORDER BY name")
	if err != nil {
		t.Fatal(err)
	}
	names, err := firstColumn(rows)
	if err != nil {
		t.Fatal(err)
	}
	out := map[string]int{}
	for _, name := range names {
		var n int
		if err := pool.QueryRowContext(t.Context(), `SELECT count(*) FROM "`+name+`"`).Scan(&n); err != nil {
			t.Fatal(err)
		}
		out[name] = n
	}
	return out
}

// Surfaces that were typed freely become words of the list, and what was typed stays in the note.
func TestSurfacesOfReferencesBecomeWordsOfAList(t *testing.T) {
	s, _, _ := unpacked(t, "testdata/record-37.db.gz")
	err := s.Read(t.Context(), func(tx *Tx) error {
		got := map[string][2]string{}
		all, err := tx.References()
		for _, r := range all {
			if err := r.Check(); err != nil {
				t.Errorf("%s: %v", r.Name, err)
			}
			surface := ""
			if r.Surface != nil {
				surface = *r.Surface
			}
			got[r.Name] = [2]string{surface, r.Note}
		}
		for name, want := range map[string][2]string{"Milled coupon": {"raw", ""}, "Casting 1": {"raw", "from a friend; surface: raw, grey"}, "Casting 2": {"primed", "surface: Primed"}, "Casting 3": {"other", "surface: hand painted over grey"}, "Casting 4": {"", ""}} {
			if got[name] != want {
				t.Errorf("%s: %q, want %q", name, got[name], want)
			}
		}
		return err
	})
	if err != nil {
		t.Error(err)
	}
}

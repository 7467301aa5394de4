package store

import (
	"compress/gzip"
	"database/sql"
	"io"
	"io/fs"
	"math"
	"os"
	"path/filepath"
	"testing"

	"github.com/pressly/goose/v3"

	"ojime/internal/bench"
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
		got, err := tx.TallyOfRun("r")
		if want := (bench.Tally{RunID: "r", Specimens: 4, Pending: 1, Whole: 1, Lost: 2, Failed: 1, Laid: 1, Mixed: 1}); got != want {
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

// A small record that the version before wrote opens, loses nothing, and its
// prints' events stand in their order.
func TestTheRecordOfTheVersionBeforeIsCarriedForward(t *testing.T) {
	dir := t.TempDir()
	packed, err := os.Open("testdata/record-7.db.gz")
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
	before := counts(t, old)
	if err := old.Close(); err != nil {
		t.Fatal(err)
	}
	s := open(t, dir)
	after := counts(t, s.reader)
	for table, n := range before {
		if table != "goose_db_version" && after[table] != n {
			t.Errorf("%s held %d rows, now %d", table, n, after[table])
		}
	}
	if before["run_event"] < 5 || before["reading"] < 500 {
		t.Errorf("the record is too small to show anything: %v", before)
	}
	err = s.Read(t.Context(), func(tx *Tx) error {
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
		return err
	})
	if err != nil {
		t.Error(err)
	}
	if wrong, err := s.Check(t.Context()); err != nil || len(wrong) > 0 {
		t.Errorf("%v, %v", wrong, err)
	}
	// The print that was followed by events knows how it ended and what it paused, to
	// the millisecond; the others count as finished, or have not ended.
	err = s.Read(t.Context(), func(tx *Tx) error {
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

package store

import (
	"database/sql"
	"io/fs"
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

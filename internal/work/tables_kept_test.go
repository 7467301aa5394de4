package work_test

import (
	"reflect"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/store"
	"ojime/internal/work/dataset"
	"ojime/internal/work/printing"
	"ojime/internal/work/reviews"
)

// worked is what is kept in memory of a print and of the tables that it is in.
type worked struct {
	Tables []dataset.Table
	Sorted []map[string][]printing.CopyReadings
}

func workedOut(t *store.Tx, reviewID string) (out worked, err error) {
	review, err := t.Review(reviewID)
	if err != nil {
		return out, err
	}
	setups, err := reviews.SetUps(t, review)
	if err != nil {
		return out, err
	}
	of, err := dataset.Read(t, printing.NewReader(t), review, setups)
	if err != nil {
		return out, err
	}
	out.Tables = dataset.Tables(of, []string{"readings", "specimens"})
	for _, s := range of.Sheets {
		out.Sorted = append(out.Sorted, s.ByFeature())
	}
	return out, nil
}

// Whatever is changed that a reading is written with, memory says what a transaction that writes, and keeps nothing, works out.
func TestWhatIsKeptOfAPrintIsAsTheRecordStands(t *testing.T) {
	d, review, sheet := told(t)
	ctx := t.Context()
	d.clock = d.clock.Add(24 * time.Hour)
	second := d.measured(sheet, 0, 0, 30.09, nil)
	change := func(sheet printing.RunSheet, f func(*bench.Specimen)) {
		f(&sheet.Specimens[0])
		must(d.w.Inspect.JudgeSpecimens(ctx, sheet.Run.ID, sheet.Specimens))(t)
	}
	last := worked{}
	for _, step := range []struct {
		what string
		make func()
		// beside says that no reading is written otherwise for it.
		beside bool
	}{
		{"the beginning", func() {}, false},
		{"nothing", func() {}, true},
		{"a reading", func() { d.measured(sheet, 0, 0, 30.11, nil) }, false},
		{"a correction", func() { d.measured(sheet, 0, 0, 30.12, &second.ID) }, false},
		{"a reading taken back", func() { must(d.w.Inspect.TakeBack(ctx, sheet.Run.ID, second.ID, "a slip"))(t) }, false},
		{"an instrument in doubt", func() { d.checked(10.5) }, false},
		{"a feature with another name", func() {
			d.writes(func(tx *store.Tx) error {
				f := d.piece.Features[0]
				f.Name = "Length of the whole"
				return tx.SaveFeature(f)
			})
		}, false},
		{"a piece with another name", func() {
			d.writes(func(tx *store.Tx) error {
				p := d.piece.Piece
				p.Name = "Long wedge"
				return tx.SavePiece(p)
			})
		}, false},
		{"the end of the print", func() { d.amend(sheet.Run, `{"wash_s":null,"cure_s":null}`) }, false},
		{"a stage", func() { must(d.reaches(sheet, "varnished", 0, 0))(t) }, true},
		{"a reading on varnish", func() { d.measured(sheet, 0, 0, 30.3, nil) }, false},
		{"a copy that is lost", func() {
			change(must(d.w.Printing.RunSheet(ctx, sheet.Run.ID))(t), func(s *bench.Specimen) { ruin(s, "lost", "broken in handling", "handling", "operator") })
		}, true},
		{"the resin", func() {
			d.writes(func(tx *store.Tx) error {
				r := d.resin
				r.PriceList = 41
				return tx.SaveResin(r)
			})
		}, true},
	} {
		d.clock = d.clock.Add(time.Minute)
		step.make()
		var kept, again, fresh worked
		if err := d.w.Store.Read(ctx, func(tx *store.Tx) (err error) {
			kept, err = workedOut(tx, review)
			return err
		}); err != nil {
			t.Fatal(err)
		}
		if err := d.w.Store.Read(ctx, func(tx *store.Tx) (err error) {
			again, err = workedOut(tx, review)
			return err
		}); err != nil {
			t.Fatal(err)
		}
		d.writes(func(tx *store.Tx) (err error) {
			fresh, err = workedOut(tx, review)
			return err
		})
		if !reflect.DeepEqual(kept, fresh) || !reflect.DeepEqual(again, fresh) {
			t.Errorf("%s: memory says\n%s\n%s\non record is\n%s", step.what, kept.Tables[0].CSV, again.Tables[0].CSV, fresh.Tables[0].CSV)
		}
		if same := len(last.Tables) > 0 && last.Tables[0].SHA256 == kept.Tables[0].SHA256; same != step.beside {
			t.Errorf("after %s the readings are the same: %v", step.what, same)
		}
		last = kept
	}
}

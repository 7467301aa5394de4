package work_test

import (
	"bytes"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/repeat"
)

// A failed print is made again on its plate with what was changed, and again after that; each
// knows the tries before and after it, in tables and in an exported record too.
func TestAPrintIsMadeAgain(t *testing.T) {
	d := newDesk(t)
	first := d.prepared(50)
	d.happens(first, "start", nil)
	d.happens(first, "stop", nil)
	second := must(d.w.Repeat.Print(t.Context(), first.Run.ID, repeat.Again{Change: " relevelled ", VatFillML: quantity.Ptr(40.0)}))(t)
	r := second.Run
	if r.AgainOfID == nil || *r.AgainOfID != first.Run.ID || r.AgainChange != "relevelled" || *r.PlateID != *first.Run.PlateID || r.ProfileID != first.Run.ProfileID || *r.BottleID != *first.Run.BottleID || *r.VatFillML != 40 || r.PreparedMS == nil || r.EndedMS != nil {
		t.Errorf("%+v", r)
	}
	if second.Printed != first.Printed || len(second.Specimens) != len(first.Specimens) {
		t.Errorf("%s, first %s", second.Printed, first.Printed)
	}
	longer := d.profile
	longer.ID, longer.Code, longer.ExposureS, longer.Basis, longer.ParentID = "", "", quantity.Ptr(*d.profile.ExposureS+0.5), "adjusted", &d.profile.ID
	longer = must(d.w.Kit.AddProfile(t.Context(), longer))(t)
	d.happens(second, "start", nil)
	d.happens(second, "stop", nil)
	third := must(d.w.Repeat.Print(t.Context(), second.Run.ID, repeat.Again{ProfileID: longer.ID}))(t)
	if third.Run.ProfileID != longer.ID || third.Run.AgainChange != "" || third.Run.VatFillML != nil {
		t.Errorf("%+v", third.Run)
	}
	if *third.Run.BottleID != *first.Run.BottleID {
		t.Errorf("the bottle was not kept: %v", third.Run.BottleID)
	}
	if unknown := must(d.w.Repeat.Print(t.Context(), third.Run.ID, repeat.Again{BottleID: quantity.Ptr("")}))(t); unknown.Run.BottleID != nil {
		t.Errorf("a bottle that is not known: %v", *unknown.Run.BottleID)
	}
	row := must(d.w.Repeat.Tries(t.Context(), second.Run.ID))(t)
	if len(row.Before) != 1 || row.Before[0].Code != first.Run.Code || !row.Before[0].Ended || len(row.After) != 1 || row.After[0].Code != third.Run.Code || row.After[0].Ended {
		t.Errorf("%+v", row)
	}
	if row := must(d.w.Repeat.Tries(t.Context(), third.Run.ID))(t); len(row.Before) != 2 || row.Before[1].RunID != first.Run.ID || len(row.After) != 1 {
		t.Errorf("%+v", row)
	}

	// Without its plate it takes the pieces that were on it; a recorded print is made again too.
	recorded := d.run(nil)
	again := must(d.w.Repeat.Print(t.Context(), recorded.Run.ID, repeat.Again{}))(t)
	if again.Run.PlateID != nil || again.Printed != recorded.Printed || again.Run.PreparedMS == nil {
		t.Errorf("%s of %s: %+v", again.Printed, recorded.Printed, again.Run)
	}

	review := must(d.w.Reviews.SaveReview(t.Context(), bench.Review{Question: "Which?", Policy: "maker_default", MachineIDs: bench.IDs{d.machine.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}}))(t)
	told := 0
	for _, row := range d.table(review.ID, "runs") {
		if row["run"] == second.Run.Code && row["again_of"] == first.Run.Code && row["again_change"] == "relevelled" {
			told++
		}
	}
	if told != 1 {
		t.Errorf("%d rows tell of it", told)
	}
	if out := string(must(d.w.Publish.WriteUp(t.Context(), review.ID))(t)); !strings.Contains(out, "It is "+first.Run.Code+" made again: relevelled.") {
		t.Error("the write-up does not say that it was made again")
	}
	text := exported(t, d.w)
	elsewhere := newEmpty(t, d)
	if _, err := elsewhere.Record.Import(t.Context(), bytes.NewReader(text)); err != nil || !bytes.Equal(exported(t, elsewhere), text) {
		t.Errorf("it is not the same when it comes back: %v", err)
	}
	spoilt := bytes.Replace(text, []byte(`"again_of_id":"`+first.Run.ID), []byte(`"again_of_id":"nobody`), 1)
	if _, err := newEmpty(t, d).Record.Import(t.Context(), bytes.NewReader(spoilt)); err == nil {
		t.Error("a print of one that is not there was taken")
	}
}

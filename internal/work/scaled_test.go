package work_test

import (
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/compare"
	"ojime/internal/work/printing"
)

// printedAt records a whole print of two wedges at a scale, so many hours ago.
func (d *desk) printedAt(scalePct float64, hours int) printing.RunSheet {
	d.t.Helper()
	r := must(d.w.Printing.DraftRun(d.t.Context(), d.machine.ID))(d.t).Run
	r.ResinID, r.BottleID, r.ProfileID = d.resin.ID, &d.bottle.ID, d.profile.ID
	r.StartedMS = d.clock.Add(-time.Duration(hours) * time.Hour).UnixMilli()
	r.EndedMS = quantity.Ptr(r.StartedMS + 30*60*1000)
	rec := d.recording(r, 2)
	rec.Pieces[0].ScalePct = &scalePct
	run := must(d.w.Printing.RecordRun(d.t.Context(), rec))(d.t)
	for i := range run.Specimens {
		run.Specimens[i].Outcome = "whole"
	}
	return must(d.w.Inspect.JudgeSpecimens(d.t.Context(), run.Run.ID, run.Specimens))(d.t)
}

// A part that shrinks is proposed a scale, with what is expected then; the next print at that
// scale says whether it came true, and its feet ask for less bottom exposure.
func TestACorrectionIsProposedAndHeldAgainstTheNextPrint(t *testing.T) {
	d := newDesk(t)
	x, outer := "x", "outer"
	d.piece = must(d.w.Kit.SaveFeatures(t.Context(), d.piece.Piece.ID, d.piece.FeaturesVersion, []bench.Feature{
		{Kind: "dimension", Name: "Length", NominalMM: quantity.Ptr(30.0), Axis: &x, Face: &outer}, {Kind: "dimension", Name: "Step", NominalMM: quantity.Ptr(10.0), Axis: &x, Face: &outer}, {Kind: "dimension", Name: "Rib", NominalMM: quantity.Ptr(5.0), Axis: &x, Face: &outer},
	}))(t)
	read := func(run printing.RunSheet, factor float64) printing.RunSheet {
		readings := []bench.Reading{}
		for _, f := range d.piece.Features {
			readings = append(readings, bench.Reading{SpecimenID: run.Specimens[0].ID, FeatureID: f.ID, InstrumentID: &d.tool.ID, ValueMM: quantity.Ptr(*f.NominalMM * factor)})
		}
		return must(d.w.Inspect.RecordReadings(t.Context(), run.Run.ID, readings, true))(t)
	}
	if right := read(d.printedAt(100, 11), 1); right.Corrections == nil || len(right.Corrections) != 0 {
		t.Errorf("what is right needs nothing, and says so with an empty list: %#v", right.Corrections)
	}
	first := read(d.printedAt(100, 9), 0.996)
	if len(first.Corrections) != 2 || !strings.HasPrefix(first.Corrections[0], "Scale it to 100.4 % along x of what it was") || !strings.Contains(first.Corrections[1], "where 120 µm was the largest") {
		t.Errorf("%q", first.Corrections)
	}
	second := read(d.printedAt(100.4, 7), 1.0001)
	said := strings.Join(second.Corrections, "\n")
	if !strings.Contains(said, "Against "+first.Run.Code+": expected at 100.4 % of its scale") || !strings.Contains(said, "3 of 3 sizes within their uncertainties: it came true.") {
		t.Errorf("%q", second.Corrections)
	}
	third := read(d.printedAt(99, 5), 1.0)
	if said = strings.Join(third.Corrections, "\n"); !strings.Contains(said, "Against "+second.Run.Code) || !strings.Contains(said, "did not come true") {
		t.Errorf("%q", third.Corrections)
	}
	foot := d.form(bench.Form{Kind: "foot", Name: "Foot"})
	sheet := must(d.readForm(first, 0, foot, sizes(30.2, 30)))(t)
	if last := sheet.Corrections[len(sheet.Corrections)-1]; !strings.HasPrefix(last, "Feet are wider by 200 µm over 1 copy") {
		t.Errorf("%q", sheet.Corrections)
	}
	got := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Question: "dimension", Sides: [][]string{{first.Run.ID}, {second.Run.ID}}}))(t)
	if len(got.Sides[0].Corrections) != 2 || len(got.Sides[1].Corrections) != 0 {
		t.Errorf("%q %q", got.Sides[0].Corrections, got.Sides[1].Corrections)
	}
}

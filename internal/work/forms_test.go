package work_test

import (
	"errors"
	"slices"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/contest"
	"ojime/internal/core/metrology"
	"ojime/internal/work/compare"
	"ojime/internal/work/printing"
)

// formOf adds a form to the wedge.
func (d *desk) form(f bench.Form) bench.Form {
	d.t.Helper()
	all := must(d.w.Kit.AddForm(d.t.Context(), d.piece.Piece.ID, f))(d.t)
	i := slices.IndexFunc(all, func(o bench.Form) bool { return o.Name == f.Name })
	return all[i]
}

func (d *desk) readForm(run printing.RunSheet, specimen int, f bench.Form, change func(*bench.FormReading)) (printing.RunSheet, error) {
	r := bench.FormReading{SpecimenID: run.Specimens[specimen].ID, FormID: f.ID}
	change(&r)
	return d.w.Inspect.ReadForm(d.t.Context(), run.Run.ID, r, false)
}

func sizes(mm ...float64) func(*bench.FormReading) {
	return func(r *bench.FormReading) { r.Measured = mm }
}

// Forms are read as their kind asks, say what they come to, and stand in the comparison by
// prints: lengths, a fit's two limits by its mating part, a thread that goes.
func TestFormsReachTheComparison(t *testing.T) {
	d := newDesk(t)
	a, b := d.wholePrint(-8), d.wholePrint(-6)
	rim, corner := d.form(bench.Form{Kind: metrology.Round, Name: "Rim"}), d.form(bench.Form{Kind: metrology.Angle, Name: "Corner", Nominal: ptr(45.0)})
	socket, thread := d.form(bench.Form{Kind: metrology.Fit, Name: "Socket", RungsMM: bench.Sizes{0.05, 0.1, 0.2}}), d.form(bench.Form{Kind: metrology.Thread, Name: "Bolt"})
	for i, run := range []printing.RunSheet{a, b} {
		must(d.readForm(run, 0, rim, sizes(10, 10.02+0.04*float64(i), 10)))(t)
		must(d.readForm(run, 0, corner, sizes(44.5+float64(i))))(t)
		must(d.readForm(run, 1, socket, func(r *bench.FormReading) {
			r.Mate, r.Rungs = " peg of brass ", bench.FitRungs{{RungMM: 0.05, Outcome: []string{"no", "tight"}[i]}, {RungMM: 0.1, Outcome: "holds"}, {RungMM: 0.2, Outcome: "loose"}}
		}))(t)
		must(d.readForm(run, 2, thread, func(r *bench.FormReading) { r.Mate, r.State = "nut M3", []string{"goes", "binds"}[i] }))(t)
	}
	sheet := must(d.w.Printing.RunSheet(t.Context(), a.Run.ID))(t)
	if len(sheet.FormReadings) != 4 || !slices.Equal(sheet.FormWords[:3], []string{"out of round +20 µm", "−0.5°, the error of 44.5°", "tightest that goes 0.1 mm, loosest that holds 0.1 mm, with peg of brass"}) {
		t.Errorf("%q", sheet.FormWords)
	}
	got := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Question: "dimension", Sides: [][]string{{a.Run.ID}, {b.Run.ID}}}))(t)
	for label, want := range map[string][2]float64{"Rim: out of round": {0.02, 0.06}, "Corner: error of the angle": {-0.5, 0.5}, "Socket, with peg of brass: tightest clearance that goes": {0.1, 0.05},
		"Socket, with peg of brass: loosest that holds": {0.1, 0.1}, "Bolt, with nut M3: goes": {1, 0}} {
		i := slices.IndexFunc(got.Measures, func(m contest.Measure) bool { return m.Label == label })
		if i < 0 {
			t.Errorf("no row %q", label)
			continue
		}
		for side, v := range want {
			if value := got.Measures[i].Sides[side].Value; value == nil || *value-v > 1e-9 || v-*value > 1e-9 {
				t.Errorf("%s: side %d is %v, want %v", label, side, value, v)
			}
		}
	}
	// One that was taken back counts no more, and what is coated is read apart.
	must(d.w.Inspect.TakeFormBack(t.Context(), b.Run.ID, must(d.w.Printing.RunSheet(t.Context(), b.Run.ID))(t).FormReadings[0].ID, "wrong copy"))(t)
	got = must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Question: "dimension", Sides: [][]string{{a.Run.ID}, {b.Run.ID}}}))(t)
	i := slices.IndexFunc(got.Measures, func(m contest.Measure) bool { return m.Label == "Rim: out of round" })
	if got.Measures[i].Sides[1].Value != nil || got.Measures[i].Sides[1].Note != "Not read." {
		t.Errorf("%+v", got.Measures[i].Sides[1])
	}
}

func ptr(v float64) *float64 { return &v }

func TestWhatAFormRefuses(t *testing.T) {
	d := newDesk(t)
	run := d.wholePrint(-8)
	for at, f := range map[string]bench.Form{
		"name":        {Kind: metrology.Round, Name: " "},
		"nominal":     {Kind: metrology.Angle, Name: "Corner"},
		"rungs_mm":    {Kind: metrology.Fit, Name: "Socket", RungsMM: bench.Sizes{0.1}},
		"rungs_mm[1]": {Kind: metrology.Fit, Name: "Socket", RungsMM: bench.Sizes{0.1, 0.1}},
		"kind":        {Kind: "charm", Name: "Charm"},
	} {
		if _, err := d.w.Kit.AddForm(t.Context(), d.piece.Piece.ID, f); err == nil || !strings.HasPrefix(err.Error(), at+":") {
			t.Errorf("%s: %v", at, err)
		}
	}
	rim, socket := d.form(bench.Form{Kind: metrology.Round, Name: "Rim"}), d.form(bench.Form{Kind: metrology.Fit, Name: "Socket", RungsMM: bench.Sizes{0.1, 0.2}})
	if _, err := d.w.Kit.AddForm(t.Context(), d.piece.Piece.ID, bench.Form{Kind: metrology.Round, Name: "Rim"}); err == nil {
		t.Error("a rim twice")
	}
	if _, err := d.readForm(run, 0, rim, sizes(10, 13, 10)); !errors.Is(err, bench.ErrQuestioned) {
		t.Errorf("a third out of round: %v", err)
	}
	for at, change := range map[string]func(*bench.FormReading){
		"measured":    sizes(10),
		"specimen_id": func(r *bench.FormReading) { r.SpecimenID = "nobody" },
		"form_id":     func(r *bench.FormReading) { r.FormID = "nothing" },
		"rungs[0].rung_mm": func(r *bench.FormReading) {
			r.FormID, r.Mate, r.Rungs = socket.ID, "peg", bench.FitRungs{{RungMM: 0.3, Outcome: "holds"}}
		},
	} {
		if _, err := d.readForm(run, 0, rim, change); err == nil || !strings.HasPrefix(err.Error(), at+":") {
			t.Errorf("%s: %v", at, err)
		}
	}
	kept := must(d.readForm(run, 0, rim, sizes(10, 10, 10.01)))(t).FormReadings[0]
	if _, err := d.w.Inspect.TakeFormBack(t.Context(), run.Run.ID, kept.ID, " "); err == nil || !strings.HasPrefix(err.Error(), "why") {
		t.Errorf("without a reason: %v", err)
	}
	must(d.w.Inspect.TakeFormBack(t.Context(), run.Run.ID, kept.ID, "dirt"))(t)
	if _, err := d.w.Inspect.TakeFormBack(t.Context(), run.Run.ID, kept.ID, "again"); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("twice: %v", err)
	}
	if left := must(d.w.Kit.RetireForm(t.Context(), d.piece.Piece.ID, rim.ID))(t); len(left) != 1 {
		t.Errorf("%d are measured", len(left))
	}
	if _, err := d.readForm(run, 0, rim, sizes(10, 10, 10)); err == nil {
		t.Error("a retired form was read")
	}
	if _, err := d.w.Kit.RetireForm(t.Context(), d.piece.Piece.ID, rim.ID); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("retired twice: %v", err)
	}
}

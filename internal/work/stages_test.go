package work_test

import (
	"errors"
	"slices"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/contest"
	"ojime/internal/core/coupon"
	"ojime/internal/core/quantity"
	"ojime/internal/work/compare"
	"ojime/internal/work/inspect"
	"ojime/internal/work/printing"
	"ojime/internal/work/stress"
)

func (d *desk) reaches(run printing.RunSheet, stage string, minutes float64, specimens ...int) (printing.RunSheet, error) {
	in := inspect.Stage{Stage: stage}
	for _, i := range specimens {
		in.SpecimenIDs = append(in.SpecimenIDs, run.Specimens[i].ID)
	}
	if minutes > 0 {
		in.ReworkMin = &minutes
	}
	return d.w.Inspect.Reach(d.t.Context(), run.Run.ID, in)
}

// A copy goes through its stages in order; what is coated can be judged in no stage before,
// and sizes read from then on stand apart.
func TestACopyGoesThroughItsStages(t *testing.T) {
	d := newDesk(t)
	run := d.wholePrint(-8)
	d.amend(run.Run, `{"wash_s":120,"cure_s":60}`)
	run = must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t)
	if !slices.Equal(run.Reached, []string{"cured", "cured", "cured"}) {
		t.Errorf("%q: washed and cured are known from the print", run.Reached)
	}
	raw := d.sitting("raw", nil)
	d.rates(raw, run.Run.ID, run.Specimens[0], 2)
	bare := d.sized(run, 30.02)
	d.clock = d.clock.Add(time.Hour)
	run = must(d.reaches(run, "primed", 6, 0, 1))(t)
	if !slices.Equal(run.Reached, []string{"primed", "primed", "cured"}) || len(run.Stages) != 2 {
		t.Errorf("%q", run.Reached)
	}
	d.clock = d.clock.Add(time.Minute)
	d.sized(run, 30.12)
	run = must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t)
	if got := run.Bare(); len(got) != 1 || got[0].ID != bare || len(run.Readings) != 2 || run.Dimensions.Features[0].N != 1 {
		t.Errorf("%d bare of %d", len(got), len(run.Readings))
	}
	if _, err := d.w.Inspect.Rate(t.Context(), inspect.Score{SittingID: raw.ID, OfID: run.Run.ID, SpecimenID: run.Specimens[0].ID, Scale: raw.Scales[0], Score: 1}); err == nil || !strings.Contains(err.Error(), "primed now") {
		t.Errorf("raw under primer: %v", err)
	}
	d.rates(raw, run.Run.ID, run.Specimens[2], 3)
	d.rates(d.sitting("primed", nil), run.Run.ID, run.Specimens[0], 2)
	if _, err := d.w.Photographs.Keep(t.Context(), d.taken(run, 0, edgePNG(t, 2), nil), nil); err == nil || !strings.HasPrefix(err.Error(), "stage") {
		t.Errorf("a photograph of what is covered: %v", err)
	}
	for name, err := range map[string]error{
		"stage":           second(d.reaches(run, "cured", 0, 0)),
		"rework_min":      second(d.reaches(run, "primed", 0, 0)),
		"specimen_ids[0]": second(d.w.Inspect.Reach(t.Context(), run.Run.ID, inspect.Stage{SpecimenIDs: []string{"nobody"}, Stage: "painted"})),
	} {
		if err == nil || !strings.HasPrefix(err.Error(), name) {
			t.Errorf("%s: %v", name, err)
		}
	}
	back := must(d.w.Inspect.TakeStageBack(t.Context(), run.Run.ID, run.Stages[0].ID))(t)
	if back.Reached[0] != "cured" || len(back.Bare()) != 2 || len(back.Stages) != 2 {
		t.Errorf("%q %d", back.Reached, len(back.Stages))
	}
	if _, err := d.w.Inspect.TakeStageBack(t.Context(), run.Run.ID, run.Stages[0].ID); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("twice: %v", err)
	}
	if _, err := d.w.Inspect.TakeStageBack(t.Context(), run.Run.ID, "nothing"); !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("nothing: %v", err)
	}
}

func second[T any](_ T, err error) error { return err }

// Minutes of rework are compared by prints, and a size read again a week later says how it
// changed; both are told in the comparison.
func TestReworkAndLaterReadingsAreCompared(t *testing.T) {
	d := newDesk(t)
	a, b := d.wholePrint(-8), d.wholePrint(-6)
	d.sized(a, 30.00)
	d.clock = d.clock.Add(7 * 24 * time.Hour)
	d.sized(a, 29.98)
	d.clock = d.clock.Add(time.Hour)
	must(d.reaches(a, "primed", 4, 0, 1))(t)
	must(d.reaches(a, "primed", 2, 0))(t)
	must(d.reaches(b, "varnished", 0, 0))(t)
	sheet := must(d.w.Printing.RunSheet(t.Context(), a.Run.ID))(t)
	if len(sheet.Later) != 1 || sheet.Later[0] != "Length, 7 days after the first reading: −20 µm over 1 copy." {
		t.Errorf("%q", sheet.Later)
	}
	got := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Question: "finish", Sides: [][]string{{a.Run.ID}, {b.Run.ID}}}))(t)
	i := slices.IndexFunc(got.Measures, func(m contest.Measure) bool { return strings.HasPrefix(m.Key, "rework ") })
	if i < 0 {
		t.Fatal("no row of rework")
	}
	// Of the other side no minutes are noted: that is not known, and not 0.
	if m := got.Measures[i]; *m.Sides[0].Value != 5 || m.Sides[1].Value != nil || m.Sides[1].Note != "No minutes of work are noted." || m.Unit != "min" || m.Sides[0].Specimens != 2 {
		t.Errorf("%+v", m)
	}
	if !slices.ContainsFunc(got.Measuring, func(s string) bool { return strings.HasPrefix(s, "A, "+a.Run.Code+": Length, 7 days") }) {
		t.Errorf("%q", got.Measuring)
	}
}

// A card brings together what was measured of a resin, says what is not known, and keeps the
// maker's words apart.
func TestAResinHasItsCard(t *testing.T) {
	d := newDesk(t)
	resin := d.resin
	resin.Claims, resin.StatedCureS = bench.Notes{"Never breaks."}, quantity.Ptr(120.0)
	resin = must(d.w.Kit.SaveResin(t.Context(), resin))(t).Resin
	card := must(d.w.ResinCard.Card(t.Context(), resin.ID))(t)
	if len(card.Missing) < 4 || len(card.Figures) != 2 || card.Claims[0] != "Never breaks." || !strings.Contains(card.Claims[1], "2 min") {
		t.Errorf("%+v", card)
	}
	for _, g := range []float64{11.0, 11.2} {
		card = must(d.w.ResinCard.Weigh(t.Context(), resin.ID, bench.ResinWeighing{MassG: g, VolumeML: 10}))(t)
	}
	figure := func(what string) (value, n string) {
		for _, f := range card.Figures {
			if f.What == what {
				return f.Value, f.N
			}
		}
		return "", ""
	}
	// By hand: mean 1.11, sd 0.0141421, t(1) = 12.7062: ± 0.127062.
	if value, n := figure("Density, liquid"); value != "1.11 g/ml (0.983 to 1.24 g/ml)" || n != "2 weighings" {
		t.Errorf("%q %q", value, n)
	}
	if _, err := d.w.ResinCard.Weigh(t.Context(), resin.ID, bench.ResinWeighing{MassG: 1100, VolumeML: 10}); err == nil || !strings.HasPrefix(err.Error(), "mass_g") {
		t.Errorf("110 g/ml: %v", err)
	}
	card = must(d.w.ResinCard.TakeBack(t.Context(), resin.ID, card.Weighings[1].ID))(t)
	if value, n := figure("Density, liquid"); value != "1.1 g/ml" || n != "1 weighing" || len(card.Weighings) != 2 {
		t.Errorf("%q %q", value, n)
	}
	if _, err := d.w.ResinCard.TakeBack(t.Context(), resin.ID, card.Weighings[1].ID); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("twice: %v", err)
	}
	d.stressed()
	run := d.wholePrint(-20)
	sitting := d.sitting("raw", func(s *bench.Sitting) { s.Scales = bench.IDs{"tack"} })
	must(d.w.Inspect.Rate(t.Context(), inspect.Score{SittingID: sitting.ID, OfID: run.Run.ID, SpecimenID: run.Specimens[0].ID, Scale: "tack", Score: 3}))(t)
	card = must(d.w.ResinCard.Card(t.Context(), resin.ID))(t)
	if value, n := figure("Drop"); !strings.Contains(value, "mm: 0 of 1 held") || n != "1 print" {
		t.Errorf("%q %q", value, n)
	}
	if value, n := figure("Dryness to the touch"); value != "3" || n != "1 print, 1 copy, 1 rater" {
		t.Errorf("%q %q", value, n)
	}
	if value, _ := figure("Failures laid to the resin"); !strings.HasPrefix(value, "0 of 6: 0 %") {
		t.Errorf("%q", value)
	}
}

// Bars and plaques of the generator reach the card: stiffness by cure, and the finest lines
// that were told apart through all plaques of a print.
func TestBarsAndPlaquesReachTheCard(t *testing.T) {
	d := newDesk(t)
	plaque := must(d.w.DialIn.KeepCoupon(t.Context(), "Plaque", coupon.Params{PlaqueMM: 2}))(t)
	wedge := d.piece
	d.piece = plaque
	run := d.wholePrint(-9)
	d.amend(run.Run, `{"cure_s":90}`)
	lines := plaque.Features[slices.IndexFunc(plaque.Features, func(f bench.Feature) bool { return f.Kind == "gaps" })]
	if !slices.Equal(lines.RungsMM, coupon.LineWidthsMM) {
		t.Errorf("%v", lines.RungsMM)
	}
	readings := []bench.Reading{}
	for i, finest := range []float64{0.2, 0.3, 0.2} {
		for _, mm := range lines.RungsMM {
			readings = append(readings, bench.Reading{SpecimenID: run.Specimens[i].ID, FeatureID: lines.ID, RungMM: &mm, Intact: quantity.Ptr(mm >= finest)})
		}
	}
	must(d.w.Inspect.RecordReadings(t.Context(), run.Run.ID, readings, true))(t)
	d.piece = wedge
	bar := d.wholePrint(-7)
	d.amend(bar.Run, `{"cure_s":90}`)
	sheet := must(d.w.Stress.Begin(t.Context(), stress.Request{Codes: []string{bar.Specimens[0].Code}, Series: bench.StressSeries{Kind: "stiffness", Mode: "cumulative", Name: "Bars", Under: "on two rods", Stage: "cured", Levels: bench.Sizes{20, 100}, SpanMM: quantity.Ptr(40.0)}}))(t)
	must(d.w.Stress.Weigh(t.Context(), sheet.Series.ID, sheet.Members[0].ID, stress.Weighed{WidthMM: quantity.Ptr(8.0), ThicknessMM: quantity.Ptr(2.0)}))(t)
	for _, mm := range []float64{0.1, 0.5} {
		step := sheet.Steps[*sheet.Next]
		sheet = must(d.w.Stress.Test(t.Context(), sheet.Series.ID, stress.Seen{SpecimenID: step.Specimen, Level: step.Level, DeflectionMM: &mm}))(t)
	}
	card := must(d.w.ResinCard.Card(t.Context(), d.resin.ID))(t)
	want := map[string][3]string{
		"Clarity: finest lines told apart": {"0.3 mm", "1 print, 1 plaque", "through a plaque of 2 mm, cured 1 min 30 s"},
		// 9.80665 · 0.080 · 40³ / (4 · 8 · 2³ · 0.4) = 490.3
		"Stiffness in bending": {"490 MPa", "1 print, 1 bar", "cured 1 min 30 s, on two rods"},
		"Cure as it was done":  {"1 min 30 s; what the label asks is not on record", "2 prints", ""},
	}
	for _, f := range card.Figures {
		if w, asked := want[f.What]; asked {
			if got := [3]string{f.Value, f.N, f.Conditions}; got != w {
				t.Errorf("%s: %q, want %q", f.What, got, w)
			}
			delete(want, f.What)
		}
	}
	for what := range want {
		t.Errorf("%s is not on the card", what)
	}
}

// What was stressed, formed and staged stands in the open tables, also what was taken back.
func TestTablesTellOfStressFormsAndStages(t *testing.T) {
	d := newDesk(t)
	review := must(d.w.Reviews.SaveReview(t.Context(), bench.Review{Question: "Which?", Policy: "maker_default", MachineIDs: bench.IDs{d.machine.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}}))(t)
	d.stressed()
	rows := d.table(review.ID, "stress")
	if len(rows) != 1 || rows[0]["series"] != "X-01" || rows[0]["damage_anchor"] != "a part broke off" || rows[0]["failed"] != "true" || rows[0]["part"] != "tip" || rows[0]["level_unit"] != "mm" || rows[0]["counts"] != "yes" {
		t.Errorf("%v", rows)
	}
	forms := d.table(review.ID, "forms")
	if len(forms) != 1 || forms[0]["state"] != "goes" || forms[0]["mate"] != "nut M3" || forms[0]["kind"] != "thread" {
		t.Errorf("%v", forms)
	}
	specimens := d.table(review.ID, "specimens")
	if len(specimens) != 3 || specimens[1]["stage"] != "primed" || specimens[1]["rework_min"] != "3" || specimens[0]["rework_min"] != "" {
		t.Errorf("%v", specimens)
	}
	all := must(d.w.Stress.All(t.Context()))(t)
	must(d.w.Stress.Undo(t.Context(), all[0].Series.ID))(t)
	if rows = d.table(review.ID, "stress"); len(rows) != 1 || rows[0]["counts"] != "taken back" {
		t.Errorf("%v", rows)
	}
	text := string(must(d.w.Publish.WriteUp(t.Context(), review.ID))(t))
	if strings.Contains(text, "What specimens bore") {
		t.Error("one set-up has nothing to be set against, and yet stands under what specimens bore")
	}
}

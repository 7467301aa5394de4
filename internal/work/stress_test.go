package work_test

import (
	"errors"
	"slices"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/contest"
	"ojime/internal/core/quantity"
	corestress "ojime/internal/core/stress"
	"ojime/internal/work/compare"
	"ojime/internal/work/printing"
	"ojime/internal/work/stress"
)

func falls(mode string, codes ...string) stress.Request {
	kind, _ := corestress.KindOf(corestress.Drop)
	return stress.Request{Codes: codes, Series: bench.StressSeries{Kind: kind.Key, Mode: mode, Name: "Wedges let fall", Under: "onto oak", Stage: "cured", Levels: bench.Sizes{200, 400, 800}, Anchors: kind.Anchors[:], FailsFrom: kind.FailsFrom}}
}

// through takes a series to its end: what is seen of each test is said by its code and level.
func (d *desk) through(sheet stress.StressSheet, seen func(code string, level float64) int64) stress.StressSheet {
	d.t.Helper()
	for sheet.Next != nil {
		step := sheet.Steps[*sheet.Next]
		damage := seen(step.Code, step.Level)
		in := stress.Seen{SpecimenID: step.Specimen, Level: step.Level, Damage: &damage}
		if damage > 2 {
			in.Part = " tip "
		}
		sheet = must(d.w.Stress.Test(d.t.Context(), sheet.Series.ID, in))(d.t)
	}
	return sheet
}

// Fresh specimens fall once, in the drawn order; what they show stands on the series, on the
// print's own sheet, in the comparison and in the tables, and no print fails by it.
func TestASeriesOfFallsReachesTheComparison(t *testing.T) {
	d := newDesk(t)
	weak, tough := []printing.RunSheet{d.wholePrint(-8), d.wholePrint(-6)}, []printing.RunSheet{d.wholePrint(-4), d.wholePrint(-2)}
	codes := []string{}
	for _, r := range slices.Concat(weak, tough) {
		codes = append(codes, strings.ToLower(r.Run.Code))
	}
	draft := must(d.w.Stress.Draft(t.Context(), falls(corestress.Fresh, append(codes, "X-99")...)))(t)
	if len(draft.Members) != 12 || len(draft.Refused) != 1 || draft.Refused[0].Code != "X-99" || len(draft.SetUps) != 1 || len(draft.SetUps[0].Prints) != 4 {
		t.Errorf("%+v", draft)
	}
	sheet := must(d.w.Stress.Begin(t.Context(), falls(corestress.Fresh, codes...)))(t)
	if sheet.Series.Code != "X-01" || len(sheet.Steps) != 12 || *sheet.Next != 0 {
		t.Fatalf("%+v", sheet)
	}
	for _, m := range sheet.Members {
		sheet = must(d.w.Stress.Weigh(t.Context(), sheet.Series.ID, m.ID, stress.Weighed{MassG: quantity.Ptr(2.0)}))(t)
	}
	isWeak := func(code string) bool {
		return strings.HasPrefix(code, "S"+weak[0].Run.Code[1:]) || strings.HasPrefix(code, "S"+weak[1].Run.Code[1:])
	}
	sheet = d.through(sheet, func(code string, level float64) int64 {
		if isWeak(code) && level > 300 {
			return 3
		}
		return 1
	})
	rungs := sheet.SetUps[0].Rungs
	if len(rungs) != 3 || rungs[0].Held != 4 || rungs[0].Of != 4 || rungs[1].Held != 2 || rungs[2].Held != 2 || !quantity.Equal(*rungs[1].EnergyMJ, 9.80665*2*400/1000) || len(sheet.Parts) != 1 || sheet.Parts[0].Part != "tip" || sheet.Parts[0].Times != 4 {
		t.Errorf("%+v %+v", rungs, sheet.Parts)
	}
	own := must(d.w.Printing.RunSheet(t.Context(), weak[0].Run.ID))(t)
	if len(own.Stressed) != 3 || own.Counts.Failed != 0 || own.Counts.Whole != 3 {
		t.Errorf("%d stressed, %+v", len(own.Stressed), own.Counts)
	}
	ids := func(runs []printing.RunSheet) (out []string) {
		for _, r := range runs {
			out = append(out, r.Run.ID)
		}
		return out
	}
	got := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Question: "strength", Sides: [][]string{ids(weak), ids(tough)}}))(t)
	row := func(key string) contest.Measure {
		i := slices.IndexFunc(got.Measures, func(m contest.Measure) bool {
			return strings.HasPrefix(m.Key, "stress drop") && strings.HasSuffix(m.Key, key)
		})
		if i < 0 {
			t.Fatalf("no row %q", key)
		}
		return got.Measures[i]
	}
	if m := row(" 800"); *m.Sides[0].Value != 0 || *m.Sides[1].Value != 1 || m.Sides[0].Prints != 2 || !slices.Equal(m.Questions, []string{"strength"}) {
		t.Errorf("%+v", m)
	}
	if m := row(" highest"); *m.Sides[0].Value != 200 || *m.Sides[1].Value != 800 || m.Unit != "mm" {
		t.Errorf("%+v", m)
	}
	if len(got.Ordeals) != 1 || !slices.Equal(got.Ordeals[0].Series, []string{"X-01"}) || got.Ordeals[0].Sides[0].Broke != "tip (4)" || *got.Ordeals[0].Sides[1].MassG != 2 {
		t.Errorf("%+v", got.Ordeals)
	}
	if !strings.Contains(strings.Join(got.Answers, "\n"), "survived a fall from 800 mm") {
		t.Errorf("%q", got.Answers)
	}
}

// What was stressed is fresh no more; a print without a copy that can be stressed is refused
// with its reason, and so is one that nobody judged.
func TestWhoCannotBeStressed(t *testing.T) {
	d := newDesk(t)
	done, unjudged := d.wholePrint(-8), d.run(nil)
	lost := d.wholePrint(-5)
	ruin(&lost.Specimens[0], "lost", "no adhesion", "printed", "machine")
	lost = must(d.w.Inspect.JudgeSpecimens(t.Context(), lost.Run.ID, lost.Specimens))(t)
	first := must(d.w.Stress.Begin(t.Context(), falls(corestress.Fresh, done.Run.Code)))(t)
	d.through(first, func(string, float64) int64 { return 0 })
	draft := must(d.w.Stress.Draft(t.Context(), falls(corestress.Fresh, done.Run.Code, unjudged.Run.Code, lost.Run.Code, lost.Specimens[0].Code)))(t)
	whys := ""
	for _, r := range slices.Concat(draft.Refused, draft.LeftOut) {
		whys += r.Code + ": " + r.Why + "\n"
	}
	for _, want := range []string{done.Run.Code + ": none of its copies can be stressed: it was stressed in X-01", unjudged.Run.Code + ": none of its copies", lost.Specimens[0].Code + ": it was lost"} {
		if !strings.Contains(whys, want) {
			t.Errorf("%q is not said in\n%s", want, whys)
		}
	}
	if len(draft.Members) != 2 {
		t.Errorf("%d can be stressed, want 2", len(draft.Members))
	}
	if _, err := d.w.Stress.Begin(t.Context(), falls(corestress.Fresh, done.Run.Code)); err == nil || !strings.Contains(err.Error(), "codes") {
		t.Errorf("begun with a stressed one: %v", err)
	}
	// Two series may name a specimen; the one that is first stresses it.
	a, b := must(d.w.Stress.Begin(t.Context(), falls(corestress.Fresh, lost.Run.Code)))(t), must(d.w.Stress.Begin(t.Context(), falls(corestress.Fresh, lost.Run.Code)))(t)
	d.through(a, func(string, float64) int64 { return 1 })
	step := b.Steps[0]
	if _, err := d.w.Stress.Test(t.Context(), b.Series.ID, stress.Seen{SpecimenID: step.Specimen, Level: step.Level, Damage: quantity.Ptr[int64](0)}); err == nil || !strings.Contains(err.Error(), "fresh no more") {
		t.Errorf("stressed twice: %v", err)
	}
}

// The next test alone is taken; one taken back is done anew, and stays on record.
func TestTestsAreTakenInTheirOrder(t *testing.T) {
	d := newDesk(t)
	run := d.wholePrint(-8)
	sheet := must(d.w.Stress.Begin(t.Context(), falls(corestress.Cumulative, run.Specimens[0].Code, run.Specimens[1].Code)))(t)
	id, second := sheet.Series.ID, sheet.Steps[1]
	if _, err := d.w.Stress.Test(t.Context(), id, stress.Seen{SpecimenID: second.Specimen, Level: second.Level, Damage: quantity.Ptr[int64](0)}); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("out of turn: %v", err)
	}
	first := stress.Seen{SpecimenID: sheet.Steps[0].Specimen, Level: 200}
	for name, change := range map[string]func(*stress.Seen){"damage": func(*stress.Seen) {}, "deflection_mm": func(s *stress.Seen) { s.Damage, s.DeflectionMM = nil, quantity.Ptr(1.0) }} {
		in := first
		change(&in)
		if _, err := d.w.Stress.Test(t.Context(), id, in); err == nil {
			t.Errorf("%s was taken", name)
		}
	}
	if _, err := d.w.Stress.Undo(t.Context(), id); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("nothing to take back: %v", err)
	}
	first.Damage = quantity.Ptr[int64](4)
	sheet = must(d.w.Stress.Test(t.Context(), id, first))(t)
	if len(sheet.Steps) != 4 || *sheet.Next != 1 {
		t.Errorf("what broke climbs on: %+v", sheet.Steps)
	}
	if sheet = must(d.w.Stress.Undo(t.Context(), id))(t); *sheet.Next != 0 || len(sheet.Steps) != 6 {
		t.Errorf("%+v", sheet)
	}
	sheet = d.through(sheet, func(code string, level float64) int64 {
		if code == run.Specimens[0].Code && level == 400 {
			return 3
		}
		return 0
	})
	if len(sheet.Steps) != 5 || sheet.SetUps[0].HalfLevel != nil {
		t.Errorf("a climbing series has no half: %+v", sheet)
	}
	if listed := must(d.w.Stress.All(t.Context()))(t); len(listed) != 1 || listed[0].Tests != 5 || listed[0].Steps != 5 || listed[0].Failed != 1 {
		t.Errorf("%+v", listed)
	}
	own := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t)
	if n := len(own.Stressed[0].Tests) + len(own.Stressed[1].Tests); n != 6 {
		t.Errorf("%d tests on record, want the one taken back too", n)
	}
}

// A series that ends early says why wherever it is named; what was tested counts, and what was
// not is fresh for another. An end that was a slip is taken back.
func TestASeriesEndsEarlyWithAReason(t *testing.T) {
	d := newDesk(t)
	run, other := d.wholePrint(-8), d.wholePrint(-7)
	sheet := must(d.w.Stress.Begin(t.Context(), falls(corestress.Fresh, run.Run.Code, other.Run.Code)))(t)
	id, tested, waiting := sheet.Series.ID, sheet.Steps[0], sheet.Steps[1]
	_, err := d.w.Stress.End(t.Context(), id, " ")
	wantField(t, err, "why")
	if _, err := d.w.Stress.GoOn(t.Context(), id); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("gone on with what runs: %v", err)
	}
	must(d.w.Stress.Test(t.Context(), id, stress.Seen{SpecimenID: tested.Specimen, Level: tested.Level, Damage: quantity.Ptr[int64](1)}))(t)
	sheet = must(d.w.Stress.End(t.Context(), id, " the oak split "))(t)
	if sheet.Next != nil || sheet.Series.EndedMS == nil || sheet.Series.EndedWhy != "the oak split" {
		t.Errorf("%+v", sheet.Series)
	}
	again := stress.Seen{SpecimenID: waiting.Specimen, Level: waiting.Level, Damage: quantity.Ptr[int64](1)}
	if _, err := d.w.Stress.Test(t.Context(), id, again); !errors.Is(err, bench.ErrConflict) || !strings.Contains(err.Error(), "the oak split") {
		t.Errorf("tested after its end: %v", err)
	}
	if _, err := d.w.Stress.End(t.Context(), id, "again"); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("ended twice: %v", err)
	}
	draft := must(d.w.Stress.Draft(t.Context(), falls(corestress.Fresh, tested.Code, waiting.Code)))(t)
	if len(draft.Refused) != 1 || draft.Refused[0].Code != tested.Code {
		t.Errorf("%+v", draft.Refused)
	}
	c := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: [][]string{{run.Run.ID}, {other.Run.ID}}, Question: "strength"}))(t)
	if len(c.Ordeals) != 1 || !slices.Equal(c.Ordeals[0].Series, []string{sheet.Series.Code + " (ended early: the oak split)"}) {
		t.Errorf("%+v", c.Ordeals)
	}
	if sheet = must(d.w.Stress.GoOn(t.Context(), id))(t); *sheet.Next != 1 || sheet.Series.EndedWhy != "" {
		t.Errorf("%+v", sheet.Series)
	}
	d.through(sheet, func(string, float64) int64 { return 0 })
	if _, err := d.w.Stress.End(t.Context(), id, "done"); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("ended when all is tested: %v", err)
	}
}

// A bar is read from its preload; a deflection that does not rise is refused, and stiffness
// stands in the comparison in MPa.
func TestStiffnessOfBars(t *testing.T) {
	d := newDesk(t)
	a, b := d.wholePrint(-8), d.wholePrint(-6)
	req := stress.Request{Codes: []string{a.Specimens[0].Code, b.Specimens[0].Code}, Series: bench.StressSeries{Kind: corestress.Stiffness, Mode: corestress.Cumulative, Name: "Bars", Under: "on two rods", Stage: "cured", Levels: bench.Sizes{20, 100}, SpanMM: quantity.Ptr(40.0)}}
	sheet := must(d.w.Stress.Begin(t.Context(), req))(t)
	read := func(mm float64) error {
		step := sheet.Steps[*sheet.Next]
		after, err := d.w.Stress.Test(t.Context(), sheet.Series.ID, stress.Seen{SpecimenID: step.Specimen, Level: step.Level, DeflectionMM: &mm})
		if err == nil {
			sheet = after
		}
		return err
	}
	for _, mm := range []float64{0.1, 0.5, 0.1} {
		if err := read(mm); err != nil {
			t.Fatal(err)
		}
	}
	if err := read(0.1); err == nil || !strings.Contains(err.Error(), "lighter 20 g") {
		t.Errorf("a deflection that does not rise: %v", err)
	}
	if err := read(0.9); err != nil {
		t.Fatal(err)
	}
	if sheet.SetUps[0].ModulusMPA != nil || !strings.Contains(strings.Join(sheet.SetUps[0].Says, " "), "2 bars are not measured yet") {
		t.Errorf("%+v", sheet.SetUps[0])
	}
	for _, m := range sheet.Members {
		sheet = must(d.w.Stress.Weigh(t.Context(), sheet.Series.ID, m.ID, stress.Weighed{WidthMM: quantity.Ptr(8.0)}))(t)
		sheet = must(d.w.Stress.Weigh(t.Context(), sheet.Series.ID, m.ID, stress.Weighed{ThicknessMM: quantity.Ptr(2.0)}))(t)
	}
	stiff := 9.80665 * 0.080 * 64000 / (4 * 8 * 8)
	if got := *sheet.SetUps[0].ModulusMPA; !quantity.Equal(got, (stiff/0.4+stiff/0.8)/2) {
		t.Errorf("%v", got)
	}
	got := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Question: "strength", Sides: [][]string{{a.Run.ID}, {b.Run.ID}}}))(t)
	i := slices.IndexFunc(got.Measures, func(m contest.Measure) bool { return m.Unit == "MPa" })
	if i < 0 || got.Measures[i].Sides[0].Value == nil || got.Measures[i].Pairs[0].P != nil {
		t.Errorf("%+v", got.Measures)
	}
}

// stressed lets the copies of one print fall, as far as the first; one of them was primed, and
// a thread was tried.
func (d *desk) stressed() {
	d.t.Helper()
	run := d.wholePrint(-30)
	must(d.readForm(run, 0, d.form(bench.Form{Kind: "thread", Name: "Bolt"}), func(r *bench.FormReading) { r.Mate, r.State = "nut M3", "goes" }))(d.t)
	must(d.reaches(run, "primed", 3, 1))(d.t)
	must(d.w.ResinCard.Weigh(d.t.Context(), d.resin.ID, bench.ResinWeighing{MassG: 11, VolumeML: 10}))(d.t)
	d.lives(d.machine.ID, "lid", 2, "Ida")
	sheet := must(d.w.Stress.Begin(d.t.Context(), falls(corestress.Fresh, run.Run.Code)))(d.t)
	must(d.w.Stress.Weigh(d.t.Context(), sheet.Series.ID, sheet.Members[0].ID, stress.Weighed{MassG: quantity.Ptr(2.5)}))(d.t)
	must(d.w.Stress.Test(d.t.Context(), sheet.Series.ID, stress.Seen{SpecimenID: sheet.Steps[0].Specimen, Level: sheet.Steps[0].Level, Damage: quantity.Ptr[int64](3), Part: "tip"}))(d.t)
}

// A kind of stress can be declared to decide before anything is printed: all of its levels are
// then adjusted among themselves.
func TestAStressIsDeclaredToDecide(t *testing.T) {
	d := newDesk(t)
	weak, tough := []printing.RunSheet{d.wholePrint(-8), d.wholePrint(-7)}, []printing.RunSheet{d.wholePrint(-6), d.wholePrint(-5)}
	review := must(d.w.Reviews.SaveReview(t.Context(), bench.Review{Question: "Which is tougher?", Policy: "maker_default", MachineIDs: bench.IDs{d.machine.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}}))(t)
	decidable := must(d.w.Reviews.Decidable(t.Context(), review.ID))(t)
	found := false
	for _, m := range decidable.Measures {
		found = found || m.Key == "stress drop" && m.Label == "Drop, as stressed"
	}
	if !found {
		t.Errorf("%+v", decidable.Measures)
	}
	codes := []string{}
	for _, r := range slices.Concat(weak, tough) {
		codes = append(codes, r.Run.Code)
	}
	d.through(must(d.w.Stress.Begin(t.Context(), falls(corestress.Fresh, codes...)))(t), func(code string, level float64) int64 {
		if level > 300 && (strings.HasPrefix(code, "S"+weak[0].Run.Code[1:]) || strings.HasPrefix(code, "S"+weak[1].Run.Code[1:])) {
			return 4
		}
		return 0
	})
	ids := [][]string{{weak[0].Run.ID, weak[1].Run.ID}, {tough[0].Run.ID, tough[1].Run.ID}}
	got := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Question: "strength", Sides: ids, Deciding: &compare.Deciding{Measure: "stress drop"}}))(t)
	declared := 0
	for _, m := range got.Measures {
		for _, p := range m.Pairs {
			if p.Declared && !strings.HasPrefix(m.Key, "stress drop ") {
				t.Errorf("%s was not declared", m.Key)
			}
			if p.Declared {
				declared++
			}
		}
	}
	if declared < 2 || got.Counted.Declared == 0 || got.Counted.Declared >= got.Counted.Table {
		t.Errorf("%d declared, counted %+v", declared, got.Counted)
	}
}

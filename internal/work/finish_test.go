package work_test

import (
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/compare"
)

// blemished records a print of two copies, of which the first has a defect.
func (d *desk) blemished(symptom, origin string, washS float64) string {
	d.t.Helper()
	run := d.runOf(2, func(r *bench.Run) { r.WashS = &washS })
	run.Specimens[1].Outcome = "whole"
	if run.Specimens[0].Outcome = "whole"; symptom != "" {
		ruin(&run.Specimens[0], "micro_defect", symptom, origin, "machine")
	}
	return must(d.w.Inspect.JudgeSpecimens(d.t.Context(), run.Run.ID, run.Specimens))(d.t).Run.ID
}

func TestFinishHasFiguresOfItsOwn(t *testing.T) {
	d := newDesk(t)
	a := []string{d.blemished("surface haze", "printed", 120), d.blemished("support scar", "removal", 240)}
	b := []string{d.blemished("surface haze", "wash", 120), d.blemished("void", "printed", 120)}
	c := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: [][]string{a, b}, Question: "finish"}))(t)
	for key, want := range map[string][2]int64{"blemished": {2, 0}, "blemished surface haze": {1, 0}, "blemished support scar": {1, 0}} {
		m := measure(t, c, key)
		if *m.Sides[0].Events != want[0] || *m.Sides[1].Events != want[1] || m.Sides[0].Specimens != 4 || m.Questions[0] != "finish" {
			t.Errorf("%s: %d of %d and %d, want %v of 4", key, *m.Sides[0].Events, m.Sides[0].Specimens, *m.Sides[1].Events, want)
		}
	}
	for _, m := range c.Measures {
		if m.Key == "blemished specks" {
			t.Error("a blemish that nobody saw has a row")
		}
	}
}

func TestALostCopyHasNoFinish(t *testing.T) {
	d := newDesk(t)
	lost := d.runOf(2, func(*bench.Run) {})
	ruin(&lost.Specimens[0], "lost", "surface haze", "printed", "machine")
	lost.Specimens[1].Outcome = "whole"
	must(d.w.Inspect.JudgeSpecimens(t.Context(), lost.Run.ID, lost.Specimens))(t)
	c := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: [][]string{{lost.Run.ID}, {d.blemished("", "", 120)}}, Question: "finish"}))(t)
	if m := measure(t, c, "blemished"); *m.Sides[0].Events != 0 || m.Sides[0].Specimens != 1 {
		t.Errorf("%d of %d", *m.Sides[0].Events, m.Sides[0].Specimens)
	}
}

func TestTreatmentAndSpeedStandBesideWhatIsStated(t *testing.T) {
	d := newDesk(t)
	resin := d.resin
	resin.StatedWashS = quantity.Ptr(240.0)
	must(d.w.Kit.SaveResin(t.Context(), resin))(t)
	machine := d.machine
	machine.ClaimedMMH = quantity.Ptr(500.0)
	must(d.w.Kit.SaveMachine(t.Context(), machine))(t)
	a := []string{d.blemished("", "", 120), d.blemished("", "", 240)}
	c := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: [][]string{a, {d.blemished("", "", 240)}}, Question: "time"}))(t)
	if got := c.Sides[0].Washed; got != "2 min to 4 min; the label asks 4 min: 50 % to 100 % of it" {
		t.Errorf("washed: %s", got)
	}
	if got := c.Sides[1].Cured; got != "not known" {
		t.Errorf("cured: %s", got)
	}
	rose := c.Sides[1].Rose
	if rose == nil || rose.Verdict != "cannot_tell" || !strings.Contains(rose.Says, "500 mm/h claimed: whether the claim is met cannot be told") {
		t.Errorf("rose: %+v", rose)
	}
}

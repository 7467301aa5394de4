package work_test

import (
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
)

func TestDiagnosisReadsTheRecord(t *testing.T) {
	d := newDesk(t)
	d.withVat(40, 10)
	run := d.prepared(12) // 2 ml to give, the plate takes 10
	r := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t).Run
	d.amend(r, `{"resin_temp_c": 24, "film_clouded": false}`)
	first := must(d.w.Printing.Diagnose(t.Context(), run.Run.ID, "let go midway"))(t)
	if top := first.Result.Causes[0]; top.Cause != "vat_empty" || len(top.For) != 1 || first.Result.Has("cannot_tell") {
		t.Errorf("%+v, %v", top, first.Result.Warnings)
	}
	d.happens(run, "start", nil)
	d.happens(run, "top_up", quantity.Ptr(20.0))
	topped := must(d.w.Printing.Diagnose(t.Context(), run.Run.ID, "let go midway"))(t)
	for _, c := range topped.Result.Causes {
		if c.Cause == "vat_empty" && (len(c.For) != 0 || len(c.Against) != 1) {
			t.Errorf("after a top-up: %+v", c)
		}
	}
}

func TestWhatWasTriedRanksLaterCases(t *testing.T) {
	d := newDesk(t)
	d.withVat(40, 10)
	run := d.prepared(40)
	before := must(d.w.Printing.Diagnose(t.Context(), run.Run.ID, "pull lines"))(t)
	last := before.Result.Causes[len(before.Result.Causes)-1]
	for range 4 {
		kept := must(d.w.Printing.Try(t.Context(), run.Run.ID, bench.Remedy{Symptom: "pull lines", Cause: last.Cause, Note: "as said"}))(t)
		open := kept.Tried[len(kept.Tried)-1]
		open.CameBack = quantity.Ptr(false)
		must(d.w.Printing.Try(t.Context(), run.Run.ID, open))(t)
		d.clock = d.clock.Add(time.Hour)
	}
	other := d.prepared(40)
	after := must(d.w.Printing.Diagnose(t.Context(), other.Run.ID, "pull lines"))(t)
	found := false
	for _, c := range after.Result.Causes {
		if c.Cause == last.Cause {
			found = c.Share > last.Share && c.Helped == 4 && c.TriedN == 4
		}
	}
	if !found || len(after.Tried) != 0 {
		t.Errorf("%s: %+v", last.Cause, after.Result.Causes)
	}
	if _, err := d.w.Printing.Try(t.Context(), run.Run.ID, bench.Remedy{Symptom: "pull lines"}); err == nil {
		t.Error("a try for no cause was kept")
	}
}

// Every symptom of the record's own list but the operator's has causes to look at.
func TestEverySymptomHasCauses(t *testing.T) {
	d := newDesk(t)
	run := d.prepared(40)
	for _, symptom := range bench.Symptoms {
		got := must(d.w.Printing.Diagnose(t.Context(), run.Run.ID, symptom))(t)
		if (len(got.Result.Causes) == 0) != (symptom == "operator" || symptom == "broken in handling") {
			t.Errorf("%s has %d causes", symptom, len(got.Result.Causes))
		}
	}
}

package work_test

import (
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/compare"
	"ojime/internal/work/diagnosis"
)

func TestDiagnosisReadsTheRecord(t *testing.T) {
	d := newDesk(t)
	d.withVat(40, 10)
	run := d.prepared(12) // 2 ml to give, the plate takes 10
	r := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t).Run
	d.amend(r, `{"resin_temp_c": 24, "film_clouded": false}`)
	first := must(d.w.Diagnosis.Diagnose(t.Context(), run.Run.ID, "let go midway"))(t)
	if top := first.Result.Causes[0]; top.Cause != "vat_empty" || len(top.For) != 1 || first.Result.Has("cannot_tell") {
		t.Errorf("%+v, %v", top, first.Result.Warnings)
	}
	d.happens(run, "start", nil)
	d.happens(run, "top_up", quantity.Ptr(20.0))
	topped := must(d.w.Diagnosis.Diagnose(t.Context(), run.Run.ID, "let go midway"))(t)
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
	before := must(d.w.Diagnosis.Diagnose(t.Context(), run.Run.ID, "pull lines"))(t)
	last := before.Result.Causes[len(before.Result.Causes)-1]
	at := func(hours int) func(*bench.Run) {
		return func(r *bench.Run) {
			r.StartedMS += int64(hours) * time.Hour.Milliseconds()
			r.EndedMS = quantity.Ptr(*r.EndedMS + int64(hours)*time.Hour.Milliseconds())
		}
	}
	var told diagnosis.Diagnosis
	for i := range 4 {
		failed := d.judged("pull lines", at(4*i))
		kept := must(d.w.Diagnosis.Try(t.Context(), failed.Run.ID, bench.Remedy{Symptom: "pull lines", Cause: last.Cause, Note: "as said"}))(t)
		if open := kept.Tried[0]; open.Returned != nil || open.Title != last.Title || kept.Fared.Remedied.Waiting != 1 {
			t.Errorf("before a print told of it: %+v", open)
		}
		clean := d.judged("", at(4*i+2))
		if told = must(d.w.Diagnosis.Diagnose(t.Context(), failed.Run.ID, "pull lines"))(t); told.Tried[0].ToldByCode != clean.Run.Code || *told.Tried[0].Returned {
			t.Errorf("%+v", told.Tried[0])
		}
	}
	other := d.prepared(40)
	after := must(d.w.Diagnosis.Diagnose(t.Context(), other.Run.ID, "pull lines"))(t)
	found := false
	for _, c := range after.Result.Causes {
		if c.Cause == last.Cause {
			found = c.Share > last.Share && c.Helped == 4 && c.TriedN == 4
		}
	}
	if !found || len(after.Tried) != 0 || after.Result.Judged != 4 || after.Fared.Says != "After a remedy it stayed away in 4 of 4; how often it does so by itself is not known." {
		t.Errorf("%s: %+v", last.Cause, after)
	}
	if _, err := d.w.Diagnosis.Try(t.Context(), run.Run.ID, bench.Remedy{Symptom: "pull lines"}); err == nil {
		t.Error("a try for no cause was kept")
	}
}

func TestFaultsAreCountedBySymptomSoftwareAndRemedy(t *testing.T) {
	d := newDesk(t)
	with := func(software string, hours int) func(*bench.Run) {
		return func(r *bench.Run) {
			r.Software = &software
			r.StartedMS += int64(hours) * time.Hour.Milliseconds()
			r.EndedMS = quantity.Ptr(*r.EndedMS + int64(hours)*time.Hour.Milliseconds())
		}
	}
	d.judged("pull lines", with("Fold 2", 0))
	failed := d.judged("pull lines", with("Fold 2", 2))
	clean := d.judged("", with("Fold 3", 4))
	must(d.w.Diagnosis.Try(t.Context(), failed.Run.ID, bench.Remedy{Symptom: "pull lines", Cause: "the cat", Note: "put it out"}))(t)
	rates := must(d.w.Tally.FailureRates(t.Context()))(t)
	if len(rates.Software) != 2 {
		t.Fatalf("%+v", rates.Software)
	}
	for _, r := range rates.Software {
		if want := map[string]int{"Fold 2": 1, "Fold 3": 0}[r.Name]; len(r.Symptoms) != want {
			t.Errorf("%+v", r)
		}
	}
	if m := rates.Machines[0].Symptoms; len(m) != 1 || m[0].Prints != 2 || rates.Pieces[0].Symptoms[0].Prints != 2 {
		t.Errorf("%+v", m)
	}
	if f := rates.Fared; len(f) != 1 || f[0].ByItself.Of != 1 || f[0].ByItself.Away != 0 || f[0].Causes[0].Title != "the cat" || f[0].Causes[0].Away != 1 {
		t.Errorf("%+v", f)
	}
	c := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Question: "failure", Sides: [][]string{{failed.Run.ID}, {clean.Run.ID}}}))(t)
	if len(c.FaultsBy) != 0 {
		t.Errorf("the software is what the sides are: %+v", c.FaultsBy)
	}
	if len(c.Remedies) != 1 || c.Remedies[0].Tried[0].Says != "stayed away on "+clean.Run.Code || c.Remedies[0].Fared.ByItself.Of != 1 {
		t.Errorf("%+v", c.Remedies)
	}
	again := d.judged("pull lines", with("Fold 3", 6))
	c = must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Question: "failure", Sides: [][]string{{failed.Run.ID, clean.Run.ID}, {again.Run.ID}}}))(t)
	if len(c.FaultsBy) != 1 || c.FaultsBy[0].By != "software" || c.FaultsBy[0].Faults[0].Says != "with all software: look at the machine, the resin or the settings first" {
		t.Errorf("%+v", c.FaultsBy)
	}
}

// Every symptom of the record's own list but the operator's has causes to look at.
func TestEverySymptomHasCauses(t *testing.T) {
	d := newDesk(t)
	run := d.prepared(40)
	for _, symptom := range bench.Symptoms {
		got := must(d.w.Diagnosis.Diagnose(t.Context(), run.Run.ID, symptom))(t)
		if (len(got.Result.Causes) == 0) != (symptom == "operator" || symptom == "broken in handling") {
			t.Errorf("%s has %d causes", symptom, len(got.Result.Causes))
		}
	}
}

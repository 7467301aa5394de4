package work_test

import (
	"encoding/json"
	"errors"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/printing"
)

// measured records one reading of a feature and gives it back.
func (d *desk) measured(run printing.RunSheet, specimen, feature int, valueMM float64, corrects *string) bench.Reading {
	d.t.Helper()
	sheet := must(d.w.Inspect.RecordReadings(d.t.Context(), run.Run.ID, []bench.Reading{{SpecimenID: run.Specimens[specimen].ID, FeatureID: d.piece.Features[feature].ID,
		InstrumentID: &d.tool.ID, ValueMM: &valueMM, CorrectsID: corrects}}, true))(d.t)
	for _, r := range sheet.Readings {
		if *r.ValueMM == valueMM {
			return r
		}
	}
	d.t.Fatalf("%v is not among the readings", valueMM)
	return bench.Reading{}
}

func values(readings []bench.Reading) (out []float64) {
	for _, r := range readings {
		out = append(out, *r.ValueMM)
	}
	return out
}

// A reading that is taken back stays on record with its reason and counts no more; what
// it corrected counts again.
func TestAReadingIsTakenBackAndWhatItCorrectedCountsAgain(t *testing.T) {
	d := newDesk(t)
	run := d.run(nil)
	first := d.measured(run, 0, 0, 30.1, nil)
	second := d.measured(run, 0, 0, 30.4, &first.ID)
	if sheet := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t); len(sheet.Readings) != 1 || values(sheet.Readings)[0] != 30.4 {
		t.Fatalf("corrected: %v count", values(sheet.Readings))
	}
	sheet := must(d.w.Inspect.TakeBack(t.Context(), run.Run.ID, second.ID, "read the wrong edge"))(t)
	if len(sheet.Readings) != 1 || values(sheet.Readings)[0] != 30.1 || len(sheet.Corrected) != 1 || sheet.Corrected[0].TakenBackWhy != "read the wrong edge" {
		t.Errorf("%v count, %+v do not", values(sheet.Readings), sheet.Corrected)
	}
	if f := sheet.Dimensions.Features[0]; f.N != 1 || f.MeanMM != 30.1 {
		t.Errorf("summary %+v", f)
	}
	history := must(d.w.History.Of(t.Context(), "reading", second.ID))(t)
	if len(history) != 1 || history[0].Why != "read the wrong edge" || !strings.Contains(history[0].After, "read the wrong edge") || strings.Contains(history[0].Before, "read the wrong edge") {
		t.Errorf("history %+v", history)
	}
	if _, err := d.w.Inspect.TakeBack(t.Context(), run.Run.ID, second.ID, "again"); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("taken back twice: %v", err)
	}
	_, err := d.w.Inspect.TakeBack(t.Context(), run.Run.ID, first.ID, "")
	wantField(t, err, "why")
	other := d.run(nil)
	_, err = d.w.Inspect.TakeBack(t.Context(), other.Run.ID, first.ID, "not mine")
	wantField(t, err, "reading_id")
}

// A comparison does not hold on to what was taken back.
func TestWhatWasTakenBackLeavesTheFigures(t *testing.T) {
	d := newDesk(t)
	run := d.run(nil)
	d.measured(run, 0, 0, 30.0, nil)
	slip := d.measured(run, 1, 0, 33.0, nil)
	mean := func() float64 {
		t.Helper()
		return must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t).Dimensions.Features[0].MeanMM
	}
	if got := mean(); got != 31.5 {
		t.Errorf("before: %v", got)
	}
	must(d.w.Inspect.TakeBack(t.Context(), run.Run.ID, slip.ID, "a slip"))(t)
	if got := mean(); got != 30 {
		t.Errorf("after: %v", got)
	}
}

func TestABottlesDaysAreCorrectedWithTheirHistory(t *testing.T) {
	d := newDesk(t)
	correct := func(version int64, change string) (bench.Bottle, error) {
		return d.w.Kit.CorrectBottle(t.Context(), d.bottle.ID, version, json.RawMessage(change), "misread the label")
	}
	got := must(correct(d.bottle.Version, `{"expires_on": "2027-03-01", "lot": "B-77"}`))(t)
	if *got.ExpiresOn != "2027-03-01" || got.Lot != "B-77" || *got.OpenedOn != *d.bottle.OpenedOn || got.Version != d.bottle.Version+1 {
		t.Errorf("%+v", got)
	}
	if _, err := correct(d.bottle.Version, `{"lot": "C"}`); !errors.Is(err, bench.ErrStale) {
		t.Errorf("against an older version: %v", err)
	}
	for change, field := range map[string]string{`{"opened_on": "yesterday"}`: "opened_on", `{"resin_id": "x"}`: "resin_id", `{"tare_g": -1}`: "tare_g", `{"lot": 7}`: "body"} {
		_, err := correct(got.Version, change)
		wantField(t, err, field)
	}
	history := must(d.w.History.Of(t.Context(), "bottle", d.bottle.ID))(t)
	if len(history) != 1 || history[0].Why != "misread the label" || !strings.Contains(history[0].After, "2027-03-01") {
		t.Errorf("history %+v", history)
	}
	// The print of a bottle that had "expired" is preflighted with the true day.
	d.clock = time.Date(2026, 12, 1, 9, 0, 0, 0, time.UTC)
	run := d.prepared(100)
	for _, item := range must(d.w.Printing.Live(t.Context(), run.Run.ID))(t).Items {
		if item.Item == "bottle" && strings.Contains(item.Fact, "expired") {
			t.Errorf("the bottle says %q", item.Fact)
		}
	}
}

// Only what a knot owns can be corrected, and a retired one is not retired again.
func TestKnotsRefuseWhatIsNotTheirs(t *testing.T) {
	d := newDesk(t)
	knot := must(d.w.Kit.AddEvent(t.Context(), bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"film"}, Note: "new film"}))(t)
	for change, field := range map[string]string{`{"machine_id": "x"}`: "machine_id", `{"kinds": []}`: "kinds", `{"changes": [{"what": ""}]}`: "changes[0].what", `{"film_layers": -3}`: "film_layers"} {
		_, err := d.w.Kit.CorrectEvent(t.Context(), knot.ID, knot.Version, json.RawMessage(change), "")
		wantField(t, err, field)
	}
	_, err := d.w.Kit.RetireEvent(t.Context(), knot.ID, knot.Version, "")
	wantField(t, err, "why")
	gone := must(d.w.Kit.RetireEvent(t.Context(), knot.ID, knot.Version, "never happened"))(t)
	if _, err := d.w.Kit.RetireEvent(t.Context(), knot.ID, gone.Version, "again"); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("retired twice: %v", err)
	}
	if _, err := d.w.Kit.CorrectEvent(t.Context(), "no-knot", 1, json.RawMessage(`{}`), ""); !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("a knot that is not there: %v", err)
	}
	for _, cord := range must(d.w.BenchView.Bench(t.Context()))(t).Cords {
		if len(cord.Knots) != 0 {
			t.Errorf("a retired knot stands on the cord: %+v", cord.Knots)
		}
	}
}

// A defect that was wrongly noted is taken back by judging again; the history keeps it.
func TestADefectIsTakenBack(t *testing.T) {
	d := newDesk(t)
	run := d.run(nil)
	list := run.Specimens[:1]
	ruin(&list[0], "lost", "void", "printed", "machine")
	lost := must(d.w.Inspect.JudgeSpecimens(t.Context(), run.Run.ID, list))(t).Specimens[0]
	lost.Outcome, lost.Defects = "whole", nil
	sheet := must(d.w.Inspect.JudgeSpecimens(t.Context(), run.Run.ID, []bench.Specimen{lost}))(t)
	got := sheet.Specimens[0]
	if got.Outcome != "whole" || got.Failed || len(got.Counting()) != 0 {
		t.Errorf("%+v", got)
	}
	if len(got.Defects) != 1 || got.Defects[0].TakenBackMS == nil {
		t.Errorf("the defect is gone from the record: %+v", got.Defects)
	}
}

// A dial that is changed while it prints is an event, and such a print does not stand
// for its settings.
func TestADialChangedWhilePrinting(t *testing.T) {
	d := newDesk(t)
	run := d.prepared(100)
	d.happens(run, "start", nil)
	d.clock = d.clock.Add(time.Minute)
	live := must(d.w.Printing.Happen(t.Context(), run.Run.ID, bench.RunEvent{Kind: "dial", AtMS: d.clock.UnixMilli(), Note: "exposure 2.4 s", Layer: quantity.Ptr[int64](21)}, true))(t)
	if e := live.Events[len(live.Events)-1]; e.Kind != "dial" || *e.Layer != 21 || e.Note != "exposure 2.4 s" {
		t.Errorf("%+v", e)
	}
	if _, err := d.w.Printing.Happen(t.Context(), run.Run.ID, bench.RunEvent{Kind: "dial", AtMS: d.clock.UnixMilli()}, true); err == nil {
		t.Error("a dial was changed to nothing")
	}
	d.clock = d.clock.Add(30 * time.Minute)
	d.happens(run, "finish", nil)
	if sheet := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t); !sheet.Run.DialChanged {
		t.Error("the print says nothing of the dial")
	}
}

package work_test

import (
	"bytes"
	"math"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store/storetest"
	"ojime/internal/work"
	"ojime/internal/work/printing"
)

func (d *desk) prepared(fillML float64) printing.RunSheet {
	d.t.Helper()
	plate := d.laid(6)
	return must(d.w.Printing.Prepare(d.t.Context(), printing.Preparation{MachineID: d.machine.ID, PlateID: &plate.Plate.ID, ProfileID: d.profile.ID, BottleID: &d.bottle.ID, VatFillML: &fillML, Prediction: "one corner lets go", PredictionFailPct: quantity.Ptr(20.0)}))(d.t)
}

func (d *desk) happens(run printing.RunSheet, kind string, ml *float64) printing.LiveRun {
	d.t.Helper()
	if kind == "start" {
		must(d.w.Printing.SkipOpen(d.t.Context(), run.Run.ID, "a test"))(d.t)
	}
	return must(d.w.Printing.Happen(d.t.Context(), run.Run.ID, bench.RunEvent{Kind: kind, ML: ml}, true))(d.t)
}

func item(t *testing.T, l printing.LiveRun, name string) printing.PreflightItem {
	t.Helper()
	for _, i := range l.Items {
		if i.Item == name {
			return i
		}
	}
	t.Fatalf("no item %s", name)
	return printing.PreflightItem{}
}

func TestPreflightIsMadeFromTheRecord(t *testing.T) {
	d := newDesk(t)
	d.withVat(40, 10)
	run := d.prepared(15)
	l := must(d.w.Printing.Live(t.Context(), run.Run.ID))(t)
	// The vat, a look at the plate and the caution must be answered.
	if l.State != bench.Prepared || len(run.Specimens) != 6 || l.Open != 3 {
		t.Fatalf("%s, %d specimens, %d open of %d", l.State, len(run.Specimens), l.Open, len(l.Items))
	}
	// The bottle expires on the tenth, the vat is short, nothing is known of the film.
	for name, want := range map[string]string{"vat": "act", "bottle": "look", "film": "unknown", "level": "unknown", "fit": "fine", "debris": "unknown", "vat_resin": "unknown", "filter": "look"} {
		if got := item(t, l, name); got.State != want || got.Why == "" || got.Fact == "" {
			t.Errorf("%s: %s (%s), want %s", name, got.State, got.Fact, want)
		}
	}
	l = must(d.w.Printing.Answer(t.Context(), run.Run.ID, bench.Preflight{Item: "vat", State: "skipped"}))(t)
	l = must(d.w.Printing.Answer(t.Context(), run.Run.ID, bench.Preflight{Item: "vat", State: "ticked"}))(t)
	if item(t, l, "vat").Answer != "ticked" || l.Open != 2 {
		t.Errorf("%+v, %d open", item(t, l, "vat"), l.Open)
	}
	if _, err := d.w.Printing.Answer(t.Context(), run.Run.ID, bench.Preflight{Item: "vat", State: "maybe"}); err == nil {
		t.Error("an answer that is none was kept")
	}
}

func TestAPrintIsFollowedToItsEnd(t *testing.T) {
	d := newDesk(t)
	d.withVat(40, 10)
	run := d.prepared(15)
	if _, err := d.w.Printing.Happen(t.Context(), run.Run.ID, bench.RunEvent{Kind: "pause"}, true); err == nil || !strings.Contains(err.Error(), "prepared") {
		t.Errorf("a pause before the start: %v", err)
	}
	d.clock = d.clock.Add(time.Hour)
	begun := d.happens(run, "start", nil)
	if begun.State != bench.Printing || begun.Live.Layer != 1 || begun.Level.DryLayer == nil || begun.TopUpMS == nil || *begun.EndsMS <= begun.NowMS {
		t.Fatalf("%+v", begun)
	}
	total := begun.Live.LeftS
	d.clock = d.clock.Add(time.Duration(total / 2 * float64(time.Second)))
	half := must(d.w.Printing.Live(t.Context(), run.Run.ID))(t)
	if math.Abs(half.Live.Share-0.5) > 1e-3 || half.Live.Layer <= begun.Live.Layer || half.Level.LevelML >= begun.Level.LevelML {
		t.Errorf("half way: %+v, %+v", half.Live, half.Level)
	}
	topped := d.happens(run, "top_up", quantity.Ptr(20.0))
	if topped.AddedML != 20 || topped.Level.DryLayer != nil || topped.TopUpMS != nil {
		t.Errorf("after the top-up: %+v", topped.Level)
	}
	d.happens(run, "pause", nil)
	d.clock = d.clock.Add(3 * time.Hour)
	rested := must(d.w.Printing.Live(t.Context(), run.Run.ID))(t)
	if rested.State != bench.Paused || math.Abs(rested.RunningS-total/2) > 1 || rested.EndsMS != nil {
		t.Errorf("paused: %+v", rested)
	}
	d.happens(run, "resume", nil)
	// What is known of the run may be changed meanwhile; it stays in its state.
	d.amend(must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t).Run, `{"resin_temp_c": 24}`)
	d.clock = d.clock.Add(time.Duration(total / 2 * float64(time.Second)))
	done := d.happens(run, "finish", nil)
	sheet := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t)
	if done.State != bench.Finished || sheet.Run.EndedMS == nil || *sheet.Run.EndedMS != d.clock.UnixMilli() || len(done.Events) != 5 || sheet.Run.ResinTempC == nil {
		t.Errorf("%s, %+v", done.State, sheet.Run)
	}
	if _, err := d.w.Printing.Happen(t.Context(), run.Run.ID, bench.RunEvent{Kind: "start"}, true); err == nil {
		t.Error("a finished print was started again")
	}
	outcomes := sheet.Specimens
	for i := range outcomes {
		outcomes[i].Outcome = "whole"
	}
	must(d.w.Inspect.JudgeSpecimens(t.Context(), run.Run.ID, outcomes))(t)
	score := must(d.w.Printing.Live(t.Context(), run.Run.ID))(t).Predicted
	if score == nil || *score.Failed || math.Abs(*score.Score-0.04) > 1e-12 {
		t.Errorf("20 %% foretold and nothing failed: %+v", score)
	}
}

func TestDebrisIsAskedAfterALoss(t *testing.T) {
	d := newDesk(t)
	d.withVat(40, 10)
	first := d.prepared(40)
	lost := first.Specimens
	for i := range lost {
		lost[i].Outcome = "whole"
	}
	ruin(&lost[2], "lost", "no adhesion", "printed", "machine")
	must(d.w.Inspect.JudgeSpecimens(t.Context(), first.Run.ID, lost))(t)
	d.clock = d.clock.Add(24 * time.Hour)
	second := d.prepared(40)
	if i := item(t, must(d.w.Printing.Live(t.Context(), second.Run.ID))(t), "debris"); i.State != "act" || !strings.Contains(i.Fact, "lost 1 of 6") {
		t.Errorf("%+v", i)
	}
	must(d.w.Kit.AddEvent(t.Context(), bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"vat_clean"}}))(t)
	if i := item(t, must(d.w.Printing.Live(t.Context(), second.Run.ID))(t), "debris"); i.State != "fine" {
		t.Errorf("after cleaning: %+v", i)
	}
	home := must(d.w.BenchView.Bench(t.Context()))(t)
	if len(home.Next) < 2 || !strings.HasPrefix(home.Next[0].Title, "Start R-00") {
		t.Errorf("%+v", home.Next)
	}
}

// The exported record carries plates, events and answers to another one.
func TestPrintingSurvivesExport(t *testing.T) {
	d := newDesk(t)
	d.withVat(40, 10)
	run := d.prepared(30)
	d.happens(run, "start", nil)
	must(d.w.Printing.Answer(t.Context(), run.Run.ID, bench.Preflight{Item: "clear", State: "ticked"}))(t)
	text := exported(t, d.w)
	record := recordOf(t, text)
	other := newEmpty(t, d)
	must(other.Record.Import(t.Context(), bytes.NewReader(text)))(t)
	live := must(other.Printing.Live(t.Context(), run.Run.ID))(t)
	if live.State != bench.Printing || item(t, live, "clear").Answer != "ticked" {
		t.Errorf("%s, %+v", live.State, item(t, live, "clear"))
	}
	again := recordOf(t, exported(t, other))
	if len(again.Plates) != len(record.Plates) || len(again.Placements) != len(record.Placements) || len(again.RunEvents) != 1 || len(again.Preflights) != len(record.Preflights) {
		t.Errorf("%d plates, %d placements, %d events", len(again.Plates), len(again.Placements), len(again.RunEvents))
	}
}

// newEmpty is another, empty record with the desk's clock.
func newEmpty(t *testing.T, d *desk) *work.Work {
	t.Helper()
	s := storetest.Open(t)
	return work.New(s, func() time.Time { return d.clock }, d.w.Random)
}

package work_test

import (
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/inspect"
)

// Every reading says whether it counts, and if not why; a machine or a piece narrows them.
func TestEveryReadingSaysWhetherItCounts(t *testing.T) {
	d := newDesk(t)
	run := d.wholePrint(-30)
	length := d.piece.Features[0]
	read := func(specimen int, mm float64, corrects *string) bench.Reading {
		t.Helper()
		d.clock = d.clock.Add(1)
		after := must(d.w.Inspect.RecordReadings(t.Context(), run.Run.ID, []bench.Reading{{SpecimenID: run.Specimens[specimen].ID, FeatureID: length.ID, InstrumentID: &d.tool.ID, ValueMM: &mm, CorrectsID: corrects}}, true))(t)
		return after.Readings[len(after.Readings)-1]
	}
	wrong := read(0, 30.5, nil)
	read(0, 30.05, &wrong.ID)
	back := read(0, 31, nil)
	must(d.w.Inspect.TakeBack(t.Context(), run.Run.ID, back.ID, "dropped it"))(t)
	must(d.reaches(run, "primed", 0, 1))(t)
	read(1, 30.2, nil)
	got := must(d.w.Inspect.Lines(t.Context(), inspect.LinesFilter{}))(t)
	want := []struct {
		says, counts string
		errorUM      float64
	}{{"30.20 mm", "under a coat", 200}, {"31.00 mm", "taken back: dropped it", 1000}, {"30.05 mm", "yes", 50}, {"30.50 mm", "corrected since", 500}}
	if len(got.Lines) != len(want) || got.More {
		t.Fatalf("%d lines, more %v", len(got.Lines), got.More)
	}
	for i, w := range want {
		l := got.Lines[i]
		if l.Says != w.says || l.Counts != w.counts || l.ErrorUM == nil || !quantity.Equal(*l.ErrorUM, w.errorUM) || l.Feature != length.Name || l.Instrument != d.tool.Name || l.Run != run.Run.Code {
			t.Errorf("line %d: %+v, want %+v", i, l, w)
		}
	}
	for what, f := range map[string]inspect.LinesFilter{"machine": {MachineID: "another"}, "piece": {PieceID: "another"}} {
		if none := must(d.w.Inspect.Lines(t.Context(), f))(t); none.Lines == nil || len(none.Lines) != 0 {
			t.Errorf("of another %s: %+v", what, none.Lines)
		}
	}
	if own := must(d.w.Inspect.Lines(t.Context(), inspect.LinesFilter{MachineID: d.machine.ID, PieceID: d.piece.Piece.ID}))(t); len(own.Lines) != len(want) {
		t.Errorf("of its machine and piece: %d", len(own.Lines))
	}
}

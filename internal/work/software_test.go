package work_test

import (
	"bytes"
	"reflect"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/firstdays"
)

// clocks is a step of the desk's piece on a computer.
func (d *desk) clocks(stage, version, ended string, tookS float64) firstdays.Software {
	d.t.Helper()
	s := bench.SoftwareStep{Stage: stage, Software: "Carver", SoftwareVersion: version, Computer: "the old laptop", Person: "years of it", Ended: ended}
	if tookS > 0 {
		s.TookS = &tookS
	}
	if ended != "done" {
		s.Note = "the window closed by itself"
	}
	d.clock = d.clock.Add(time.Minute)
	return must(d.w.FirstDays.ClockStep(d.t.Context(), d.piece.Piece.ID, s))(d.t)
}

func TestStepsOnAComputerAreToldByVersion(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	d.clocks("import", "2", "done", 5)
	d.clocks("slice", "2", "done", 60)
	got := d.clocks("slice", "2", "crash", 0)
	if got.Steps[0].Again != "To be tried again with the next version." || got.Steps[0].Piece != "Wedge" {
		t.Errorf("%+v", got.Steps[0])
	}
	got = d.clocks("slice", "3", "done", 20)
	if got.Steps[1].Again != "Tried again with 3: done." || len(got.Programs) != 2 {
		t.Errorf("%+v", got.Steps[1])
	}
	if want := "import 5 s (n = 1); slice 1 min (n = 1). 1 of 3 steps failed (95 %: 6.15 % to 79.2 %), 1 crash among them."; got.Programs[0].Says != want {
		t.Errorf("%q, want %q", got.Programs[0].Says, want)
	}
	run := d.run(nil)
	review := must(d.w.Reviews.SaveReview(ctx, bench.Review{Question: "Which?", Policy: "maker_default", MachineIDs: bench.IDs{d.machine.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{run.Pieces[0].ID}}))(t)
	text := string(must(d.w.Publish.WriteUp(ctx, review.ID))(t))
	for _, want := range []string{"## On the computer\n\n- **Carver 2**: import 5 s (n = 1)", "  - Wedge, slice, crash with Carver 2: the window closed by itself Tried again with 3: done."} {
		if !strings.Contains(text, want) {
			t.Errorf("the write-up lacks %q", want)
		}
	}

	other := newEmpty(t, d)
	must(other.Record.Import(ctx, bytes.NewReader(exported(t, d.w))))(t)
	if there := must(other.FirstDays.Software(ctx))(t); !reflect.DeepEqual(there, got) {
		t.Errorf("there %+v", there)
	}
	back := must(d.w.FirstDays.TakeStepBack(ctx, d.piece.Piece.ID, got.Steps[1].ID, "it was another program"))(t)
	if back.Programs[0].Failed != 0 || back.Steps[1].TakenBackWhy != "it was another program" || back.Steps[1].Again != "" {
		t.Errorf("%+v", back)
	}
	for field, s := range map[string]bench.SoftwareStep{
		"software": {Stage: "slice", Software: " ", Ended: "done"},
		"note":     {Stage: "slice", Software: "Carver", Ended: "error"},
		"took_s":   {Stage: "slice", Software: "Carver", Ended: "done", TookS: quantity.Ptr(-1.0)},
	} {
		_, err := d.w.FirstDays.ClockStep(ctx, d.piece.Piece.ID, s)
		wantField(t, err, field)
	}
}

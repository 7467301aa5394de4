package work_test

import (
	"testing"

	"ojime/internal/bench"
	"ojime/internal/work/inspect"
)

// What is still to be read is counted on copies that have their detail, an open question
// brings its plates to the front, and a verdict, or leaving a print out, takes them back.
func TestThePlatesToRead(t *testing.T) {
	d := newDesk(t)
	older, newer := d.wholePrint(-30), d.wholePrint(-2)
	d.sized(newer, *d.piece.Features[0].NominalMM)
	plates := func() []inspect.PlateToRead { return must(d.w.Inspect.Plates(t.Context()))(t) }
	got := plates()
	if len(got) != 2 || got[0].ID != newer.Run.ID || got[0].Sizes.Done != 1 || got[0].Sizes.Of != got[0].Copies*sizesOf(d) || got[0].Copies != 3 || got[0].Printed == "" {
		t.Fatalf("%+v", got)
	}
	if got[0].NextSpecimenID != newer.Specimens[0].ID {
		t.Errorf("next is %s", got[0].NextSpecimenID)
	}
	lost := newer.Specimens
	lost[2].Outcome, lost[2].Defects = "lost", []bench.Defect{{Symptom: "no adhesion", Origin: "printed", Fault: "machine", Severity: "grave"}}
	newer = must(d.w.Inspect.JudgeSpecimens(t.Context(), newer.Run.ID, lost))(t)
	if got = plates(); got[0].Copies != 2 || got[0].Sizes.Of != 2*sizesOf(d) {
		t.Errorf("a lost copy is still to be read: %+v", got[0])
	}
	review := must(d.w.Reviews.SaveReview(t.Context(), bench.Review{Question: "Which?", Policy: "maker_default", MachineIDs: bench.IDs{d.machine.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}}))(t)
	must(d.w.Reviews.LeaveOut(t.Context(), review.ID, bench.LeftOut{RunID: newer.Run.ID, Reason: "the door stood open"}))(t)
	if got = plates(); got[0].ID != older.Run.ID || len(got[0].Questions) != 1 || got[0].Questions[0] != "Which?" || len(got[1].Questions) != 0 {
		t.Errorf("%+v", got)
	}
	reviews := must(d.w.Reviews.Reviews(t.Context()))(t)
	reviews[0].Verdict = "This one."
	must(d.w.Reviews.SaveReview(t.Context(), reviews[0]))(t)
	if got = plates(); got[0].ID != newer.Run.ID || len(got[0].Questions)+len(got[1].Questions) != 0 {
		t.Errorf("after the verdict: %+v", got)
	}
}

func sizesOf(d *desk) (n int64) {
	for _, f := range d.piece.Features {
		if f.Kind == "dimension" {
			n++
		}
	}
	return n
}

package work_test

import (
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/printing"
)

// A machine whose maker hides its settings, whose prints of more copies happened to be the longer ones, is reviewed and
// published like any other: its times are learned, and a copy more on its plate costs no time.
func TestAReviewWithAClosedMachineIsPublished(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	closed := d.machine
	closed.ID, closed.Code, closed.Version, closed.Name = "", "", 0, "Closed box"
	closed = must(d.w.Kit.SaveMachine(ctx, closed))(t).Machine
	sealed := must(d.w.Kit.AddProfile(ctx, bench.Profile{MachineID: closed.ID, ResinID: d.resin.ID, LayerUM: 50, SealedName: "House grey", Basis: "sealed"}))(t)
	for i := range 3 {
		d.clock = d.clock.Add(24 * time.Hour)
		d.run(func(r *bench.Run) { r.EndedMS = quantity.Ptr(r.StartedMS + int64(30+i)*60_000) })
		d.clock = d.clock.Add(5 * time.Hour)
		r := must(d.w.Printing.DraftRun(ctx, closed.ID))(t).Run
		r.ResinID, r.BottleID, r.ProfileID, r.StartedMS = d.resin.ID, &d.bottle.ID, sealed.ID, d.clock.UnixMilli()
		r.EndedMS = quantity.Ptr(r.StartedMS + int64(40+20*i)*60_000)
		must(d.w.Printing.RecordRun(ctx, printing.Recording{Run: r, Pieces: []printing.Portion{{PieceID: d.piece.Piece.ID, Copies: int64(1 + 2*i)}}, Confirmed: true}))(t)
	}
	review := must(d.w.Reviews.SaveReview(ctx, bench.Review{Question: "Which of the two?", UnderTest: bench.IDs{"machine"}, Policy: "maker_default", MachineIDs: bench.IDs{d.machine.ID, closed.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}}))(t)
	text := string(must(d.w.Publish.WriteUp(ctx, review.ID))(t))
	if strings.Contains(text, "fixed_s") || strings.Contains(text, "## Not worked out") {
		t.Errorf("the write-up does without something:\n%s", text)
	}
	plot := must(d.w.Planning.Fill(ctx, d.piece.Piece.ID, 100, []string{sealed.ID}, 4))(t)
	if s := plot.Sides[0]; s.Load.PerCopyS != 0 || s.Load.FixedS <= 0 {
		t.Errorf("a copy more takes %v s, a plate %v s", s.Load.PerCopyS, s.Load.FixedS)
	}
	if went := must(d.w.Publish.Publish(ctx, review.ID, "", false))(t); len(went) != 1 {
		t.Errorf("%d versions", len(went))
	}
	if page := must(d.w.Publish.Page(ctx, review.ID))(t); len(page) < 1000 {
		t.Errorf("a page of %d bytes", len(page))
	}
}

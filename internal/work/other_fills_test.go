package work_test

import (
	"math"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/compare"
	"ojime/internal/work/printing"
)

// twoTimed is prints of wedges on two machines, each so many minutes long.
func twoTimed(t *testing.T, a, b []float64) (d *desk, sides [][]string) {
	t.Helper()
	d = newDesk(t)
	second := d.machine
	second.ID, second.Code, second.Version, second.Name = "", "", 0, "Second"
	second = must(d.w.Kit.SaveMachine(t.Context(), second))(t).Machine
	settings := d.profile
	settings.ID, settings.Code, settings.Version, settings.MachineID = "", "", 0, second.ID
	settings = must(d.w.Kit.AddProfile(t.Context(), settings))(t)
	print := func(minutes float64, change func(*bench.Run)) string {
		d.clock = d.clock.Add(12 * time.Hour)
		sheet := d.run(func(r *bench.Run) {
			r.EndedMS = quantity.Ptr(r.StartedMS + int64(60_000*minutes))
			if change != nil {
				change(r)
			}
		})
		return sheet.Run.ID
	}
	sides = make([][]string, 2)
	for _, minutes := range a {
		sides[0] = append(sides[0], print(minutes, nil))
	}
	for _, minutes := range b {
		d.clock = d.clock.Add(12 * time.Hour)
		r := must(d.w.Printing.DraftRun(t.Context(), second.ID))(t).Run
		r.ResinID, r.BottleID, r.ProfileID, r.StartedMS = d.resin.ID, &d.bottle.ID, settings.ID, d.clock.UnixMilli()
		r.EndedMS = quantity.Ptr(r.StartedMS + int64(60_000*minutes))
		sheet := must(d.w.Printing.RecordRun(t.Context(), printing.Recording{Run: r, Pieces: []printing.Portion{{PieceID: d.piece.Piece.ID, Copies: 3}}, Confirmed: true}))(t)
		sides[1] = append(sides[1], sheet.Run.ID)
	}
	return d, sides
}

// The times of plates that were not printed rest on the prints compared alone, and say nothing of a pair that was measured.
func TestOtherFillsAreLearnedFromThePrintsCompared(t *testing.T) {
	d, sides := twoTimed(t, []float64{30, 31, 30, 90}, []float64{40, 41, 40})
	sides[0] = sides[0][:3] // the long one was left out
	request := compare.ComparisonRequest{Sides: sides, Question: "time", UnderTest: []string{"machine"}, PieceID: d.piece.Piece.ID}
	got := must(d.w.Reviews.Filled(t.Context(), request, 4))(t)
	if len(got) != 1 || len(got[0].Sides) != 2 || strings.Join(got[0].Letters, "") != "AB" {
		t.Fatalf("%+v", got)
	}
	a, b := got[0].Sides[0], got[0].Sides[1]
	if a.FactorN != 3 || b.FactorN != 3 || a.FactorCI == nil || math.Abs(a.OneS/60-30.3) > 0.1 || math.Abs(b.OneS/60-40.3) > 0.1 {
		t.Errorf("one piece takes %v min on A (%d prints, %v), %v on B", a.OneS/60, a.FactorN, a.FactorCI, b.OneS/60)
	}
	if len(got[0].Pairs) != 0 || !strings.Contains(strings.Join(got[0].Says, " "), "compared by their measured times") {
		t.Errorf("plates of both were measured, and the model says %+v; %v", got[0].Pairs, got[0].Says)
	}
	if a.Week == nil || a.Week.CopiesPI == nil || !strings.Contains(a.Week.Says, " to ") {
		t.Errorf("a week without an interval: %+v", a.Week)
	}
}

// What is not shown of times is no difference in pieces a week either.
func TestAWeekFollowsTheGradeOfItsTime(t *testing.T) {
	d, sides := twoTimed(t, []float64{30, 34, 31}, []float64{31, 33, 34})
	got := must(d.w.Reviews.Filled(t.Context(), compare.ComparisonRequest{Sides: sides, Question: "time", UnderTest: []string{"machine"}, PieceID: d.piece.Piece.ID}, 4))(t)
	if len(got) != 1 || len(got[0].Sides) != 2 || got[0].Sides[0].Week != nil || got[0].Sides[1].Week != nil || !strings.Contains(strings.Join(got[0].Says, " "), "none is given in pieces a week") {
		t.Errorf("%+v", got)
	}
}

// A machine that has changed since its last print has nothing to be corrected by, so the other is not corrected either.
func TestSidesAreCorrectedAlike(t *testing.T) {
	d, _ := twoTimed(t, []float64{30, 31}, []float64{40, 41})
	settings := must(d.w.Kit.Profiles(t.Context()))(t)
	ids := []string{settings[0].ID, settings[1].ID}
	both := must(d.w.Planning.Fill(t.Context(), d.piece.Piece.ID, 100, ids, 4))(t)
	if both.Sides[0].Factor == nil || both.Sides[1].Factor == nil || both.Corrected != "Times are corrected by prints with these settings." {
		t.Fatalf("%+v", both)
	}
	d.clock = d.clock.Add(time.Hour)
	must(d.w.Kit.AddEvent(t.Context(), bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"upgrade"}, Note: "another motor"}))(t)
	d.clock = d.clock.Add(time.Hour)
	neither := must(d.w.Planning.Fill(t.Context(), d.piece.Piece.ID, 100, ids, 4))(t)
	if neither.Sides[0].Factor != nil || neither.Sides[1].Factor != nil || !strings.Contains(neither.Corrected, "none is corrected") {
		t.Errorf("%+v", neither)
	}
}

// Of three machines that all printed the plate, the model says nothing of any pair, whichever they are set against.
func TestNoPairOfMeasuredPlatesIsModelled(t *testing.T) {
	d, sides := twoTimed(t, []float64{30, 31, 30}, []float64{40, 41, 40})
	fast := d.settings(func(p *bench.Profile) { p.Lift = bench.Moves{{MM: 6, MMMin: 180}} }).ID
	var third []string
	for i := range 3 {
		d.clock = d.clock.Add(12 * time.Hour)
		third = append(third, d.run(func(r *bench.Run) {
			r.ProfileID, r.EndedMS = fast, quantity.Ptr(r.StartedMS+int64(22+i)*60_000)
		}).Run.ID)
	}
	got := must(d.w.Reviews.Filled(t.Context(), compare.ComparisonRequest{Sides: append(sides, third), Question: "time", UnderTest: []string{"machine"}, PieceID: d.piece.Piece.ID}, 4))(t)
	if len(got) != 1 || len(got[0].Sides) != 3 || len(got[0].Pairs) != 0 {
		t.Errorf("%+v", got)
	}
}

package work_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/compare"
	"ojime/internal/work/printing"
	"ojime/internal/work/reviews"
)

// twoPieces are two settings on an easy and a hard piece: the first printed the hard one
// more often, the second takes half as long again on each.
func twoPieces(t *testing.T) (d *desk, review bench.Review) {
	t.Helper()
	d = newDesk(t)
	hard := d.part("Barb").Piece
	second := d.settings(func(p *bench.Profile) { p.Lift = bench.Moves{{MM: 6, MMMin: 30}} }).ID
	print := func(settings, piece string, times, minutes int, room *float64) {
		for i := range times {
			lost := map[string]int{}
			if piece == hard.ID {
				lost[piece] = 3
			}
			d.mixed([]printing.Portion{{PieceID: piece, Copies: 4}}, lost, func(r *bench.Run) {
				r.ProfileID, r.RoomTempC = settings, room
				r.EndedMS = quantity.Ptr(r.StartedMS + int64(minutes)*60_000 + int64(i)*7_000)
			})
			d.clock = d.clock.Add(3 * time.Hour)
		}
	}
	print(d.profile.ID, d.piece.Piece.ID, 2, 30, nil)
	print(d.profile.ID, hard.ID, 4, 60, nil)
	print(second, d.piece.Piece.ID, 4, 45, nil)
	print(second, hard.ID, 2, 90, nil)
	print(second, d.piece.Piece.ID, 1, 80, quantity.Ptr(15.0))
	return d, d.review(func(r *bench.Review) {
		r.UnderTest, r.PieceIDs = bench.IDs{"motion"}, append(r.PieceIDs, hard.ID)
	})
}

func TestAllPiecesAreComparedPieceByPiece(t *testing.T) {
	d, review := twoPieces(t)
	setups := reviews.AcrossPieces(must(d.w.Reviews.SetUps(t.Context(), review.ID))(t))
	if len(setups) != 2 || len(setups[0].RunIDs) != 6 || len(setups[1].RunIDs) != 7 || setups[0].PieceID != "" {
		t.Fatalf("%+v", setups)
	}
	req := compare.ComparisonRequest{Sides: [][]string{setups[0].RunIDs, setups[1].RunIDs}, Question: "time", UnderTest: review.UnderTest, ReviewID: review.ID, Baseline: -1}
	c := must(d.w.Reviews.Compare(t.Context(), req))(t)
	failures := measure(t, c, "failures")
	if a, b := *failures.Sides[0].Value, *failures.Sides[1].Value; a != 0.5 || b >= 0.3 {
		t.Fatalf("rates %v and %v", a, b)
	}
	// The first side's rate is higher because it printed the hard piece more often: piece by
	// piece nothing differs.
	if p := failures.Pairs[0]; *p.Difference != 0 || p.Kinds != 2 || !strings.Contains(failures.Label, "piece by piece") {
		t.Errorf("%s: %+v", failures.Label, p)
	}
	matched := measure(t, c, "time matched")
	if p := matched.Pairs[0]; p.Kinds != 2 || *p.Difference < 1.49 || *p.Difference > 1.51 || p.Verdict != "clear" {
		t.Errorf("%+v", p)
	}
	// The print in the cold room is a row of its own, and pulls no mean.
	cold := measure(t, c, "time 4 × Wedge, cold")
	if cold.Sides[1].Prints != 1 || cold.Sides[0].Prints != 0 || !strings.Contains(cold.Label, "cold (below 20 °C)") {
		t.Errorf("%+v", cold)
	}
	if !slices.ContainsFunc(c.Answers, func(a string) bool { return strings.Contains(a, "Time, plate by plate: B against A 1.5 times") }) {
		t.Errorf("says %q", c.Answers)
	}
}

func TestOnePieceOfAComparisonIsNotMatched(t *testing.T) {
	d, review := twoPieces(t)
	var sides [][]string
	for _, s := range must(d.w.Reviews.SetUps(t.Context(), review.ID))(t) {
		if s.PieceID == d.piece.Piece.ID {
			sides = append(sides, s.RunIDs)
		}
	}
	c := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: sides, Question: "failure", PieceID: d.piece.Piece.ID}))(t)
	if f := measure(t, c, "failures"); f.Pairs[0].Kinds != 0 || strings.Contains(f.Label, "piece by piece") {
		t.Errorf("%s: %+v", f.Label, f.Pairs[0])
	}
}

func TestAWriteUpSaysWhatAllPiecesShowTogether(t *testing.T) {
	d, review := twoPieces(t)
	text := string(must(d.w.Publish.WriteUp(t.Context(), review.ID))(t))
	for _, words := range []string{"## All pieces together", "- Time, plate by plate: B against A 1.5 times", "over 2 kinds that both have", "piece by piece and plate by plate, over what both printed"} {
		if !strings.Contains(text, words) {
			t.Errorf("the write-up does not say %q", words)
		}
	}
	one := d.review(func(r *bench.Review) { r.UnderTest = bench.IDs{"motion"} })
	if text := string(must(d.w.Publish.WriteUp(t.Context(), one.ID))(t)); strings.Contains(text, "All pieces together") {
		t.Error("one piece is called all pieces")
	}
}

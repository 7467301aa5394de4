package work_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/work/compare"
	"ojime/internal/work/reviews"
)

// motionsSeen are three lifts of four prints each, the last of which fails, and the review
// that asks about them.
func motionsSeen(t *testing.T) (d *desk, review bench.Review, setups []reviews.SetUp) {
	t.Helper()
	d = newDesk(t)
	review = d.review(func(r *bench.Review) { r.UnderTest = bench.IDs{"motion"} })
	for i := range 3 {
		settings := d.settings(func(p *bench.Profile) { p.Lift = bench.Moves{{MM: 4 + 2*float64(i), MMMin: 60}} })
		for k := range 4 {
			d.seen(settings.ID, 6, 6*(i/2), 30, 0.2, 30*time.Minute+time.Duration(k)*time.Second)
		}
	}
	return d, review, must(d.w.Reviews.SetUps(t.Context(), review.ID))(t)
}

// asked compares all set-ups of a review, as its page does.
func (d *desk) compared(review bench.Review, setups []reviews.SetUp) compare.Comparison {
	d.t.Helper()
	req := compare.ComparisonRequest{Question: "failure", UnderTest: review.UnderTest, PieceID: d.piece.Piece.ID, ReviewID: review.ID, Baseline: -1}
	for _, s := range setups {
		req.Sides = append(req.Sides, s.RunIDs)
	}
	return must(d.w.Reviews.Compare(d.t.Context(), req))(d.t)
}

func TestWhatWasDeclaredDecides(t *testing.T) {
	d, review, setups := motionsSeen(t)
	ctx := t.Context()
	before := d.compared(review, setups)
	failures := measure(t, before, "failures")
	if before.Baseline != 0 || before.Counted.Declared != 0 || failures.Pairs[1].Verdict == "likely" || failures.Pairs[1].CanShow {
		t.Fatalf("undeclared: baseline %d, %+v, %+v", before.Baseline, before.Counted, failures.Pairs[1])
	}
	known := must(d.w.Reviews.Decidable(ctx, review.ID))(t)
	has := func(key string) bool {
		return slices.ContainsFunc(known.Measures, func(m reviews.DecidableMeasure) bool { return m.Key == key })
	}
	if !has("failures") || !has("time") || !has("size "+d.piece.Features[0].ID) || !has("checkpoint "+d.piece.Features[2].ID) || len(known.SetUps) != 3 || known.Prints != 12 || len(known.Declared) != 0 {
		t.Fatalf("%+v", known)
	}
	against, of := setups[1].Ref(), setups[2].Ref()
	review = must(d.w.Reviews.Declare(ctx, review.ID, bench.Declaration{Measure: "failures", Against: &against, Of: &of}))(t)
	after := d.compared(review, setups)
	pair := measure(t, after, "failures").Pairs[1]
	if after.Baseline != 1 || after.Counted.Declared != 1 || !pair.Declared || pair.Verdict != "likely" {
		t.Errorf("declared: baseline %d, %+v, %+v", after.Baseline, after.Counted, pair)
	}
	if other := measure(t, after, "failures").Pairs[0]; other.Declared {
		t.Errorf("another pair decides: %+v", other)
	}
	// All against one; then nothing; what was said before stays.
	review = must(d.w.Reviews.Declare(ctx, review.ID, bench.Declaration{Measure: "time", Against: &against}))(t)
	if all := d.compared(review, setups); all.Counted.Declared != 2 {
		t.Errorf("all against one: %+v", all.Counted)
	}
	// Against another side one of these pairs is left: it is not adjusted as if it were alone.
	turned := compare.ComparisonRequest{Question: "time", PieceID: d.piece.Piece.ID, ReviewID: review.ID, Baseline: 0, Sides: [][]string{setups[0].RunIDs, setups[1].RunIDs, setups[2].RunIDs}}
	if c := must(d.w.Reviews.Compare(ctx, turned))(t); c.Counted.Declared != 0 {
		t.Errorf("against another: %+v", c.Counted)
	}
	turned.Each = true
	if c := must(d.w.Reviews.Compare(ctx, turned))(t); c.Counted.Declared != 2 {
		t.Errorf("each with each: %+v", c.Counted)
	}
	review = must(d.w.Reviews.Declare(ctx, review.ID, bench.Declaration{}))(t)
	if none := d.compared(review, setups); none.Counted.Declared != 0 || none.Baseline != 0 {
		t.Errorf("taken back: %+v", none.Counted)
	}
	text := string(must(d.w.Publish.WriteUp(ctx, review.ID))(t))
	for _, words := range []string{"### What decides", "with 12 prints of it on record, failures, all was declared to decide, for ", "time of a plate was declared to decide, for all set-ups against ", "it was declared that no measure decides."} {
		if !strings.Contains(text, words) {
			t.Errorf("the write-up does not say %q", words)
		}
	}
	for name, c := range map[string]bench.Declaration{
		"measure": {Measure: "charm", Against: &against}, "against": {Measure: "time"}, "of": {Measure: "time", Against: &against, Of: &against}, "nothing is declared": {},
	} {
		if _, err := d.w.Reviews.Declare(ctx, review.ID, c); err == nil || !strings.HasPrefix(err.Error(), name) {
			t.Errorf("%s: %v", name, err)
		}
	}
}

func TestSetUpsHaveTheNamesAndTheOrderOfTheReviewer(t *testing.T) {
	d, review, setups := motionsSeen(t)
	ctx := t.Context()
	names := bench.SetUpNames{{SetUpRef: setups[2].Ref(), Name: " Long lift "}, {SetUpRef: setups[0].Ref()}}
	review = must(d.w.Reviews.NameSetUps(ctx, review.ID, names))(t)
	named := must(d.w.Reviews.SetUps(ctx, review.ID))(t)
	if named[0].Label != "Long lift" || named[0].ProfileID != setups[2].ProfileID || named[1].ProfileID != setups[0].ProfileID || named[1].Label != setups[0].Label || named[2].ProfileID != setups[1].ProfileID {
		t.Fatalf("%+v", named)
	}
	if c := d.compared(review, named); c.Sides[0].Label != "Long lift" || c.Sides[1].Label == "" {
		t.Errorf("side A is %q", c.Sides[0].Label)
	}
	if text := string(must(d.w.Publish.WriteUp(ctx, review.ID))(t)); !strings.Contains(text, "| Long lift | Wedge |") || !strings.Contains(text, "- **A**: Long lift") {
		t.Error("the write-up does not call it so")
	}
	// A form sent back says nothing of names and declarations, and takes none away.
	against := named[0].Ref()
	review = must(d.w.Reviews.Declare(ctx, review.ID, bench.Declaration{Measure: "failures", Against: &against}))(t)
	review.SetUps, review.Deciding, review.Question = nil, nil, "Which lift?"
	review = must(d.w.Reviews.SaveReview(ctx, review))(t)
	if len(review.SetUps) != 2 || review.Deciding.Stands() == nil {
		t.Errorf("saved %+v", review)
	}
	for _, twice := range []bench.SetUpNames{{names[0], names[0]}, {names[0], {SetUpRef: setups[1].Ref(), Name: "Long lift"}}} {
		if _, err := d.w.Reviews.NameSetUps(ctx, review.ID, twice); err == nil || !strings.HasPrefix(err.Error(), "names[1]") {
			t.Errorf("%v", err)
		}
	}
}

// What is planned can be declared before it is printed.
func TestADeclarationMayComeBeforeThePrints(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	review := d.review(func(r *bench.Review) { r.UnderTest = bench.IDs{"motion"} })
	req := asked(2, nil)
	req.Levels = sixMotions
	must(d.w.Experiment.KeepPlan(ctx, review.ID, req))(t)
	known := must(d.w.Reviews.Decidable(ctx, review.ID))(t)
	if len(known.SetUps) != 6 || known.Prints != 0 {
		t.Fatalf("%+v", known)
	}
	must(d.w.Reviews.NameSetUps(ctx, review.ID, bench.SetUpNames{{SetUpRef: known.SetUps[5].Ref, Name: "Last first"}}))(t)
	if ordered := must(d.w.Reviews.Decidable(ctx, review.ID))(t).SetUps; ordered[0].Label != "Last first" || ordered[0].About == "Last first" || ordered[1].Ref != known.SetUps[0].Ref {
		t.Errorf("planned set-ups stand as %+v", ordered)
	}
	review = must(d.w.Reviews.Declare(ctx, review.ID, bench.Declaration{Measure: "failures", Against: &known.SetUps[0].Ref}))(t)
	if d := review.Deciding.Stands(); d == nil || d.Prints != 0 || d.Label != "Failures, all" {
		t.Errorf("%+v", d)
	}
	_, err := d.w.Reviews.Compare(ctx, compare.ComparisonRequest{Sides: [][]string{{"x"}, {"y"}}, Deciding: &compare.Deciding{Measure: "failures", Against: 2}})
	if err == nil || !strings.HasPrefix(err.Error(), "deciding_against") {
		t.Errorf("a side that is not there: %v", err)
	}
}

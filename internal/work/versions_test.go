package work_test

import (
	"errors"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
)

// A version that went out stays as it was; what the record would now say otherwise marks it stale, and says why; errata are added.
func TestAPublishedVersionIsFrozenGoesStaleAndIsCorrected(t *testing.T) {
	d, review := twoPriced(t)
	ctx := t.Context()
	review.Verdict = "Neither can be told from the other by these prints."
	review = must(d.w.Reviews.SaveReview(ctx, review))(t)
	first := must(d.w.Publish.Publish(ctx, review.ID, "", false))(t)
	if len(first) != 1 || first[0].Number != 1 || first[0].Questioned != 0 || len(first[0].Stale) != 0 || len(first[0].Causes) != 0 {
		t.Fatalf("%+v", first)
	}
	frozen := string(must(d.w.Publish.Published(ctx, first[0].ID))(t))
	if !strings.Contains(frozen, "Version 1 of 2026-09-") || !strings.Contains(frozen, "## The answer") || strings.Contains(frozen, "## Errata") {
		t.Error(frozen[:400])
	}

	// A price and a print that no longer counts: the figures that rest on them are named, and nothing else is.
	d.clock = d.clock.Add(time.Hour)
	priced(d, d.machine.ID, "2026-01-10", "list", 419, nil)
	got := must(d.w.Publish.Editions(ctx, review.ID))(t)[0]
	if len(got.Stale) != 1 || got.Stale[0].Name != "Ossik 7.price equipped alike" || got.Stale[0].Was != "400 €" || got.Stale[0].Is != "419 €" || strings.Join(got.Causes, "; ") != "1 price" {
		t.Fatalf("%+v", got)
	}
	row := offered(t, must(d.w.Findings.Sheet(ctx, review.ID))(t), "Barb, failures, all")
	must(d.w.Reviews.LeaveOut(ctx, review.ID, bench.LeftOut{RunID: row.Rests[0].RunIDs[0], Reason: "another batch"}))(t)
	if got = must(d.w.Publish.Editions(ctx, review.ID))(t)[0]; len(got.Stale) < 2 || !strings.Contains(strings.Join(got.Causes, "; "), "review: leave a print out (1 time)") {
		t.Fatalf("%+v", got)
	}
	if again := string(must(d.w.Publish.Published(ctx, first[0].ID))(t)); again != frozen {
		t.Error("what went out changed with the record")
	}

	// Over questioned places it goes out with a reason alone.
	review = must(d.w.Reviews.Review(ctx, review.ID))(t)
	review.Verdict = "It never fails."
	review = must(d.w.Reviews.SaveReview(ctx, review))(t)
	_, err := d.w.Publish.Publish(ctx, review.ID, " ", false)
	wantField(t, err, "why")
	both := must(d.w.Publish.Publish(ctx, review.ID, "It is a quotation.", false))(t)
	if len(both) != 2 || both[0].Number != 2 || both[0].Questioned != 1 || both[0].Why != "It is a quotation." || len(both[0].Stale) != 0 || len(both[0].Since) != len(got.Stale) || len(both[1].Stale) == 0 {
		t.Fatalf("%+v", both)
	}

	corrected := must(d.w.Publish.Correct(ctx, first[0].ID, bench.Erratum{Says: "The price was 419 €, not 400 €.", Why: "A shop had it wrong."}))(t)
	if e := corrected[1]; len(e.Errata) != 1 || e.Version != 2 || e.Errata[0].AtMS == 0 {
		t.Fatalf("%+v", e)
	}
	text, page := string(must(d.w.Publish.Published(ctx, first[0].ID))(t)), string(must(d.w.Publish.PublishedPage(ctx, first[0].ID))(t))
	if !strings.Contains(text, "## Errata\n\n- 2026-09-") || !strings.Contains(text, "The price was 419 €, not 400 €. Why: A shop had it wrong.") || !strings.Contains(text, "400 €") {
		t.Error(text[:600])
	}
	if !strings.Contains(page, `<h2 id="errata">Errata</h2>`) || strings.Count(page, "<figure>") != 2 {
		t.Error("the page of a version lacks its errata or plots")
	}
	for field, e := range map[string]bench.Erratum{"says": {Why: "x"}, "why": {Says: "x"}} {
		_, err := d.w.Publish.Correct(ctx, first[0].ID, e)
		wantField(t, err, field)
	}
	if _, err := d.w.Publish.Correct(ctx, "nothing", bench.Erratum{Says: "x", Why: "y"}); !errors.Is(err, bench.ErrNotFound) {
		t.Error(err)
	}
}

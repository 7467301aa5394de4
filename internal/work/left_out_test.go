package work_test

import (
	"bytes"
	"slices"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/work/history"
	"ojime/internal/work/reviews"
)

// odd is a review of three sides of four prints, and a fifth print of the second that took far
// longer and was lost.
func odd(t *testing.T) (d *desk, review bench.Review, runID string) {
	t.Helper()
	d, sides := three(t)
	review = d.review(func(r *bench.Review) { r.UnderTest = bench.IDs{"exposure_s"} })
	like := must(d.w.Printing.RunSheet(t.Context(), sides[1][3]))(t)
	return d, review, d.seen(like.Profile.ID, 4, 4, 30.22, 0.4, 3*time.Hour).Run.ID
}

func setUpOf(t *testing.T, d *desk, review, runID string) (s reviews.SetUp, ok bool) {
	t.Helper()
	for _, s := range must(d.w.Reviews.SetUps(t.Context(), review))(t) {
		if slices.Contains(s.RunIDs, runID) || slices.Contains(s.LeftOutIDs, runID) {
			return s, true
		}
	}
	return s, false
}

func TestAPrintLeftOutStaysOnRecordAndOutOfTheFigures(t *testing.T) {
	d, review, runID := odd(t)
	ctx := t.Context()
	after := must(d.w.Reviews.LeaveOut(ctx, review.ID, bench.LeftOut{RunID: runID, Reason: " The door stood open. "}))(t)
	if after.Version != review.Version+1 || len(after.LeftOut) != 1 || after.LeftOut[0].Reason != "The door stood open." {
		t.Fatalf("%+v", after.LeftOut)
	}
	s, ok := setUpOf(t, d, review.ID, runID)
	if !ok || len(s.RunIDs) != 4 || s.Specimens != 16 || slices.Contains(s.RunIDs, runID) {
		t.Errorf("the set-up %+v", s)
	}
	m := must(d.w.Experiment.Matrix(ctx, review.ID))(t)
	left := 0
	for _, row := range m.Rows {
		left += int(row.Cells[0].LeftOut)
	}
	if left != 1 {
		t.Errorf("%d prints left out in the matrix", left)
	}
	text := string(must(d.w.Publish.WriteUp(ctx, review.ID))(t))
	run := must(d.w.Printing.RunSheet(ctx, runID))(t).Run.Code
	for _, words := range []string{"### Prints left out", run + " of ", ": The door stood open.", "Left out of the figures: The door stood open.", " with it, "} {
		if !strings.Contains(text, words) {
			t.Errorf("the write-up does not say %q", words)
		}
	}
	reasons := 0
	for _, row := range d.table(review.ID, "runs") {
		if row["left_out"] != "" {
			reasons++
			if row["run"] != run || row["left_out"] != "The door stood open." {
				t.Errorf("the table says %q of %s", row["left_out"], row["run"])
			}
		}
	}
	if reasons != 1 {
		t.Errorf("%d reasons in the table", reasons)
	}
	// A form that was opened before says nothing of it, and undoes nothing.
	after.Question, after.LeftOut = "Which exposure?", nil
	if saved := must(d.w.Reviews.SaveReview(ctx, after))(t); len(saved.LeftOut) != 1 {
		t.Error("saving the form took the print back")
	}
	back := must(d.w.Reviews.TakeBack(ctx, review.ID, runID))(t)
	if s, _ := setUpOf(t, d, review.ID, runID); len(back.LeftOut) != 0 || len(s.RunIDs) != 5 || len(s.LeftOutIDs) != 0 {
		t.Errorf("taken back: %+v", s)
	}
	if changes := must(d.w.History.Of(ctx, "review", review.ID))(t); len(changes) < 3 || !slices.ContainsFunc(changes, func(c history.EntryChange) bool { return c.Why == "The door stood open." }) {
		t.Errorf("history %+v", changes)
	}
}

func TestLeavingOutSaysWhatItDid(t *testing.T) {
	d, review, runID := odd(t)
	ctx := t.Context()
	must(d.w.Reviews.LeaveOut(ctx, review.ID, bench.LeftOut{RunID: runID, Reason: "cold room"}))(t)
	list := must(d.w.Reviews.LeftOut(ctx, review.ID))(t)
	said := strings.Join(list[0].Effects, "\n")
	s, _ := setUpOf(t, d, review.ID, runID)
	for _, words := range []string{"Failures, all: 4 of 20 specimens over 5 prints with it, 0 of 16 specimens over 4 prints without.", "Time of a plate of 4 × Wedge: "} {
		if !strings.Contains(said, words) {
			t.Errorf("does not say %q: %s", words, said)
		}
	}
	if len(list) != 1 || list[0].SetUp != s.Label {
		t.Errorf("left out of %q: %s", list[0].SetUp, said)
	}
	// The only print of its set-up leaves nothing to compare.
	for _, id := range slices.Clone(s.RunIDs) {
		must(d.w.Reviews.LeaveOut(ctx, review.ID, bench.LeftOut{RunID: id, Reason: "cold room"}))(t)
	}
	if _, ok := setUpOf(t, d, review.ID, runID); ok {
		t.Error("a set-up with no print left is a side")
	}
	list = must(d.w.Reviews.LeftOut(ctx, review.ID))(t)
	if len(list) != 5 || !strings.HasSuffix(list[0].Effects[0], ": it is not compared.") {
		t.Errorf("%+v", list)
	}
}

// A print of what the review no longer names is neither told nor listed.
func TestWhatIsLeftOutGoesWithItsMachine(t *testing.T) {
	d, review, runID := odd(t)
	ctx := t.Context()
	after := must(d.w.Reviews.LeaveOut(ctx, review.ID, bench.LeftOut{RunID: runID, Reason: "cold"}))(t)
	after.ResinIDs = bench.IDs{}
	must(d.w.Reviews.SaveReview(ctx, after))(t)
	if list, rows := must(d.w.Reviews.LeftOut(ctx, review.ID))(t), d.table(review.ID, "runs"); len(list) != 0 || len(rows) != 0 {
		t.Errorf("told %+v, %d rows", list, len(rows))
	}
	if text := string(must(d.w.Publish.WriteUp(ctx, review.ID))(t)); strings.Contains(text, "cold") {
		t.Error("the write-up speaks of a print of another resin")
	}
}

func TestWhatIsLeftOutIsCheckedAndSurvivesAnImport(t *testing.T) {
	d, review, runID := odd(t)
	ctx := t.Context()
	for name, o := range map[string]bench.LeftOut{"no reason": {RunID: runID, Reason: "  "}, "no such print": {RunID: "nowhere", Reason: "cold"}} {
		if _, err := d.w.Reviews.LeaveOut(ctx, review.ID, o); err == nil {
			t.Errorf("%s is taken", name)
		}
	}
	if _, err := d.w.Reviews.LeaveOut(ctx, "nowhere", bench.LeftOut{RunID: runID, Reason: "cold"}); err == nil {
		t.Error("a review that is not on record leaves out")
	}
	must(d.w.Reviews.LeaveOut(ctx, review.ID, bench.LeftOut{RunID: runID, Reason: "cold"}))(t)
	text := exported(t, d.w)
	other := newEmpty(t, d)
	must(other.Record.Import(ctx, bytes.NewReader(text)))(t)
	if list := must(other.Reviews.LeftOut(ctx, review.ID))(t); len(list) != 1 || list[0].RunID != runID || list[0].Reason != "cold" {
		t.Errorf("imported %+v", list)
	}
	strange := bytes.Replace(text, []byte(`"left_out":[{"run_id":"`+runID), []byte(`"left_out":[{"run_id":"nowhere`), 1)
	if _, err := newEmpty(t, d).Record.Import(ctx, bytes.NewReader(strange)); err == nil || !strings.Contains(err.Error(), "left_out") {
		t.Errorf("a print that is not in the file: %v", err)
	}
}

package work_test

import (
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/prose"
)

// What the reviewer writes is read on every save: figures that the record has are left alone, and stand live by their names.
func TestTextsAreReadAgainstTheRecord(t *testing.T) {
	d, review := twoPriced(t)
	ctx := t.Context()
	row := offered(t, must(d.w.Findings.Sheet(ctx, review.ID))(t), "Barb, failures, all")
	picked := must(d.w.Findings.Pick(ctx, review.ID, row.Key, ""))(t).Picked[0].Finding
	must(d.w.Findings.Reword(ctx, picked.ID, picked.Version, "It never fails."))(t)
	review.Disclosure = "Ossik 7 was bought for 400 €."
	review.Verdict = "On the Barb 12 of 16 copies failed with U-01, and 6 of 8 with U-02. With the Wedge 99 % came out.\n\nThe Larch 9 is quieter. {{Barb.U-01 2 s (default).failures, all}} failed, {{Barb.nobody}} did not."
	review.NotTested = "Noise was not tested."
	review = must(d.w.Reviews.SaveReview(ctx, review))(t)
	sheet := must(d.w.Texts.Sheet(ctx, review.ID))(t)
	var said []string
	for _, text := range sheet.Texts {
		for _, r := range text.Remarks {
			said = append(said, text.Field+": "+r.Rule+" "+r.Text)
		}
	}
	want := []string{"verdict: " + prose.Number + " 99 %", "verdict: " + prose.Name + " Larch 9", "verdict: " + prose.NoBase + " quieter", "verdict: " + prose.Unmeasured + " quieter", "verdict: " + prose.Number + " {{Barb.nobody}}", "finding N-01: " + prose.Absolute + " never"}
	if strings.Join(said, "\n") != strings.Join(want, "\n") {
		t.Errorf("%s", strings.Join(said, "\n"))
	}
	live := map[string]string{}
	for _, f := range sheet.Figures {
		live[f.Name] = f.Says
	}
	if live["Barb.U-01 2 s (default).failures, all"] != "75 %" || live["Ossik 7.price equipped alike"] != "" && live["Ossik 7.price equipped alike"] != "400 €" {
		t.Errorf("%v", live)
	}
	text := string(must(d.w.Publish.WriteUp(ctx, review.ID))(t))
	if !strings.Contains(text, "75 % failed, \\[no such figure: Barb.nobody\\] did not.") {
		t.Error(text[:2000])
	}
	// Another print fails: the live figure follows.
	must(d.w.Reviews.LeaveOut(ctx, review.ID, bench.LeftOut{RunID: row.Rests[1].RunIDs[0], Reason: "by mistake"}))(t)
	if text := string(must(d.w.Publish.WriteUp(ctx, review.ID))(t)); !strings.Contains(text, "75 % failed") {
		t.Error("the live figure is gone")
	}
}

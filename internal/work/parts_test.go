package work_test

import (
	"slices"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/work/publish"
	"ojime/internal/work/texts"
)

// headings are the chapters of a write-up in their order.
func headings(text string) (out []string) {
	for _, line := range strings.Split(text, "\n") {
		if name, ok := strings.CutPrefix(line, "## "); ok {
			out = append(out, name)
		}
	}
	return out
}

func namesOf(parts []publish.WriteUpPart) (out []string) {
	for _, p := range parts {
		out = append(out, p.Name)
	}
	return out
}

// Parts are moved, left out and written between; what is left out although there is something to say is named at the end, and
// a form sent back keeps all of it.
func TestTheWriteUpStandsInTheOrderOfItsReviewer(t *testing.T) {
	d, review := twoPriced(t)
	ctx := t.Context()
	before := must(d.w.Publish.Parts(ctx, review.ID))(t)
	if before.Parts[0].Name != "The answer" || !slices.Contains(namesOf(before.Each), "Figures") || len(before.Parts) < 20 {
		t.Fatalf("%v, %v", namesOf(before.Parts), namesOf(before.Each))
	}
	if at := slices.IndexFunc(before.Parts, func(p publish.WriteUpPart) bool { return p.Key == "claims" }); !before.Parts[at].Empty {
		t.Error("nothing is claimed, and the part is not empty")
	}
	blocks := bench.Blocks{
		{Key: "disclosure"}, {Key: "own-1", Title: "Why *I* ask", Text: "Failures were {{Barb.Ossik 7 A.failures, all}}.\n\n# No heading"}, {Key: "answer"}, {Key: "data"}, {Key: "money", Out: true}, {Key: "claims", Out: true},
		{Key: "each_figures", Out: true}, {Key: "each_shows"}, {Key: "each_fairness"},
	}
	saved := must(d.w.Reviews.WriteUpAs(ctx, review.ID, review.Version, blocks))(t)
	text := string(must(d.w.Publish.WriteUp(ctx, review.ID))(t))
	if got := headings(text)[:3]; !slices.Equal(got, []string{"Disclosure", `Why \*I\* ask`, "The answer"}) {
		t.Errorf("%q", got)
	}
	if strings.Contains(text, "## Money") || strings.Contains(text, "### Figures") || !strings.Contains(text, `\# No heading`) {
		t.Error("parts that were left out stand, or what was typed made a heading")
	}
	if strings.Index(text, "### What they show") > strings.Index(text, "### How fair") {
		t.Error("the parts of each comparison are not in their order")
	}
	if !strings.Contains(text, "left these parts of the write-up out, though the record has something for them: Figures, Money.") {
		t.Error(text[len(text)-900:])
	}
	page := string(must(d.w.Publish.Page(ctx, review.ID))(t))
	if !strings.Contains(page, "Why *I* ask</h2>") || !strings.Contains(page, "Sides of Wedge with their intervals") {
		t.Error("the page lacks what was written between, or a plot")
	}

	// A form that knows nothing of the parts keeps them; one that is behind does not overwrite them.
	saved.Verdict = "Another word."
	after := must(d.w.Reviews.SaveReview(ctx, saved))(t)
	if len(after.Blocks) != len(blocks) {
		t.Errorf("%d parts of %d are left", len(after.Blocks), len(blocks))
	}
	if _, err := d.w.Reviews.WriteUpAs(ctx, review.ID, review.Version, nil); err == nil {
		t.Error("an old version overwrote the order")
	}
	read := must(d.w.Texts.Sheet(ctx, review.ID))(t)
	if !slices.ContainsFunc(read.Texts, func(x texts.TextRead) bool { return x.Field == "block own-1" }) {
		t.Error("what was written between is not read over the shoulder")
	}
}

// An order that was changed is put back as it was, and so is a name of a set-up.
func TestTheOrderOfAWriteUpIsPutBack(t *testing.T) {
	d, review := twoPriced(t)
	ctx := t.Context()
	first := bench.Blocks{{Key: "disclosure", Pictures: bench.BlockPictures{}}, {Key: "own-1", Text: "First.", Pictures: bench.BlockPictures{}}}
	review = must(d.w.Reviews.WriteUpAs(ctx, review.ID, review.Version, first))(t)
	review = must(d.w.Reviews.WriteUpAs(ctx, review.ID, review.Version, bench.Blocks{{Key: "own-1", Text: "Second."}}))(t)
	must(d.w.History.PutBack(ctx, d.last("review", review.ID).ID, ""))(t)
	if got := must(d.w.Reviews.Review(ctx, review.ID))(t); len(got.Blocks) != 2 || got.Blocks[1].Text != "First." || got.Question != review.Question {
		t.Errorf("%+v", got.Blocks)
	}
	setups := must(d.w.Reviews.SetUps(ctx, review.ID))(t)
	must(d.w.Reviews.NameSetUps(ctx, review.ID, bench.SetUpNames{{SetUpRef: setups[0].Ref(), Name: "Mine"}}))(t)
	must(d.w.History.PutBack(ctx, d.last("review", review.ID).ID, ""))(t)
	if got := must(d.w.Reviews.Review(ctx, review.ID))(t); len(got.SetUps) != 0 || len(got.Blocks) != 2 {
		t.Errorf("%+v, %+v", got.SetUps, got.Blocks)
	}
}

func TestWhatMakesNoSenseOfPartsIsNamed(t *testing.T) {
	d, review := twoPriced(t)
	for field, blocks := range map[string]bench.Blocks{
		"blocks[1].key":                       {{Key: "money"}, {Key: "money", Out: true}},
		"blocks[0].text":                      {{Key: "own-1", Text: "  "}},
		"blocks[1].text":                      {{Key: "answer"}, {Key: "money", Text: "mine"}},
		"blocks[0].pictures[0].photograph_id": {{Key: "own-1", Pictures: bench.BlockPictures{{PhotographID: "none"}}}},
	} {
		_, err := d.w.Reviews.WriteUpAs(t.Context(), review.ID, review.Version, blocks)
		wantField(t, err, field)
	}
}

// What a review leaves open stands in its write-up and comes up until it is answered.
func TestWhatIsLeftOpenIsAnswered(t *testing.T) {
	d, review := twoPriced(t)
	ctx := t.Context()
	_, err := d.w.Reviews.FollowUp(ctx, review.ID, bench.FollowUp{Question: "Does it hold?", DueDay: "next year"})
	wantField(t, err, "due_day")
	_, err = d.w.Reviews.FollowUp(ctx, review.ID, bench.FollowUp{Question: " ", DueDay: "2027-01-01"})
	wantField(t, err, "question")
	must(d.w.Reviews.FollowUp(ctx, review.ID, bench.FollowUp{Question: "Does the film hold a year?", DueDay: "2027-05-01"}))(t)
	list := must(d.w.Reviews.FollowUp(ctx, review.ID, bench.FollowUp{Question: "Is the lid mended?", DueDay: "2026-01-02"}))(t)
	if len(list) != 2 || list[0].Question != "Is the lid mended?" {
		t.Fatalf("%+v", list)
	}
	said := func() string { return string(must(d.w.Publish.WriteUp(ctx, review.ID))(t)) }
	if !strings.Contains(said(), "- Is the lid mended? To be answered by 2026-01-02.") {
		t.Error("the write-up does not say what is open")
	}
	due := func() bool {
		for _, s := range must(d.w.BenchView.Bench(ctx))(t).Next {
			if strings.Contains(s.Title, "Is the lid mended?") {
				return true
			}
			if strings.Contains(s.Title, "a year") {
				t.Error("what is not due yet came up")
			}
		}
		return false
	}
	if !due() {
		t.Error("the bench does not show what is due")
	}
	list = must(d.w.Reviews.AnswerFollowUp(ctx, list[0].ID, list[0].Version, list[0].DueDay, "It is, by a new hinge."))(t)
	if due() || list[0].AnsweredMS == nil || !strings.Contains(said(), "It is, by a new hinge.") {
		t.Errorf("%+v", list)
	}
	if _, err := d.w.Reviews.AnswerFollowUp(ctx, list[0].ID, 1, list[0].DueDay, ""); err == nil {
		t.Error("an old version overwrote the answer")
	}
	if must(d.w.Reviews.AnswerFollowUp(ctx, list[0].ID, list[0].Version, list[0].DueDay, ""))(t)[0].AnsweredMS != nil || !due() {
		t.Error("what was opened again does not come up")
	}
}

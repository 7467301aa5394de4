package work_test

import (
	"bytes"
	"image/png"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/work/photographs"
)

// The script tells the findings in their order, each with how sure it is and what to show; the sheet has each set of settings
// whole; a finding is a picture.
func TestAReviewIsToldRepeatedAndShown(t *testing.T) {
	d, review := twoPriced(t)
	ctx := t.Context()
	row := offered(t, must(d.w.Findings.Sheet(ctx, review.ID))(t), "Barb, failures, all")
	must(d.w.Findings.Pick(ctx, review.ID, row.Key, ""))(t)
	sheet := must(d.w.Findings.Pick(ctx, review.ID, "", "The lid creaks."))(t)
	must(d.w.Disclosure.Tie(ctx, bench.Interest{MachineID: &d.machine.ID, How: "lent", Whom: "its maker"}))(t)
	must(d.w.Reviews.FollowUp(ctx, review.ID, bench.FollowUp{Question: "Does it last?", DueDay: "2027-01-01"}))(t)

	script := string(must(d.w.Publish.Script(ctx, review.ID))(t))
	at := -1
	for _, want := range []string{"# To be told: " + review.Question, "at 150 words a minute", "Say before anything else: Ossik 7: lent by its maker.", "## 2. Failures, all, Barb", "- How sure: ", "- Show: the plot of Barb.", "- Where it holds: ",
		"## 3. In your own words", "- Say: The lid creaks.", "- How sure: looked.", "## 4. What nobody knows yet", "Still open, until 2027-01-01: Does it last?"} {
		next := strings.Index(script, want)
		if next <= at {
			t.Errorf("%q stands at %d, after %d", want, next, at)
		}
		at = next
	}
	settings := string(must(d.w.Publish.SettingsSheet(ctx, review.ID))(t))
	for _, want := range []string{"<title>Settings to repeat: ", "µm layers</li>", "exposure ", " failed, in "} {
		if !strings.Contains(settings, want) {
			t.Errorf("the settings sheet lacks %q", want)
		}
	}
	for _, p := range sheet.Picked {
		for shape, width := range map[string]int{"wide": 1200, "tall": 1080} {
			img := must(png.Decode(bytes.NewReader(must(d.w.Publish.Card(ctx, p.Finding.ID, shape))(t))))(t)
			if img.Bounds().Dx() != width {
				t.Errorf("%s is %d px wide", shape, img.Bounds().Dx())
			}
		}
	}
	if _, err := d.w.Publish.Card(ctx, sheet.Picked[0].Finding.ID, "round"); err == nil {
		t.Error("a card of no shape was drawn")
	}
}

// Photographs that show the same stand side by side, those that the reviewer chose with their captions; one that was erased is
// said to be gone, also from a version that went out with it.
func TestPicturesStandInTheWriteUp(t *testing.T) {
	d, review := twoPriced(t)
	ctx := t.Context()
	setups := must(d.w.Reviews.SetUps(ctx, review.ID))(t)
	run := must(d.w.Printing.RunSheet(ctx, setups[0].RunIDs[0]))(t)
	p := d.photographed(run, 0, edgePNG(t, 2), func(*photographs.Taken) {})
	review = must(d.w.Reviews.WriteUpAs(ctx, review.ID, review.Version, bench.Blocks{{Key: "answer"}, {Key: "own-1", Title: "Seen", Pictures: bench.BlockPictures{{PhotographID: p.ID, Caption: "The edge, <crisp>"}}}}))(t)
	text := string(must(d.w.Publish.WriteUp(ctx, review.ID))(t))
	if !strings.Contains(text, "![The edge, &lt;crisp&gt; ("+p.Code+" of ") || !strings.Contains(text, "](photographs/"+p.Code+".jpg)") {
		t.Error(text[:900])
	}
	page := string(must(d.w.Publish.Page(ctx, review.ID))(t))
	if !strings.Contains(page, `<img src="data:image/jpeg;base64,`) || !strings.Contains(page, "<figcaption>The edge, &lt;crisp&gt; (") || strings.Contains(page, `src="photographs/`) {
		t.Error("the page does not show the picture with its caption")
	}
	if parts := must(d.w.Publish.Parts(ctx, review.ID))(t); len(parts.Photographs) != 1 || parts.Photographs[0].Code != p.Code {
		t.Errorf("%+v", parts.Photographs)
	}
	went := must(d.w.Publish.Publish(ctx, review.ID, "as it stands", false))(t)[0]
	must(d.w.Photographs.TakeBack(ctx, p.ID, "A face is on it.", true))(t)
	for what, page := range map[string]string{"the page": string(must(d.w.Publish.Page(ctx, review.ID))(t)), "the version": string(must(d.w.Publish.PublishedPage(ctx, went.ID))(t))} {
		if strings.Contains(page, "<img") {
			t.Errorf("%s still shows what was erased", what)
		}
		if what == "the version" && !strings.Contains(page, "The picture is not here any more.") {
			t.Error("the version does not say that its picture is gone")
		}
	}
}

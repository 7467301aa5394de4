package work_test

import (
	"regexp"
	"strings"
	"testing"

	"ojime/internal/bench"
)

// The page holds all that the Markdown says, needs nothing from elsewhere, runs nothing, and lets nothing that was typed be more
// than text.
func TestThePageStandsByItself(t *testing.T) {
	d, review := twoPriced(t)
	review.Verdict = "First.\n\n<script>alert(1)</script> & [a link](javascript:alert(1))"
	review = must(d.w.Reviews.SaveReview(t.Context(), review))(t)
	page := string(must(d.w.Publish.Page(t.Context(), review.ID))(t))
	for _, want := range []string{"<!doctype html>", "<title>" + review.Question + "</title>", `<h2 id="the-answer">The answer</h2>`, `<a href="#the-answer">The answer</a>`, "&lt;script&gt;alert(1)&lt;/script&gt; &amp; [a link](javascript:alert(1))",
		`<svg viewBox="0 0 760 `, "Sides of Wedge with their intervals", "prefers-color-scheme: dark", "@media print", "font/woff2;base64,", `class="wide" tabindex="0"`} {
		if !strings.Contains(page, want) {
			t.Errorf("the page lacks %q", want)
		}
	}
	for _, never := range []*regexp.Regexp{regexp.MustCompile(`<script`), regexp.MustCompile(`(src|href)="https?:`), regexp.MustCompile(`url\(https?:`), regexp.MustCompile(` on\w+="`), regexp.MustCompile(`<th[^>]*></th>`), regexp.MustCompile(`NaN|Inf`)} {
		if found := never.FindString(page); found != "" {
			t.Errorf("the page has %q", found)
		}
	}
	// Each heading of the text is a heading of the page, and each plot stands before its table.
	text := string(must(d.w.Publish.WriteUp(t.Context(), review.ID))(t))
	if md, html := strings.Count(text, "\n## "), strings.Count(page, "<h2 id="); md != html || md < 5 {
		t.Errorf("%d headings in the text, %d on the page", md, html)
	}
	if plots, tables := strings.Count(page, "<figure>"), strings.Count(text, "\n### Figures"); plots != tables || plots != 2 {
		t.Errorf("%d plots for %d tables of figures", plots, tables)
	}
}

// A review that nothing was printed for is a page, too.
func TestAPageOfNothingYet(t *testing.T) {
	d := newDesk(t)
	review := d.review(func(r *bench.Review) { r.Question = "A > B?" })
	page := string(must(d.w.Publish.Page(t.Context(), review.ID))(t))
	if !strings.Contains(page, "<title>A &gt; B?</title>") || !strings.Contains(page, "Not written yet.") || strings.Contains(page, "<figure>") {
		t.Error(page[len(page)-3000:])
	}
}

package publish

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/edition"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// Edition is a version of a review as it went out, without its text: Stale are its figures that the record would now give
// otherwise, Causes what came on record since, and Since what changed from the version before it.
type Edition struct {
	ID         string           `json:"id"`
	Version    int64            `json:"version"`
	Number     int64            `json:"number"`
	AtMS       int64            `json:"at_ms"`
	Questioned int64            `json:"questioned"`
	Why        string           `json:"why"`
	Errata     bench.Errata     `json:"errata"`
	Stale      []edition.Change `json:"stale"`
	Causes     []string         `json:"causes"`
	Since      []edition.Change `json:"since"`
}

type editionsKey struct{ review string }

// Editions lists the versions of a review, the newest first.
func (w *Tasks) Editions(ctx context.Context, reviewID string) (out []Edition, err error) {
	at := w.Store.Changes() // before the article is read: it may be older than what comes meanwhile, never newer than it says
	now, err := w.article(ctx, reviewID)
	if err != nil {
		return nil, err
	}
	return task.Recall(&w.Memory, at, editionsKey{reviewID}, func() ([]Edition, error) {
		err = w.Store.Read(ctx, func(t *store.Tx) error {
			out, err = editionsOf(t, reviewID, now.figures)
			return err
		})
		return out, err
	})
}

func editionsOf(t *store.Tx, reviewID string, now []edition.Figure) ([]Edition, error) {
	all, err := t.PublicationsOfReview(reviewID)
	if err != nil {
		return nil, err
	}
	out := []Edition{}
	for i, p := range all {
		e := Edition{ID: p.ID, Version: p.Version, Number: p.Number, AtMS: p.AtMS, Questioned: p.Questioned, Why: p.Why, Errata: p.Errata, Stale: edition.Changes(p.Figures, now), Causes: []string{}, Since: []edition.Change{}}
		if i > 0 {
			e.Since = edition.Changes(all[i-1].Figures, p.Figures)
		}
		if len(e.Stale) > 0 {
			if e.Causes, err = causesSince(t, p.AtMS); err != nil {
				return nil, err
			}
		}
		out = append([]Edition{e}, out...)
	}
	return out, nil
}

// mostCauses is how many of the newest changes of the record are looked through for what made a version stale.
const mostCauses = 100

// causesSince is what came on record after an instant that figures may rest on, in words.
func causesSince(t *store.Tx, sinceMS int64) ([]string, error) {
	out := []string{}
	prices, err := t.Prices()
	if err != nil {
		return nil, err
	}
	n := int64(0)
	for _, p := range prices {
		if p.AtMS > sinceMS || p.TakenBackMS != nil && *p.TakenBackMS > sinceMS {
			n++
		}
	}
	if n > 0 {
		out = append(out, say.Counted(n, "price"))
	}
	changes, err := t.NewestAmendments("", mostCauses, 0)
	if err != nil {
		return nil, err
	}
	var kinds []string
	counts := map[string]int64{}
	for _, c := range changes {
		if c.AtMS <= sinceMS || c.Kind == "publication" || c.Kind == "follow_up" {
			continue
		}
		what := say.Words(c.Kind) + ": " + c.Command
		if counts[what]++; counts[what] == 1 {
			kinds = append(kinds, what)
		}
	}
	for _, what := range kinds {
		out = append(out, fmt.Sprintf("%s (%s)", what, say.Counted(counts[what], "time")))
	}
	return out, nil
}

// Publish freezes the review as it stands as its next version. Where places in it are questioned it asks why it goes out over
// them; the reason is kept with it. Where parts of it can't be worked out it lists them and asks to be confirmed.
func (w *Tasks) Publish(ctx context.Context, reviewID, why string, confirmed bool) ([]Edition, error) {
	a, err := w.article(ctx, reviewID)
	if err != nil {
		return nil, err
	}
	why = strings.TrimSpace(why)
	if a.questioned > 0 && why == "" {
		return nil, quantity.Errorf("why", "is missing: %s in your text %s questioned; mend them, or say why they stand", say.Counted(a.questioned, "place"), map[bool]string{true: "is", false: "are"}[a.questioned == 1])
	}
	if len(a.gaps) > 0 && !confirmed {
		return nil, bench.Questioned("parts", "can't all be worked out. It goes out without: %s", gapWords(a.gaps))
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) ([]Edition, error) {
		before, err := t.PublicationsOfReview(reviewID)
		if err != nil {
			return nil, err
		}
		p := bench.Publication{Version: 1, ReviewID: reviewID, Number: int64(len(before)) + 1, AtMS: w.NowMS(), Title: a.title, Text: string(a.text), Plots: bench.PublishedPlots{}, Figures: a.figures, Prints: int64(a.prints), Questioned: a.questioned, Why: why, Errata: bench.Errata{}, Pictures: usedBy(a.pictures)}
		for _, drawing := range a.plots {
			p.Plots = append(p.Plots, bench.PublishedPlot{Drawing: drawing})
		}
		if p.ID, err = w.NewID(); err != nil {
			return nil, err
		}
		if beyond := bench.Beyond(p); len(beyond) > 0 {
			return nil, beyond[0]
		}
		if err := t.SavePublication(p); err != nil {
			return nil, err
		}
		return editionsOf(t, reviewID, a.figures)
	})
}

// gapWords lists what a review goes out without.
func gapWords(gaps quantity.Gaps) string {
	words := make([]string, len(gaps))
	for i, g := range gaps {
		words[i] = g.Part + " (" + strings.TrimSuffix(g.Why, ".") + ")"
	}
	return strings.Join(words, "; ") + "."
}

// Correct adds an erratum to a version that went out.
func (w *Tasks) Correct(ctx context.Context, id string, e bench.Erratum) ([]Edition, error) {
	p, err := task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Publication, error) {
		before, err := t.Publication(id)
		if err != nil {
			return before, err
		}
		e.AtMS, e.Says, e.Why = w.NowMS(), strings.TrimSpace(e.Says), strings.TrimSpace(e.Why)
		if err := e.Check(); err != nil {
			return before, err
		}
		after := before
		after.Version, after.Errata = before.Version+1, append(slices.Clone(before.Errata), e)
		short := func(p bench.Publication) bench.Publication { // the history needs no second copy of the text
			p.Text, p.Plots, p.Figures = "", nil, nil
			return p
		}
		if err := w.Note(t, "publication", id, "add an erratum", e.Why, short(before), short(after)); err != nil {
			return before, err
		}
		return after, t.SavePublication(after)
	})
	if err != nil {
		return nil, err
	}
	return w.Editions(ctx, p.ReviewID)
}

// Published is a version of a review as Markdown, its errata first.
func (w *Tasks) Published(ctx context.Context, id string) ([]byte, error) {
	p, err := task.ReadOne(ctx, w.Base, id, (*store.Tx).Publication)
	return []byte(withErrata(p)), err
}

// PublishedPage is a version of a review as one HTML file.
func (w *Tasks) PublishedPage(ctx context.Context, id string) ([]byte, error) {
	p, err := task.ReadOne(ctx, w.Base, id, (*store.Tx).Publication)
	if err != nil {
		return nil, err
	}
	page := webPage{text: []byte(withErrata(p)), title: p.Title, pictures: p.Pictures, prints: int(p.Prints), atMS: p.AtMS}
	for _, plot := range p.Plots {
		page.plots = append(page.plots, plot.Drawing)
	}
	return w.pageOf(page)
}

// withErrata is the text of a version with its errata under its title.
func withErrata(p bench.Publication) string {
	var b strings.Builder
	title, rest, _ := strings.Cut(p.Text, "\n")
	fmt.Fprintf(&b, "%s\n\nVersion %d of %s.\n", title, p.Number, say.Day(p.AtMS))
	if len(p.Errata) > 0 {
		b.WriteString("\n## Errata\n\n")
		for _, e := range p.Errata {
			fmt.Fprintf(&b, "- %s: %s Why: %s\n", say.Day(e.AtMS), inline(e.Says), inline(e.Why))
		}
	}
	b.WriteString(rest)
	return b.String()
}

package publish

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/contest"
	"ojime/internal/core/finding"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/cards"
	"ojime/internal/work/findings"
	"ojime/internal/work/reviews"
)

// Card is a finding as a PNG picture, wide (1200 × 675 px) or tall (1080 × 1350 px).
func (w *Tasks) Card(ctx context.Context, findingID, shape string) (out []byte, err error) {
	size, known := cards.Shapes[shape]
	if !known {
		return nil, fmt.Errorf("card %q: %w", shape, bench.ErrNotFound)
	}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		f, err := t.Finding(findingID)
		if err != nil {
			return err
		}
		of, err := w.sheetOf(t, f.ReviewID)
		if err != nil {
			return err
		}
		at := slices.IndexFunc(of.Findings, func(p findings.PickedFinding) bool { return p.Finding.ID == findingID })
		if at < 0 {
			return fmt.Errorf("finding %s was taken back: %w", f.Code, bench.ErrNotFound)
		}
		out, err = draftCard(of.Findings[at], of, w.NowMS()).PNG(size)
		return err
	})
	return out, err
}

func draftCard(f findings.PickedFinding, of sheet, nowMS int64) cards.Card {
	out := cards.Card{Question: of.Review.Question, Says: f.Says, Grade: finding.Means(f.Grade()), Foot: say.Day(nowMS)}
	if f.Now == nil {
		if f.Finding.Own() {
			out.Scope = "Seen by the reviewer, and rests on no figure."
		}
		return out
	}
	out.Scope = "Found on " + f.Now.Scope
	if len(f.Now.Disclosure) > 0 {
		out.Foot = strings.Join(f.Now.Disclosure, "; ") + ". " + out.Foot
	}
	for _, r := range f.Now.Rests {
		out.Sides = append(out.Sides, cards.Side{Name: r.Name, Figure: r.Figure})
	}
	if c := contestOf(f.Finding, of); c != nil && len(f.Finding.Sides) == len(out.Sides) {
		place(&out, f.Finding, *c)
	}
	return out
}

// contestOf is the comparison that a finding is a row of; nil where it is none.
func contestOf(f bench.Finding, of sheet) *reviews.Contest {
	if f.Measure == "" {
		return nil
	}
	if f.PieceID == "" {
		return of.together
	}
	for i, c := range of.contested {
		if c.PieceID == f.PieceID {
			return &of.contested[i]
		}
	}
	return nil
}

// place puts the sides of a finding where their values lie.
func place(c *cards.Card, f bench.Finding, of reviews.Contest) {
	for _, result := range of.Results {
		for _, m := range result.Measures {
			if m.Key != f.Measure {
				continue
			}
			c.Measure = m.Label
			for i, ref := range f.Sides {
				at := slices.IndexFunc(of.SetUps, func(s reviews.SetUp) bool { return s.Ref() == ref })
				if at >= 0 && at < len(m.Sides) {
					lay(&c.Sides[i], m.Sides[at])
				}
			}
			return
		}
	}
}

func lay(s *cards.Side, e contest.Estimate) {
	if s.Value = e.Value; e.Value != nil && e.CI != nil {
		s.Low, s.High = &e.CI[0], &e.CI[1]
	}
}

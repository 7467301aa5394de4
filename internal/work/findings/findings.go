// Package findings offers what a review's comparisons and panels found as sentences with a grade, and keeps those that the
// reviewer picked, in the reviewer's order and words.
package findings

import (
	"cmp"
	"context"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/finding"
	"ojime/internal/store"
	"ojime/internal/work/disclosure"
	"ojime/internal/work/printing"
	"ojime/internal/work/reviews"
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
}

// New makes them.
func New(base *task.Base) *Tasks { return &Tasks{base} }

// FoundRow is what a comparison or a panel offers as a finding, as the record gives it now.
type FoundRow struct {
	// Key names the row among those of its review.
	Key      string   `json:"key"`
	Question string   `json:"question"`
	Sentence string   `json:"sentence"`
	Grade    string   `json:"grade" enum:"showed,suggests,looked,cannot_tell,not_tested"`
	Because  []string `json:"because"`
	// Scope is on what it was found; Disclosure who has an interest in the machines it is about.
	Scope      string   `json:"scope"`
	Disclosure []string `json:"disclosure"`
	// Fair is the grade of the audit, empty where nothing was audited, Beside what it found to weigh.
	Fair   string   `json:"fair"`
	Beside []string `json:"beside"`
	// Rests are the sides with the prints that it rests on, Link where the row stands.
	Rests []FoundSide `json:"rests"`
	Link  string      `json:"link"`

	of bench.Finding
}

// FoundSide is a side that a finding rests on, with its prints and what was read of them.
type FoundSide struct {
	Name     string   `json:"name"`
	Label    string   `json:"label"`
	Figure   string   `json:"figure"`
	RunIDs   []string `json:"run_ids"`
	Runs     []string `json:"runs"`
	Readings int64    `json:"readings"`
}

// PickedFinding is a finding of a review: as it was picked, as the record gives it now, and what is published.
type PickedFinding struct {
	Finding bench.Finding `json:"finding"`
	Says    string        `json:"says"`
	Now     *FoundRow     `json:"now"`
	// Changed says why the sentence or its grade is no longer the one that was picked; empty where it is.
	Changed string `json:"changed"`
}

// Grade is that of the finding as the record gives it now; the reviewer's own word, and one whose row is gone, keep
// theirs.
func (p PickedFinding) Grade() string {
	if p.Now != nil {
		return p.Now.Grade
	}
	return p.Finding.Grade
}

// FindingsSheet is the findings of a review, and what else it could say. Offered stand the strongest first.
type FindingsSheet struct {
	Picked  []PickedFinding `json:"picked"`
	Offered []FoundRow      `json:"offered"`
}

type sheetKey struct{ review string }

// Sheet reads the findings of a review and what its comparisons and panels offer.
func (w *Tasks) Sheet(ctx context.Context, reviewID string) (out FindingsSheet, err error) {
	return task.Recall(&w.Memory, w.Store.Changes(), sheetKey{reviewID}, func() (FindingsSheet, error) {
		err = w.Store.Read(ctx, func(t *store.Tx) error {
			out, err = SheetOf(t, reviewID)
			return err
		})
		return out, err
	})
}

// SheetOf is Sheet within a transaction.
func SheetOf(t *store.Tx, reviewID string) (FindingsSheet, error) {
	rows, err := offeredBy(t, reviewID)
	if err != nil {
		return FindingsSheet{}, err
	}
	return arrange(t, reviewID, rows)
}

// offeredBy are all rows that the comparisons and panels of a review give.
func offeredBy(t *store.Tx, reviewID string) ([]FoundRow, error) {
	review, err := t.Review(reviewID)
	if err != nil {
		return nil, err
	}
	setups, err := reviews.SetUps(t, review)
	if err != nil {
		return nil, err
	}
	reader := printing.NewReader(t)
	contests, together, err := reviews.All(t, reader, review, setups)
	if err != nil {
		return nil, err
	}
	return rowsIn(t, review, setups, contests, together)
}

func rowsIn(t *store.Tx, review bench.Review, setups []reviews.SetUp, contests []reviews.Contest, together *reviews.Contest) (out []FoundRow, err error) {
	disclosed, err := disclosure.Of(t, review)
	if err != nil {
		return nil, err
	}
	ties := interests(disclosed)
	for _, c := range contests {
		out = append(out, rowsOf(review, c, ties)...)
	}
	if together != nil {
		out = append(out, rowsOf(review, *together, ties)...)
	}
	voted, err := panelRows(t, review, setups, ties)
	return append(out, voted...), err
}

// Of is the sheet of a review whose contests are known already.
func Of(t *store.Tx, review bench.Review, setups []reviews.SetUp, contests []reviews.Contest, together *reviews.Contest) (FindingsSheet, error) {
	rows, err := rowsIn(t, review, setups, contests, together)
	if err != nil {
		return FindingsSheet{}, err
	}
	return arrange(t, review.ID, rows)
}

// arrange parts what was picked from what is still offered.
func arrange(t *store.Tx, reviewID string, rows []FoundRow) (FindingsSheet, error) {
	out := FindingsSheet{Picked: []PickedFinding{}, Offered: slices.Clone(rows)}
	if rows == nil {
		out.Offered = []FoundRow{}
	}
	kept, err := t.FindingsOfReview(reviewID)
	if err != nil {
		return out, err
	}
	for _, f := range kept {
		p := PickedFinding{Finding: f, Says: f.Says(f.Original)}
		if at := slices.IndexFunc(out.Offered, func(r FoundRow) bool { return same(r.of, f) }); at >= 0 {
			row := out.Offered[at]
			p.Now, p.Says = &row, f.Says(row.Sentence)
		}
		p.Changed = changed(p)
		out.Picked = append(out.Picked, p)
	}
	out.Offered = slices.DeleteFunc(out.Offered, func(r FoundRow) bool {
		return slices.ContainsFunc(kept, func(f bench.Finding) bool { return same(r.of, f) })
	})
	slices.SortStableFunc(out.Offered, func(a, b FoundRow) int { return cmp.Compare(finding.Rank(a.Grade), finding.Rank(b.Grade)) })
	return out, nil
}

// same reports findings that rest on the same row, whichever of its two sides stands first.
func same(a, b bench.Finding) bool {
	if a.PanelID != nil || b.PanelID != nil {
		return a.PanelID != nil && b.PanelID != nil && *a.PanelID == *b.PanelID && a.PanelRow == b.PanelRow
	}
	if a.Own() || b.Own() || a.PieceID != b.PieceID || a.Measure != b.Measure || len(a.Sides) != 2 || len(b.Sides) != 2 {
		return false
	}
	return a.Sides[0] == b.Sides[0] && a.Sides[1] == b.Sides[1] || a.Sides[0] == b.Sides[1] && a.Sides[1] == b.Sides[0]
}

// changed says what became of a finding since it was picked.
func changed(p PickedFinding) string {
	f := p.Finding
	switch {
	case f.Own():
		return ""
	case p.Now == nil:
		return "The comparison of this review no longer has this row: a set-up, piece or panel is gone, or another side is the one that all are set against. It stands as it was picked."
	case p.Now.Grade != f.Grade:
		return "When it was picked it was graded " + words(f.Grade) + ": " + f.Original
	case p.Now.Sentence != f.Original:
		return "When it was picked it read: " + f.Original
	}
	return ""
}

// Measure is the key of the measure that a row is of; empty of a panel.
func (r FoundRow) Measure() string { return r.of.Measure }

// Package texts reads what the reviewer wrote in a review against the record, and puts live figures into it.
package texts

import (
	"context"
	"fmt"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/prose"
	"ojime/internal/store"
	"ojime/internal/work/findings"
	"ojime/internal/work/ledger"
	"ojime/internal/work/money"
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

// TextRead is a text of a review with what there is to question about it. Field names it: disclosure, verdict, not_tested, finding
// with its code, or block and caption with the key of their part.
type TextRead struct {
	Field   string         `json:"field"`
	Label   string         `json:"label"`
	Text    string         `json:"text"`
	Remarks []prose.Remark `json:"remarks"`
}

// LiveFigure is a figure of the record by the name that may stand in text, in double braces, with what it says now.
type LiveFigure struct {
	Name string `json:"name"`
	Says string `json:"says"`
}

// TextsSheet is what the reviewer wrote in a review, read; Figures are those that may stand live in it.
type TextsSheet struct {
	Texts   []TextRead   `json:"texts"`
	Figures []LiveFigure `json:"figures"`
}

type sheetKey struct{ review string }

// Sheet reads the texts of a review.
func (w *Tasks) Sheet(ctx context.Context, reviewID string) (out TextsSheet, err error) {
	return task.Recall(&w.Memory, w.Store.Changes(), sheetKey{reviewID}, func() (TextsSheet, error) {
		err = w.Store.Read(ctx, func(t *store.Tx) error {
			out, err = w.sheetOf(t, reviewID)
			return err
		})
		return out, err
	})
}

func (w *Tasks) sheetOf(t *store.Tx, reviewID string) (TextsSheet, error) {
	review, err := t.Review(reviewID)
	if err != nil {
		return TextsSheet{}, err
	}
	setups, err := reviews.SetUps(t, review)
	if err != nil {
		return TextsSheet{}, err
	}
	reader := printing.NewReader(t)
	contests, err := reviews.Contests(t, reader, review, setups)
	if err != nil {
		return TextsSheet{}, err
	}
	found, err := findings.Of(t, review, setups, contests, nil)
	if err != nil {
		return TextsSheet{}, err
	}
	claimed, err := ledger.Of(t, reader, review, setups, contests, w.NowMS())
	if err != nil {
		return TextsSheet{}, err
	}
	prices, err := money.Table(t, review.MachineIDs, w.NowMS())
	if err != nil {
		return TextsSheet{}, err
	}
	return ReadOf(t, review, contests, found, claimed, prices)
}

// ReadOf reads the texts of a review whose contests, findings, claims and prices are known already.
func ReadOf(t *store.Tx, review bench.Review, contests []reviews.Contest, found findings.FindingsSheet, claimed ledger.LedgerSheet, prices money.PriceTable) (TextsSheet, error) {
	of, err := contextOf(t, review, contests, found, claimed, prices)
	if err != nil {
		return TextsSheet{}, err
	}
	return read(review, found, of), nil
}

func read(review bench.Review, found findings.FindingsSheet, of prose.Context) TextsSheet {
	out := TextsSheet{Texts: []TextRead{}, Figures: []LiveFigure{}}
	add := func(field, label, text string) {
		if text != "" {
			out.Texts = append(out.Texts, TextRead{field, label, text, prose.Read(text, of)})
		}
	}
	add("disclosure", "Disclosure", review.Disclosure)
	add("verdict", "Verdict", review.Verdict)
	add("not_tested", "What was not tested", review.NotTested)
	for _, p := range found.Picked {
		add("finding "+p.Finding.Code, "Finding "+p.Finding.Code, p.Finding.Words)
	}
	for _, b := range review.Blocks {
		if b.Out {
			continue
		}
		name := "Your own words"
		if b.Title != "" {
			name = "“" + b.Title + "”"
		}
		add("block "+b.Key, name, b.Text)
		for i, p := range b.Pictures {
			add(fmt.Sprintf("caption %s %d", b.Key, i+1), fmt.Sprintf("Caption %d of %s", i+1, name), p.Caption)
		}
	}
	for _, f := range of.Figures {
		if strings.HasPrefix(f.Name, "Claim ") {
			continue // what somebody claims is no figure of the record
		}
		out.Figures = append(out.Figures, LiveFigure{f.Name, f.Says()})
	}
	return out
}

// Live puts the figures of the record in the place of their names in texts.
type Live func(text string) string

// LiveOf reads the figures of a review whose contests are known already.
func LiveOf(contests []reviews.Contest, prices money.PriceTable) Live {
	figures := figuresOf(contests, prices)
	return func(text string) string {
		out, _ := prose.Live(text, figures, prose.Figure.Says)
		return out
	}
}

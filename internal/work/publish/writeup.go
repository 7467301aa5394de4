package publish

import (
	"bytes"
	"context"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/contest"
	"ojime/internal/core/edition"
	"ojime/internal/store"
	"ojime/internal/work/compare"
	"ojime/internal/work/experiment"
	"ojime/internal/work/findings"
	"ojime/internal/work/firstdays"
	"ojime/internal/work/kit"
	"ojime/internal/work/ledger"
	"ojime/internal/work/planning"
	"ojime/internal/work/printing"
	"ojime/internal/work/readers"
	"ojime/internal/work/reviews"
	"ojime/internal/work/side"
	"ojime/internal/work/tally"
	"ojime/internal/work/task"
	"ojime/internal/work/texts"
)

// Contest is the set-ups of one piece against each other: one comparison for each
// question.
type Contest struct {
	Piece   string
	Results []compare.Comparison
	Filled  *Filled
}

// Filled is the time of a piece at equal fill, by the model put right by what prints took.
// Sides are those with one set of settings, by their letters.
type Filled struct {
	Letters []string
	planning.FillPlot
}

type writeUpKey struct{ reviewID string }

// WriteUp is a review as Markdown, its numbers computed anew from the record when that
// has changed.
func (w *Tasks) WriteUp(ctx context.Context, reviewID string) ([]byte, error) {
	a, err := w.article(ctx, reviewID)
	return a.text, err
}

// article is a write-up as Markdown, with what a page draws beside.
type article struct {
	text     []byte
	title    string
	contests []Contest
	prints   int
	// figures are those of the review as they read, questioned how many places in its text are.
	figures    []edition.Figure
	questioned int64
}

func (w *Tasks) article(ctx context.Context, reviewID string) (article, error) {
	return task.Recall(&w.Memory, w.Store.Changes(), writeUpKey{reviewID}, func() (article, error) {
		return w.writeUp(ctx, reviewID)
	})
}

func (w *Tasks) writeUp(ctx context.Context, reviewID string) (out article, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		review, err := t.Review(reviewID)
		if err != nil {
			return err
		}
		settings, err := t.Settings()
		if err != nil {
			return err
		}
		setups, err := reviews.SetUps(t, review)
		if err != nil {
			return err
		}
		reader := printing.NewReader(t)
		contested, err := reviews.Contests(t, reader, review, setups)
		if err != nil {
			return err
		}
		contests, err := w.contestsOf(t, contested)
		if err != nil {
			return err
		}
		together, err := reviews.Together(t, reader, review, setups)
		if err != nil {
			return err
		}
		matched := matchedOf(together)
		found, err := findings.Of(t, review, setups, contested, together)
		if err != nil {
			return err
		}
		sheets, err := reviewRuns(reader, review, setups)
		if err != nil {
			return err
		}
		matrix, err := experiment.MatrixOf(t, reader, review, w.NowMS())
		if err != nil {
			return err
		}
		leftOut, err := reviews.LeftOut(t, reader, review)
		if err != nil {
			return err
		}
		plan, err := experiment.PlanOf(t, reviewID)
		if err != nil {
			return err
		}
		var decidable reviews.Decidable
		if len(review.Deciding) > 0 {
			if decidable, err = reviews.DecidableOf(t, reviewID); err != nil {
				return err
			}
		}
		references, err := referencesOf(reader, review)
		if err != nil {
			return err
		}
		claims, err := ledger.Of(t, reader, review, setups, contested, w.NowMS())
		if err != nil {
			return err
		}
		disclosed, err := kit.DisclosureOf(t, review)
		if err != nil {
			return err
		}
		moneySheet, err := readers.MoneyOf(t, review, setups, contested, w.NowMS())
		if err != nil {
			return err
		}
		read, err := texts.ReadOf(t, review, contested, found, claims, moneySheet.Prices)
		if err != nil {
			return err
		}
		for _, one := range read.Texts {
			out.questioned += int64(len(one.Remarks))
		}
		for _, f := range read.Figures {
			out.figures = append(out.figures, edition.Figure(f))
		}
		live := texts.LiveOf(contested, moneySheet.Prices)
		review.Disclosure, review.Verdict, review.NotTested = live(review.Disclosure), live(review.Verdict), live(review.NotTested)
		for i, p := range found.Picked {
			found.Picked[i].Says = live(p.Says)
		}
		weighed, err := readers.Of(t, reviewID, setups, contested, claims, found, w.NowMS())
		if err != nil {
			return err
		}
		living, err := livingOf(t, setups)
		if err != nil {
			return err
		}
		panels, err := panelsOf(t, reviewID)
		if err != nil {
			return err
		}
		plates, err := surveyedOf(t, setups)
		if err != nil {
			return err
		}
		software, err := firstdays.SoftwareOf(t, append([]string{""}, review.PieceIDs...)...) // of its pieces alone, also where it names none
		if err != nil {
			return err
		}
		runs := make([]bench.Run, len(sheets))
		for i, s := range sheets {
			runs[i] = s.Run
		}
		programs, err := tally.ProgramsOf(runs)
		if err != nil {
			return err
		}
		units, err := unitsOf(t, setups)
		if err != nil {
			return err
		}
		sliced, err := slicedOf(t, sheets)
		if err != nil {
			return err
		}
		var b bytes.Buffer
		err = markdown.Execute(&b, map[string]any{"Review": review, "SetUps": setups, "Matrix": matrix, "Planned": plan.Words(), "Declared": decidable.Declared, "LeftOut": leftOut, "Contests": contests, "Matched": matched, "Findings": found.Picked, "Sheets": sheets, "Claims": claims, "Disclosed": disclosed, "Readers": weighed.Readers, "Money": moneySheet, "Living": tableOf(living), "Remarks": remarksOf(living), "Panels": panels, "Plates": plates, "Sliced": sliced, "Units": units, "Software": software, "Programs": programs, "OnComputer": len(programs)+len(software.Programs) > 0, "References": references, "Currency": settings.Currency})
		out.text, out.title, out.contests, out.prints = b.Bytes(), review.Question, contests, len(sheets)
		return err
	})
	return out, err
}

// contestsOf are the contests of a review, with the time at equal fill of each piece.
func (w *Tasks) contestsOf(t *store.Tx, contests []reviews.Contest) ([]Contest, error) {
	var out []Contest
	for _, c := range contests {
		filled, err := w.filledOf(t, c.PieceID, c.Results[0].Sides)
		if err != nil {
			return nil, err
		}
		out = append(out, Contest{Piece: c.Piece, Results: c.Results, Filled: filled})
	}
	return out, nil
}

// filledOf is nil where fewer than two sides have one set of settings.
func (w *Tasks) filledOf(t *store.Tx, pieceID string, sides []side.Side) (*Filled, error) {
	out, profiles := &Filled{}, []string{}
	for _, s := range sides {
		if s.ProfileID != "" {
			out.Letters, profiles = append(out.Letters, s.Letter), append(profiles, s.ProfileID)
		}
	}
	if len(profiles) < 2 {
		return nil, nil
	}
	var err error
	out.FillPlot, err = w.planning.FillOf(t, pieceID, 100, profiles, 1)
	return out, err
}

// Matched is what all pieces of a review show together.
type Matched struct {
	Sides     []side.Side
	Sentences []string
	Counted   int
}

// matchedOf is what all pieces of a review show together; nil where there is one piece.
func matchedOf(together *reviews.Contest) *Matched {
	if together == nil {
		return nil
	}
	c := together.Results[0]
	out := &Matched{Sides: c.Sides, Counted: c.Counted.Table}
	names := make([]string, len(c.Sides))
	for i, s := range c.Sides {
		names[i] = s.Letter
	}
	for _, measure := range c.Measures {
		if slices.ContainsFunc(measure.Pairs, func(p contest.Pair) bool { return p.Kinds > 0 }) {
			out.Sentences = append(out.Sentences, contest.Sentences(measure, names, c.Counted)...)
		}
	}
	return out
}

package publish

import (
	"bytes"
	"context"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/contest"
	"ojime/internal/store"
	"ojime/internal/work/compare"
	"ojime/internal/work/experiment"
	"ojime/internal/work/firstdays"
	"ojime/internal/work/planning"
	"ojime/internal/work/printing"
	"ojime/internal/work/reviews"
	"ojime/internal/work/side"
	"ojime/internal/work/tally"
	"ojime/internal/work/task"
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
	return task.Recall(&w.Memory, w.Store.Changes(), writeUpKey{reviewID}, func() ([]byte, error) {
		return w.writeUp(ctx, reviewID)
	})
}

func (w *Tasks) writeUp(ctx context.Context, reviewID string) (out []byte, err error) {
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
		contests, err := w.contestsOf(t, reader, review, setups)
		if err != nil {
			return err
		}
		matched, err := matchedOf(t, reader, review, setups)
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
		claims, err := experiment.ClaimsOf(t, reader, review, setups)
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
		err = markdown.Execute(&b, map[string]any{"Review": review, "SetUps": setups, "Matrix": matrix, "Planned": plan.Words(), "Declared": decidable.Declared, "LeftOut": leftOut, "Contests": contests, "Matched": matched, "Sheets": sheets, "Claims": claims, "Living": tableOf(living), "Remarks": remarksOf(living), "Panels": panels, "Plates": plates, "Sliced": sliced, "Units": units, "Software": software, "Programs": programs, "OnComputer": len(programs)+len(software.Programs) > 0, "References": references, "Currency": settings.Currency})
		out = b.Bytes()
		return err
	})
	return out, err
}

// mostWrittenUp is how many set-ups of a piece are set against each other.
const mostWrittenUp = 12

// contestsOf sets, for each piece, all of its set-ups against the one declared, or the first of them, once for
// each question.
func (w *Tasks) contestsOf(t *store.Tx, reader *printing.Reader, review bench.Review, setups []reviews.SetUp) ([]Contest, error) {
	var out []Contest
	for _, pieceID := range review.PieceIDs {
		req := compare.ComparisonRequest{PieceID: pieceID, UnderTest: review.UnderTest, Policy: review.Policy, Baseline: -1}
		c := Contest{}
		var sides []reviews.SetUp
		for _, s := range setups {
			if s.PieceID == pieceID && len(req.Sides) < mostWrittenUp {
				req.Sides, sides, c.Piece = append(req.Sides, s.RunIDs), append(sides, s), s.Piece
			}
		}
		req = reviews.Of(req, review, sides)
		if len(req.Sides) < 2 {
			continue
		}
		m, err := compare.Match(t, reader, req)
		if err != nil {
			return nil, err
		}
		for _, q := range m.Questions() {
			result, err := m.Ask(q)
			if err != nil {
				return nil, err
			}
			c.Results = append(c.Results, result)
		}
		if c.Filled, err = w.filledOf(t, pieceID, c.Results[0].Sides); err != nil {
			return nil, err
		}
		out = append(out, c)
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

// matchedOf sets the set-ups of a review against each other over all of its pieces, each
// pair over those that both have; nil where there is one piece.
func matchedOf(t *store.Tx, reader *printing.Reader, review bench.Review, setups []reviews.SetUp) (*Matched, error) {
	sides := reviews.AcrossPieces(setups)
	if len(review.PieceIDs) < 2 || len(sides) < 2 || len(sides) > mostWrittenUp {
		return nil, nil
	}
	req := compare.ComparisonRequest{UnderTest: review.UnderTest, Policy: review.Policy, Baseline: -1}
	for _, s := range sides {
		req.Sides = append(req.Sides, s.RunIDs)
	}
	m, err := compare.Match(t, reader, reviews.Of(req, review, sides))
	if err != nil {
		return nil, err
	}
	c, err := m.Ask(audit.Failure)
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
	return out, err
}

package reviews

import (
	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/store"
	"ojime/internal/work/compare"
	"ojime/internal/work/printing"
)

// Contest is the set-ups of a review against each other: of one piece, or of all matched piece by piece, where PieceID
// is empty. SetUps are its sides in their order, Results one comparison for each question.
type Contest struct {
	PieceID   string
	Piece     string
	PieceKind string
	SetUps    []SetUp
	Matched   compare.Matched
	Results   []compare.Comparison
}

// MostContested is how many set-ups of a piece a write-up sets against each other.
const MostContested = compare.MostSides

// Contests sets, for each piece of a review, all of its set-ups against the one declared, or the first of them, once for
// each question.
func Contests(t *store.Tx, reader *printing.Reader, review bench.Review, setups []SetUp) (out []Contest, err error) {
	for _, pieceID := range review.PieceIDs {
		c := Contest{PieceID: pieceID}
		for _, s := range setups {
			if s.PieceID == pieceID && len(c.SetUps) < MostContested {
				c.SetUps, c.Piece, c.PieceKind = append(c.SetUps, s), s.Piece, s.PieceKind
			}
		}
		if len(c.SetUps) < 2 {
			continue
		}
		if err := c.match(t, reader, review); err != nil {
			return nil, err
		}
		for _, q := range c.Matched.Questions() {
			result, err := c.Matched.Ask(q)
			if err != nil {
				return nil, err
			}
			c.Results = append(c.Results, result)
		}
		out = append(out, c)
	}
	return out, nil
}

// Together sets the set-ups of a review against each other over all of its pieces, each pair over those that both have;
// nil where there is one piece, or more set-ups than a comparison takes. It is asked for failures and for time.
func Together(t *store.Tx, reader *printing.Reader, review bench.Review, setups []SetUp) (*Contest, error) {
	c := Contest{Piece: "all pieces", SetUps: AcrossPieces(setups)}
	if len(review.PieceIDs) < 2 || len(c.SetUps) < 2 || len(c.SetUps) > MostContested {
		return nil, nil
	}
	if err := c.match(t, reader, review); err != nil {
		return nil, err
	}
	for _, q := range []string{audit.Failure, audit.Time, audit.Dimension} {
		result, err := c.Matched.Ask(q)
		if err != nil {
			return nil, err
		}
		c.Results = append(c.Results, result)
	}
	return &c, nil
}

func (c *Contest) match(t *store.Tx, reader *printing.Reader, review bench.Review) (err error) {
	req := compare.ComparisonRequest{PieceID: c.PieceID, UnderTest: review.UnderTest, Policy: review.Policy, Baseline: -1}
	for _, s := range c.SetUps {
		req.Sides = append(req.Sides, s.RunIDs)
	}
	c.Matched, err = compare.Match(t, reader, Of(req, review, c.SetUps))
	return err
}

// For is the comparison for the first of some questions that was asked; the first of all where none was.
func (c Contest) For(questions []string) compare.Comparison {
	for _, q := range questions {
		for _, r := range c.Results {
			if r.Question == q {
				return r
			}
		}
	}
	return c.Results[0]
}

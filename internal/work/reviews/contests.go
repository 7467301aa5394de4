package reviews

import (
	"cmp"

	"golang.org/x/sync/errgroup"

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
func Contests(t *store.Tx, reader *printing.Reader, review bench.Review, setups []SetUp) ([]Contest, error) {
	contests, _, err := begin(t, reader, review, setups, nil)()
	return contests, err
}

// All are the contests of a review, and its set-ups against each other over all of its pieces, each pair over those that both
// have, asked for failures, times and sizes; nil where there is one piece, or more set-ups than a comparison takes.
func All(t *store.Tx, reader *printing.Reader, review bench.Review, setups []SetUp) ([]Contest, *Contest, error) {
	return BeginAll(t, reader, review, setups)()
}

// BeginAll reads what All gives from the record and works it out beside what its caller does, who then asks for it.
func BeginAll(t *store.Tx, reader *printing.Reader, review bench.Review, setups []SetUp) func() ([]Contest, *Contest, error) {
	return begin(t, reader, review, setups, togetherOf(review, setups))
}

// overall are the questions that all pieces together are asked.
var overall = []string{audit.Failure, audit.Time, audit.Dimension}

// begin reads each contest and works it out while the next is read.
func begin(t *store.Tx, reader *printing.Reader, review bench.Review, setups []SetUp, together *Contest) func() ([]Contest, *Contest, error) {
	var group errgroup.Group
	start := func(c *Contest, questions []string) error {
		loaded, err := c.load(t, reader, review)
		if err == nil {
			group.Go(func() error { return c.work(loaded, questions) })
		}
		return err
	}
	var err error
	contests := Contested(review, setups)
	for i := range contests { // each reads prints of its own, so that there is something to work out while the next is read
		if err == nil {
			err = start(&contests[i], nil)
		}
	}
	if together != nil && err == nil {
		err = start(together, overall)
	}
	return func() ([]Contest, *Contest, error) { return contests, together, cmp.Or(group.Wait(), err) }
}

// Contested are the contests of each piece, with its set-ups and nothing read.
func Contested(review bench.Review, setups []SetUp) (out []Contest) {
	for _, pieceID := range review.PieceIDs {
		c := Contest{PieceID: pieceID}
		for _, s := range setups {
			if s.PieceID == pieceID && len(c.SetUps) < MostContested {
				c.SetUps, c.Piece, c.PieceKind = append(c.SetUps, s), s.Piece, s.PieceKind
			}
		}
		if len(c.SetUps) >= 2 {
			out = append(out, c)
		}
	}
	return out
}

func togetherOf(review bench.Review, setups []SetUp) *Contest {
	c := &Contest{Piece: "all pieces", SetUps: AcrossPieces(setups)}
	if len(review.PieceIDs) < 2 || len(c.SetUps) < 2 || len(c.SetUps) > MostContested {
		return nil
	}
	return c
}

func (c *Contest) load(t *store.Tx, reader *printing.Reader, review bench.Review) (*compare.Loaded, error) {
	req := compare.ComparisonRequest{PieceID: c.PieceID, UnderTest: review.UnderTest, Policy: review.Policy, Baseline: -1}
	for _, s := range c.SetUps {
		req.Sides = append(req.Sides, s.RunIDs)
	}
	return compare.Load(t, reader, Of(req, review, c.SetUps))
}

// work computes a contest and asks it the questions, or all that are worth asking.
func (c *Contest) work(loaded *compare.Loaded, questions []string) (err error) {
	if c.Matched, err = loaded.Compute(); err != nil {
		return err
	}
	if questions == nil {
		questions = c.Matched.Questions()
	}
	for _, q := range questions {
		result, err := c.Matched.Ask(q)
		if err != nil {
			return err
		}
		c.Results = append(c.Results, result)
	}
	return nil
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

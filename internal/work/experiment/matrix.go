package experiment

import (
	"cmp"
	"context"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/reviews"
	"ojime/internal/work/task"
)

// Matrix is what a review put to the test: rows are the combinations of the levels of its
// factors under test, columns its pieces. Tells says which effects the prints separate;
// WithPlan what they will once what is planned is printed too, where that says more.
// Missing are the combinations that would, each a level of every factor.
type Matrix struct {
	Factors  []MatrixFactor `json:"factors"`
	Pieces   []MatrixPiece  `json:"pieces"`
	Rows     []MatrixRow    `json:"rows"`
	Tells    []string       `json:"tells"`
	WithPlan []string       `json:"with_plan"`
	Missing  [][]string     `json:"missing"`
}

// MatrixFactor is a factor under test with its levels on record or planned, in their
// words. One that does not vary has one level, or none where it is not known of any print.
// Settable says that a plan can set it; what is fitted to a machine is changed by hand.
type MatrixFactor struct {
	Key      string   `json:"key"`
	Name     string   `json:"name"`
	Levels   []string `json:"levels"`
	Settable bool     `json:"settable"`
}

// MatrixPiece is a column.
type MatrixPiece struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

// MatrixRow is one combination; Cells stand in the order of the pieces.
type MatrixRow struct {
	Levels []string     `json:"levels"`
	Cells  []MatrixCell `json:"cells"`
}

// MatrixCell is what was printed of a piece with a combination: prints that ended and that
// did not, specimens, and those of them judged and failed. What the review leaves out, and
// what is planned and not printed yet, is counted apart.
type MatrixCell struct {
	Prints    int64 `json:"prints"`
	Open      int64 `json:"open"`
	Planned   int64 `json:"planned"`
	Specimens int64 `json:"specimens"`
	Judged    int64 `json:"judged"`
	Failed    int64 `json:"failed"`
	LeftOut   int64 `json:"left_out"`
}

type matrixKey struct{ review string }

// Matrix lays out what a review put to the test.
func (w *Tasks) Matrix(ctx context.Context, reviewID string) (Matrix, error) {
	return task.Recall(&w.Memory, w.Store.Changes(), matrixKey{reviewID}, func() (out Matrix, err error) {
		err = w.Store.Read(ctx, func(t *store.Tx) error {
			review, err := t.Review(reviewID)
			if err != nil {
				return err
			}
			out, err = MatrixOf(t, printing.NewReader(t), review, w.NowMS())
			return err
		})
		return out, err
	})
}

// MatrixOf lays out what a review put to the test from its prints on record, and what is
// planned as if it were printed now.
func MatrixOf(t *store.Tx, reader *printing.Reader, review bench.Review, nowMS int64) (Matrix, error) {
	m, err := matrixOf(t, reader, review, nowMS)
	if err != nil {
		return Matrix{}, err
	}
	return m.out, m.tellAll()
}

// matrixOf lays out the matrix of a review without what it tells.
func matrixOf(t *store.Tx, reader *printing.Reader, review bench.Review, nowMS int64) (*matrix, error) {
	m := &matrix{review: review, at: map[string]int{}, out: Matrix{Pieces: []MatrixPiece{}}}
	for _, id := range review.PieceIDs {
		p, err := reader.Piece(id)
		if err != nil {
			return nil, err
		}
		m.out.Pieces = append(m.out.Pieces, MatrixPiece{id, p.Name})
	}
	runs, err := reviews.ReviewMembers(t, review)
	if err != nil {
		return nil, err
	}
	ids := make([]string, len(runs))
	for i, r := range runs {
		ids[i] = r.ID
	}
	sheets, err := reader.Sheets(ids...)
	if err != nil {
		return nil, err
	}
	planned, err := plannedSheets(t, reader, review, nowMS)
	if err != nil {
		return nil, err
	}
	for i, sheet := range append(sheets, planned...) {
		levels, err := levelsOf(t, reader, sheet, review.UnderTest)
		if err != nil {
			return nil, err
		}
		m.prints = append(m.prints, matrixPrint{sheet: sheet, levels: levels, all: slices.Clone(levels), planned: i >= len(sheets)})
	}
	m.layOut()
	return m, nil
}

// matrixPrint is a print with its level of each factor, empty where it is not known: of
// those that the matrix shows, and of all.
type matrixPrint struct {
	sheet   *printing.RunSheet
	levels  []level
	all     []level
	planned bool
}

// matrix is one while it is laid out.
type matrix struct {
	review bench.Review
	prints []matrixPrint
	at     map[string]int // rows by their levels
	varied []int          // the factors with two levels or more
	out    Matrix
}

// layOut finds the levels and counts what was printed of each combination.
func (m *matrix) layOut() {
	m.out.Factors, m.out.Rows = []MatrixFactor{}, []MatrixRow{}
	for _, p := range m.prints {
		for i, l := range p.levels {
			if i == len(m.out.Factors) {
				m.out.Factors = append(m.out.Factors, MatrixFactor{Key: l.key, Name: l.name, Levels: []string{}, Settable: settable(l.key)})
			}
			if f := &m.out.Factors[i]; l.words != "" && !slices.Contains(f.Levels, l.words) {
				f.Levels = append(f.Levels, l.words)
			}
		}
	}
	m.dropUntoldParts()
	for i := range m.out.Factors {
		slices.SortFunc(m.out.Factors[i].Levels, byNumber)
		if len(m.out.Factors[i].Levels) > 1 {
			m.varied = append(m.varied, i)
		}
	}
	for _, p := range m.prints {
		m.count(p)
	}
	slices.SortStableFunc(m.out.Rows, func(a, b MatrixRow) int {
		for i := range a.Levels {
			if c := byNumber(a.Levels[i], b.Levels[i]); c != 0 {
				return c
			}
		}
		return 0
	})
}

// dropUntoldParts leaves out the parts of a motion that no settings tell: a machine that
// lifts has no release, and one that hides its waits says so on its own page.
func (m *matrix) dropUntoldParts() {
	for i := len(m.out.Factors) - 1; i >= 0; i-- {
		if len(m.out.Factors[i].Levels) > 0 || slices.Contains(m.review.UnderTest, m.out.Factors[i].Key) {
			continue
		}
		m.out.Factors = slices.Delete(m.out.Factors, i, i+1)
		for k := range m.prints {
			m.prints[k].levels = slices.Delete(m.prints[k].levels, i, i+1)
		}
	}
}

var numbers = regexp.MustCompile(`\d+(\.\d+)?`)

// byNumber sorts words by the numbers in them, in their order, and else by their letters.
func byNumber(a, b string) int {
	others := numbers.FindAllString(b, -1)
	for i, n := range numbers.FindAllString(a, len(others)) {
		x, _ := strconv.ParseFloat(n, 64) // what matched is a number
		y, _ := strconv.ParseFloat(others[i], 64)
		if c := cmp.Compare(x, y); c != 0 {
			return c
		}
	}
	return strings.Compare(a, b)
}

// row finds, or begins, the row of a combination.
func (m *matrix) row(levels []string) *MatrixRow {
	key := strings.Join(levels, "\x00")
	if _, seen := m.at[key]; !seen {
		m.at[key] = len(m.out.Rows)
		m.out.Rows = append(m.out.Rows, MatrixRow{Levels: levels, Cells: make([]MatrixCell, len(m.out.Pieces))})
	}
	return &m.out.Rows[m.at[key]]
}

func (m *matrix) count(p matrixPrint) {
	row := m.row(wordsOf(p.levels))
	for _, tally := range bench.TallyOf(p.sheet.Specimens) {
		i := slices.IndexFunc(m.out.Pieces, func(piece MatrixPiece) bool { return piece.ID == tally.PieceID })
		if i < 0 {
			continue
		}
		cell := &row.Cells[i]
		if p.planned {
			cell.Planned++
			continue
		}
		if _, left := m.review.LeftOut.Reason(p.sheet.Run.ID); left {
			cell.LeftOut++
			continue
		}
		if p.sheet.Run.EndedMS == nil {
			cell.Open++
			continue
		}
		cell.Prints, cell.Specimens, cell.Judged, cell.Failed = cell.Prints+1, cell.Specimens+tally.Specimens, cell.Judged+tally.Counts.Judged(), cell.Failed+tally.Failed
	}
}

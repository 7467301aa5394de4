package compare

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// Matrix is what a review put to the test: rows are the combinations of the levels of its
// factors under test, columns its pieces. Tells says which effects the prints separate;
// Missing the combinations that would, each a level of every factor.
type Matrix struct {
	Factors []MatrixFactor `json:"factors"`
	Pieces  []MatrixPiece  `json:"pieces"`
	Rows    []MatrixRow    `json:"rows"`
	Tells   []string       `json:"tells"`
	Missing [][]string     `json:"missing"`
}

// MatrixFactor is a factor under test with its levels on record, in their words. One that
// does not vary has one level, or none where it is not known of any print.
type MatrixFactor struct {
	Name   string   `json:"name"`
	Levels []string `json:"levels"`
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
// did not, specimens, and those of them judged and failed. What the review leaves out is
// counted apart.
type MatrixCell struct {
	Prints    int64 `json:"prints"`
	Open      int64 `json:"open"`
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
			out, err = MatrixOf(t, printing.NewReader(t), review)
			return err
		})
		return out, err
	})
}

// MatrixOf lays out what a review put to the test from its prints on record.
func MatrixOf(t *store.Tx, reader *printing.Reader, review bench.Review) (Matrix, error) {
	runs, err := reviewMembers(t, review)
	if err != nil {
		return Matrix{}, err
	}
	ids := make([]string, len(runs))
	for i, r := range runs {
		ids[i] = r.ID
	}
	sheets, err := reader.Sheets(ids...)
	if err != nil {
		return Matrix{}, err
	}
	m := matrix{review: review, at: map[string]int{}, out: Matrix{Pieces: []MatrixPiece{}}}
	for _, factor := range review.UnderTest {
		m.whole = append(m.whole, audit.Label(factor))
	}
	for _, id := range review.PieceIDs {
		p, err := reader.Piece(id)
		if err != nil {
			return Matrix{}, err
		}
		m.out.Pieces = append(m.out.Pieces, MatrixPiece{id, p.Name})
	}
	for _, sheet := range sheets {
		history, err := reader.History(sheet.Machine.ID)
		if err != nil {
			return Matrix{}, err
		}
		s := side{machine: sheet.Machine, history: history}
		if err := s.take(sheet, 1, t.Bottle); err != nil {
			return Matrix{}, err
		}
		m.prints = append(m.prints, matrixPrint{sheet, levelsOf(s, review.UnderTest)})
	}
	m.layOut()
	return m.out, m.tell()
}

// matrixPrint is a print with its level of each factor; empty where it is not known.
type matrixPrint struct {
	sheet  printing.RunSheet
	levels []matrixLevel
}

type matrixLevel struct{ factor, level string }

// levelsOf are one print's levels. Motion is told by its parts: a lift and a rest are
// factors of their own.
func levelsOf(s side, underTest bench.IDs) (out []matrixLevel) {
	conditions := s.conditions()
	for _, factor := range underTest {
		if factor == "motion" {
			for _, part := range kit.MotionParts(s.sheets[0].Profile) {
				out = append(out, matrixLevel{part[0], part[1]})
			}
			continue
		}
		level := audit.Shown(factor, conditions)
		if level == audit.NotKnown {
			level = ""
		}
		out = append(out, matrixLevel{audit.Label(factor), level})
	}
	return out
}

// matrix is one while it is laid out.
type matrix struct {
	review bench.Review
	prints []matrixPrint
	at     map[string]int // rows by their levels
	varied []int          // the factors with two levels or more
	whole  []string       // the names of the factors that stay though no print tells them
	out    Matrix
}

// layOut finds the levels and counts what was printed of each combination.
func (m *matrix) layOut() {
	m.out.Factors, m.out.Rows, m.out.Tells, m.out.Missing = []MatrixFactor{}, []MatrixRow{}, []string{}, [][]string{}
	for _, p := range m.prints {
		for i, l := range p.levels {
			if i == len(m.out.Factors) {
				m.out.Factors = append(m.out.Factors, MatrixFactor{l.factor, []string{}})
			}
			if f := &m.out.Factors[i]; l.level != "" && !slices.Contains(f.Levels, l.level) {
				f.Levels = append(f.Levels, l.level)
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
		if len(m.out.Factors[i].Levels) > 0 || slices.Contains(m.whole, m.out.Factors[i].Name) {
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

func (m *matrix) count(p matrixPrint) {
	levels := make([]string, len(m.out.Factors))
	for i, l := range p.levels {
		levels[i] = l.level
	}
	key := strings.Join(levels, "\x00")
	if _, seen := m.at[key]; !seen {
		m.at[key] = len(m.out.Rows)
		m.out.Rows = append(m.out.Rows, MatrixRow{Levels: levels, Cells: make([]MatrixCell, len(m.out.Pieces))})
	}
	row := &m.out.Rows[m.at[key]]
	for _, tally := range bench.TallyOf(p.sheet.Specimens) {
		i := slices.IndexFunc(m.out.Pieces, func(piece MatrixPiece) bool { return piece.ID == tally.PieceID })
		if i < 0 {
			continue
		}
		cell := &row.Cells[i]
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

// mostDesigned is up to how many factors are told apart.
const mostDesigned = 6

// tell asks the design of the experiment which effects the prints separate.
func (m *matrix) tell() error {
	if len(m.varied) == 0 || len(m.varied) > mostDesigned {
		return nil
	}
	in := plan.DesignInput{}
	for _, i := range m.varied {
		f := plan.Factor{Name: m.out.Factors[i].Name}
		for _, level := range m.out.Factors[i].Levels {
			f.Levels = append(f.Levels, level)
		}
		in.Factors = append(in.Factors, f)
	}
	for _, row := range m.out.Rows {
		cell := plan.DesignCell{}
		for _, i := range m.varied {
			cell.Levels = append(cell.Levels, row.Levels[i])
		}
		if slices.Contains(cell.Levels, any("")) {
			continue // a level that is not known separates nothing
		}
		for _, c := range row.Cells {
			cell.Prints += c.Prints
		}
		in.Cells = append(in.Cells, cell)
	}
	main, err := plan.Design(in)
	if err != nil {
		return m.untold(err)
	}
	m.sayEffects(main)
	if len(in.Factors) < 2 {
		return nil
	}
	for i := range in.Factors {
		for j := range i {
			in.Interactions = append(in.Interactions, []string{in.Factors[j].Name, in.Factors[i].Name})
		}
	}
	whole, err := plan.Design(in)
	if err != nil {
		return m.untold(err)
	}
	m.sayInteractions(whole)
	return nil
}

// untold says why an experiment cannot be told: it has too many levels.
func (m *matrix) untold(err error) error {
	var wrong *quantity.FieldError
	if errors.As(err, &wrong) {
		m.out.Tells = append(m.out.Tells, "What these prints can tell apart is not worked out: "+wrong.Message+".")
		return nil
	}
	return err
}

func (m *matrix) sayEffects(d plan.DesignResult) {
	var apart []string
	for _, t := range d.Terms {
		switch {
		case t.Estimable:
			apart = append(apart, strings.ToLower(t.Term))
		case len(t.AliasedWith) > 0 && t.AliasedWith[0] != "mean":
			m.out.Tells = append(m.out.Tells, fmt.Sprintf("%s and %s go together in these prints: a difference may be either's.", t.Term, strings.ToLower(say.List(t.AliasedWith))))
		default:
			m.out.Tells = append(m.out.Tells, fmt.Sprintf("%s cannot be told apart in these prints.", t.Term))
		}
	}
	switch len(apart) {
	case 0:
	case 1:
		m.out.Tells = slices.Insert(m.out.Tells, 0, fmt.Sprintf("These prints tell what %s does.", apart[0]))
	default:
		m.out.Tells = slices.Insert(m.out.Tells, 0, fmt.Sprintf("These prints tell what %s do, each by itself.", say.List(apart)))
	}
	m.miss(d)
}

// sayInteractions tells which factors can be seen to change each other's effect.
func (m *matrix) sayInteractions(d plan.DesignResult) {
	for _, t := range d.Terms[len(m.varied):] {
		pair := strings.ReplaceAll(strings.ToLower(t.Term), "×", " and ")
		if t.Estimable {
			m.out.Tells = append(m.out.Tells, fmt.Sprintf("Whether %s work on each other can be told.", pair))
		} else {
			m.out.Tells = append(m.out.Tells, fmt.Sprintf("Whether %s work on each other cannot be told yet.", pair))
		}
	}
	m.miss(d)
}

// miss lists the combinations to add.
func (m *matrix) miss(d plan.DesignResult) {
	for _, levels := range d.Add {
		words := make([]string, len(m.out.Factors))
		for i, f := range m.out.Factors {
			if len(f.Levels) == 1 {
				words[i] = f.Levels[0]
			}
		}
		for k, l := range levels {
			words[m.varied[k]] = l.(string)
		}
		if !slices.ContainsFunc(m.out.Missing, func(o []string) bool { return slices.Equal(o, words) }) {
			m.out.Missing = append(m.out.Missing, words)
		}
	}
}

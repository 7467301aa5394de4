// Package compare brings the prints of sides together, audits and compares them.
package compare

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/core/audit"
	"ojime/internal/core/contest"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/side"
	"ojime/internal/work/task"
)

// MostSides is how many sides a comparison may have.
const MostSides = 12

// ComparisonRequest sets groups of runs against each other: each side the ids of its
// runs, all against the baseline, or each with each other where Each is set. Policy,
// where a review states one, is held against what was done.
type ComparisonRequest struct {
	Sides     [][]string
	Baseline  int
	Each      bool
	Question  string
	UnderTest []string
	Policy    string
	// Deciding is what was declared to decide, nil for nothing.
	Deciding *Deciding
	// PieceID narrows the comparison to the copies of one piece, on plates that hold
	// several.
	PieceID string
	// ReviewID, where it is given, tells the names of the sides, and what was declared to
	// decide; a Baseline below 0 is then the set-up that was declared, or the first side.
	ReviewID string
	// Names are what the sides are called, where they have names of their own.
	Names []string
}

// DecidingTime declares the time of plates, whatever lies on them; RatingOf begins a scale
// that is declared, PhotoOf what is measured on photographs, StressOf a kind of stress,
// from whichever station, in whichever stage and at whichever level.
const (
	DecidingTime = "time"
	RatingOf     = "rating "
	PhotoOf      = "photo "
	StressOf     = "stress "
)

// Deciding is a measure that was declared to decide, for all sides against one, or for one
// of them (Of, nil for all).
type Deciding struct {
	Measure string `json:"measure"`
	Against int    `json:"against"`
	Of      *int   `json:"of"`
}

// deciding is what was declared, as far as all of it stands in the table: of all sides
// against one, a table against another baseline holds a single pair, which alone would be
// adjusted for less than was declared.
func (req ComparisonRequest) deciding() *Deciding {
	if d := req.Deciding; d != nil && d.Of == nil && !req.Each && d.Against != req.Baseline {
		return nil
	}
	return req.Deciding
}

// holds reports a pair of a measure that was declared to decide. The time of plates is
// declared whatever lies on them.
func (d *Deciding) holds(m contest.Measure, p contest.Pair) bool {
	if d == nil || m.Key != d.Measure && !((d.Measure == DecidingTime || strings.HasPrefix(d.Measure, RatingOf) || strings.HasPrefix(d.Measure, PhotoOf) || strings.HasPrefix(d.Measure, StressOf)) && strings.HasPrefix(m.Key, d.Measure+" ")) {
		return false
	}
	other := p.A
	switch d.Against {
	case p.B:
	case p.A:
		other = p.B
	default:
		return false
	}
	return d.Of == nil || *d.Of == other
}

// Comparison is the audits, which stand first, and the figures after them. Counted is how
// many p values stand in its table, over which they are adjusted, and how many were declared
// to decide.
type Comparison struct {
	Question   string            `json:"question"`
	Baseline   int               `json:"baseline"`
	Each       bool              `json:"each"`
	Sides      []side.Side       `json:"sides"`
	Audits     []Audit           `json:"audits"`
	Measures   []contest.Measure `json:"measures"`
	Thresholds []Threshold       `json:"thresholds"`
	// Ordeals are what the sides bore of each stress.
	Ordeals    []Ordeal        `json:"ordeals"`
	TimeSplits []TimeSplit     `json:"time_splits"`
	Whys       []Why           `json:"whys"`
	Counted    contest.Counted `json:"counted"`
	Answers    []string        `json:"answers"`
	// Faults are the symptoms seen on the sides, InTime all judged prints with theirs, the
	// first printed first.
	Faults []contest.Fault   `json:"faults"`
	InTime []side.FaultPrint `json:"in_time"`
	// FaultsBy counts them by what else they may fall together with, Remedies is what was
	// tried against them.
	FaultsBy []side.FaultsBy      `json:"faults_by"`
	Remedies []side.FaultRemedies `json:"remedies"`
	// Agreement says how far ratings of the same copy agree, Stages where a difference seen in
	// one stage is not seen in a later one.
	Agreement []string `json:"agreement"`
	// Expected says beside scores what optics expects eyes to see from their station.
	Expected []string `json:"expected"`
	Stages   []string `json:"stages"`
	// Lived is what living with the machines of the sides is like.
	Lived []Lived `json:"lived"`
	// Remarked is what annoys and pleases of their machines.
	Remarked []Remarked `json:"remarked"`
	// Measuring says what the measuring itself does to the sizes: what studies of instruments
	// show, and which readings are in doubt.
	Measuring []string `json:"measuring"`
	// Pictures are the photographs of the sides that show the same in the same way.
	Pictures []Pictures `json:"pictures"`
	// Eyes is what eyes can tell between sides.
	Eyes []EyePair `json:"eyes"`
	// Panels is what blind judges said of the sides.
	Panels []PanelRow `json:"panels"`
	// Pieces are those that the sides hold, in their order.
	Pieces []PieceCompared `json:"pieces"`
	// Pairs says which pairs of sides answer for which of several factors under test.
	Pairs []string `json:"pairs"`
	// Gaps are the parts that can't be worked out; the rest stands.
	Gaps quantity.Gaps `json:"gaps"`

	// apart are the ids of prints whose times are set apart for temperature.
	apart map[string]bool
}

// Timed are the ids of a side's prints that its times are of: those that were printed cold or hot, where others of the same
// plate were not, enter no figure of time.
func (c Comparison) Timed(of int) []string {
	return slices.DeleteFunc(slices.Clone(c.Sides[of].RunIDs), func(id string) bool { return c.apart[id] })
}

// PieceCompared is a piece of a comparison by its name.
type PieceCompared struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

func piecesOf(sides []side.Prints) []PieceCompared {
	out := []PieceCompared{}
	for _, s := range sides {
		for _, p := range s.Pieces {
			if c := (PieceCompared{p.ID, p.Name}); !slices.Contains(out, c) {
				out = append(out, c)
			}
		}
	}
	return out
}

// Audit is how fair one pair of sides is for the question, with what changed on their
// machines between their prints.
type Audit struct {
	A      int                 `json:"a"`
	B      int                 `json:"b"`
	Result audit.CompareResult `json:"result"`
	// Tells is which of several factors under test the pair answers for.
	Tells string `json:"tells"`
	// Reference says that one of them is a reference: how it was made is weighed against
	// nothing.
	Reference bool     `json:"reference"`
	Knots     []string `json:"knots"`
	Threads   []string `json:"threads"`
}

// Matched is loaded sides with everything that does not hang on the question.
type Matched struct {
	comparison Comparison
	conditions []audit.Conditions
	underTest  []string
	policy     string
	pairs      []pair
}

// Unasked is the comparison with everything that does not hang on the question.
func (m Matched) Unasked() Comparison { return m.comparison }

// Questions are those that are worth asking of the sides: strength only where anything was
// stressed.
func (m Matched) Questions() []string {
	return slices.DeleteFunc(slices.Clone(audit.Questions), func(q string) bool {
		return q == audit.Strength && len(m.comparison.Ordeals) == 0
	})
}

func checkRequest(req ComparisonRequest) error {
	if n := len(req.Sides); n < 2 || n > MostSides {
		return quantity.Errorf("side", "are %d; a comparison has 2 to %d sides", n, MostSides)
	}
	for i, runs := range req.Sides {
		if len(runs) == 0 {
			return quantity.Errorf(fmt.Sprintf("side[%d]", i), "names no print; choose the prints of side %s", side.Letter(i))
		}
	}
	if d := req.Deciding; d != nil && (d.Against < 0 || d.Against >= len(req.Sides) || quantity.Or(d.Of, 0) < 0 || quantity.Or(d.Of, 0) >= len(req.Sides)) {
		return quantity.Errorf("deciding_against", "is %d; it is one of the sides, from 0", d.Against)
	}
	if req.Baseline < 0 || req.Baseline >= len(req.Sides) {
		return quantity.Errorf("baseline", "is %d; it is one of the sides, from 0", req.Baseline)
	}
	return nil
}

// changesBetween begins an audit for each side against the baseline.
func (m *Matched) changesBetween(t *store.Tx, sides []side.Prints) error {
	base := m.comparison.Baseline
	between, err := side.ChangesOf(t, sides)
	if err != nil {
		return err
	}
	for i := range sides {
		if i == base {
			continue
		}
		a := Audit{A: i, B: base, Knots: []string{}, Threads: []string{}}
		if a.Reference = sides[i].Reference != nil || sides[base].Reference != nil; a.Reference {
			m.comparison.Audits = append(m.comparison.Audits, a)
			continue
		}
		var err error
		if a.Knots, err = between.KnotsBetween(sides[i], sides[base]); err != nil {
			return err
		}
		if a.Threads, err = between.ThreadsBetween(sides[i], sides[base]); err != nil {
			return err
		}
		m.comparison.Audits = append(m.comparison.Audits, a)
	}
	return nil
}

// pair is two sides that are audited: A and B of its Audit, matched in the order of their letters.
type pair struct {
	matched audit.Pair
	tells   string
	// unfit is why the pair can't be audited; empty where it can.
	unfit error
}

// matchPairs sets the sides of each audit against each other, once for all questions.
func (m *Matched) matchPairs() error {
	m.pairs = make([]pair, len(m.comparison.Audits))
	return task.Abreast(len(m.pairs), func(i int) (err error) {
		a := m.comparison.Audits[i]
		first, second := min(a.A, a.B), max(a.A, a.B)
		in := audit.CompareInput{A: m.conditions[first], B: m.conditions[second], UnderTest: m.underTest}
		if m.policy != "" {
			in.Policy = &m.policy
		}
		m.pairs[i].tells = audit.Tells(m.conditions[a.A], m.conditions[a.B], m.underTest, side.Letter(a.A), side.Letter(a.B))
		m.pairs[i].matched, err = audit.Match(in, side.Letter(first), side.Letter(second))
		if _, left := quantity.WhyNot(err); left {
			m.pairs[i].unfit, err = err, nil
		}
		return err
	})
}

// unfair notes the pairs that can't be audited.
func (m *Matched) unfair() {
	for i, p := range m.pairs {
		a := m.comparison.Audits[i]
		_ = m.comparison.Gaps.Leave(fmt.Sprintf("Fairness of %s against %s", side.Letter(a.A), side.Letter(a.B)), p.unfit) // it is known to be one that is left
	}
}

// Ask audits the sides for one question, and says in sentences what they show for it.
func (m Matched) Ask(question string) (out Comparison, err error) {
	out = m.comparison
	out.Question, out.Audits = question, slices.Clone(m.comparison.Audits)
	for i, p := range m.pairs {
		a := &out.Audits[i]
		a.Tells = p.tells
		if p.unfit != nil {
			a.Result = audit.CompareResult{Grade: audit.NotFullyKnown, Rows: []audit.Row{}, Warnings: quantity.None()}
			continue
		}
		if a.Result, err = p.matched.For(question); err != nil {
			return out, err
		}
	}
	names := make([]string, len(m.conditions))
	for i := range names {
		names[i] = side.Letter(i)
	}
	out.Answers, out.Pairs = out.answers(), audit.WhichPairs(m.conditions, m.underTest, names)
	return out, nil
}

// answers are the sentences on what the sides show for the question.
func (c Comparison) answers() []string {
	names := make([]string, len(c.Sides))
	for i := range c.Sides {
		names[i] = side.Letter(i)
	}
	out := []string{}
	var alike []string
	for _, m := range c.Measures {
		// What a reference shows stands in the table; it contends with nobody.
		m.Pairs = slices.DeleteFunc(slices.Clone(m.Pairs), func(p contest.Pair) bool {
			return c.Sides[p.A].ReferenceID != "" || c.Sides[p.B].ReferenceID != ""
		})
		switch {
		case !slices.Contains(m.Questions, c.Question):
		case m.Alike:
			alike = append(alike, m.Label)
		default:
			out = append(out, contest.Sentences(m, names, c.Counted)...)
		}
	}
	if len(alike) > 0 {
		out = append(out, "The same on every side, so that they told no two apart: "+strings.Join(alike, "; ")+". That proves no likeness.")
	}
	return out
}

// Layers are the layer heights of a side's prints in µm.
func (m Matched) Layers(side int) []float64 { return m.conditions[side].LayerUM.Numbers() }

// Temps are the temperatures of the resin of a side's prints in °C, as far as they are known.
func (m Matched) Temps(side int) []float64 { return m.conditions[side].ResinTempC.Numbers() }

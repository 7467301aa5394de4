package compare

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/cost"
	"ojime/internal/core/evidence"
	"ojime/internal/core/metrology"
	"ojime/internal/core/quantity"
	"ojime/internal/core/timing"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// ComparisonRequest sets two groups of runs against each other. Policy, where
// a review states one, is held against what was done.
type ComparisonRequest struct {
	ARunIDs   []string
	BRunIDs   []string
	Question  string
	UnderTest []string
	Policy    string
	// PieceID narrows the comparison to the copies of one piece, on plates that hold
	// several.
	PieceID string
}

// Comparison is the audit, which stands first, and the figures after it.
type Comparison struct {
	Question    string                   `json:"question"`
	Audit       audit.CompareResult      `json:"audit"`
	PolicyNotes []string                 `json:"policy_notes"`
	Knots       []string                 `json:"knots"`
	Threads     []string                 `json:"threads"`
	A           Side                     `json:"a"`
	B           Side                     `json:"b"`
	Time        *evidence.MeansResult    `json:"time"`
	Failures    *evidence.TwoRatesResult `json:"failures"`
	Features    []FeatureContest         `json:"features"`
	Verdicts    []string                 `json:"verdicts"`
}

// Side is one set-up with the figures of its runs. Times are seconds a plate;
// n stands beside each.
type Side struct {
	Label      string           `json:"label"`
	Runs       []string         `json:"runs"`
	MachineID  string           `json:"machine_id"`
	PieceID    string           `json:"piece_id"`
	Difficulty string           `json:"difficulty"`
	Machine    string           `json:"machine"`
	Resin      string           `json:"resin"`
	Profile    string           `json:"profile"`
	Settings   string           `json:"settings"`
	Basis      string           `json:"basis"`
	Piece      string           `json:"piece"`
	Conditions audit.Conditions `json:"conditions"`
	Copies     int64            `json:"copies"`
	ActualS    *float64         `json:"actual_s"`
	ActualN    int64            `json:"actual_n"`
	PerPieceS  *float64         `json:"per_piece_s"`
	// Shared says that plates held other pieces too: time, resin and cost of a piece are
	// then its share by volume.
	Shared      bool                     `json:"shared"`
	OurS        *float64                 `json:"our_estimate_s"`
	SoftwareS   *float64                 `json:"software_estimate_s"`
	Bias        *timing.BiasResult       `json:"bias"`
	Outcomes    Outcomes                 `json:"outcomes"`
	AllFailures evidence.RateResult      `json:"all_failures"`
	ByMachine   evidence.RateResult      `json:"by_machine"`
	MicroDefect evidence.RateResult      `json:"micro_defects"`
	Dimensions  *metrology.SummaryResult `json:"dimensions"`
	Ladders     []printing.LadderResult  `json:"ladders"`
	SetAside    []string                 `json:"set_aside"`
	Cost        *cost.PieceResult        `json:"cost"`
	CostReason  string                   `json:"cost_reason"`

	actual []float64
	values map[string][]float64 // by feature, one mean a specimen
}

// Outcomes counts the specimens of a side; Judged leaves out those not judged yet.
type Outcomes struct {
	Judged int64 `json:"judged"`
	bench.Counts
}

// FeatureContest is one dimension read on both sides, millimetres; n counts
// specimens, whose repeated readings are averaged first.
type FeatureContest struct {
	Feature   string               `json:"feature"`
	NominalMM float64              `json:"nominal_mm"`
	NA        int64                `json:"n_a"`
	NB        int64                `json:"n_b"`
	Means     evidence.MeansResult `json:"means"`
}

// Compare audits and compares two groups of runs.
func (w *Tasks) Compare(ctx context.Context, req ComparisonRequest) (out Comparison, err error) {
	return task.Recall(&w.Memory, w.Store.Changes(), keyOf(req), func() (Comparison, error) {
		err = w.Store.Read(ctx, func(t *store.Tx) error {
			out, err = compare(t, req)
			return err
		})
		return out, err
	})
}

// comparisonKey is a request as a key: every value of it, each in its place.
type comparisonKey struct{ a, b, question, underTest, policy, piece string }

func keyOf(r ComparisonRequest) comparisonKey {
	list := func(l []string) string { return strings.Join(l, "\x00") }
	return comparisonKey{list(r.ARunIDs), list(r.BRunIDs), r.Question, list(r.UnderTest), r.Policy, r.PieceID}
}

func compare(t *store.Tx, req ComparisonRequest) (Comparison, error) {
	m, err := Match(t, printing.NewReader(t), req)
	if err != nil {
		return Comparison{}, err
	}
	return m.Ask(req.Question)
}

// pairing is two loaded sides with everything that does not hang on the question.
type pairing struct {
	comparison Comparison
	underTest  []string
}

// Match loads two groups of runs and computes what they show.
func Match(t *store.Tx, reader *printing.Reader, req ComparisonRequest) (m pairing, err error) {
	if len(req.ARunIDs) == 0 {
		return m, quantity.Errorf("a", "names no run; choose the runs of side A")
	}
	if len(req.BRunIDs) == 0 {
		return m, quantity.Errorf("b", "names no run; choose the runs of side B")
	}
	settings, err := t.Settings()
	if err != nil {
		return m, err
	}
	a, err := loadSide(t, reader, req.ARunIDs, req.PieceID)
	if err != nil {
		return m, err
	}
	b, err := loadSide(t, reader, req.BRunIDs, req.PieceID)
	if err != nil {
		return m, err
	}
	out := &m.comparison
	if out.A, err = a.figures(settings); err != nil {
		return m, err
	}
	if out.B, err = b.figures(settings); err != nil {
		return m, err
	}
	m.underTest = slices.DeleteFunc(slices.Clone(req.UnderTest), func(f string) bool {
		return f == "specimens" || !slices.Contains(audit.Factors(), f)
	})
	out.PolicyNotes = policyNotes(req.Policy, out.A, out.B)
	if out.Threads, err = threadsBetween(t, a, b); err != nil {
		return m, err
	}
	if out.Knots, err = knotsBetween(t, a, b); err != nil {
		return m, err
	}
	return m, out.contest()
}

// Ask audits the two sides for one question.
func (m pairing) Ask(question string) (out Comparison, err error) {
	out = m.comparison
	out.Question = question
	out.Audit, err = audit.Compare(audit.CompareInput{A: out.A.Conditions, B: out.B.Conditions, UnderTest: m.underTest, Question: question})
	return out, err
}

// contest computes what the two sides show against each other.
func (c *Comparison) contest() error {
	c.Verdicts = []string{}
	if len(c.A.actual) >= 2 && len(c.B.actual) >= 2 {
		time, err := evidence.Means(evidence.MeansInput{A: c.A.actual, B: c.B.actual})
		if err != nil {
			return err
		}
		c.Time = &time
	}
	if c.A.Outcomes.Judged > 0 && c.B.Outcomes.Judged > 0 {
		rates, err := evidence.TwoRates(evidence.TwoRatesInput{
			A: evidence.Count{Events: c.A.Outcomes.Failed, Trials: c.A.Outcomes.Judged},
			B: evidence.Count{Events: c.B.Outcomes.Failed, Trials: c.B.Outcomes.Judged}})
		if err != nil {
			return err
		}
		c.Failures = &rates
		c.Verdicts = append(c.Verdicts, failureSentence(rates))
	} else {
		c.Verdicts = append(c.Verdicts, "A side has no judged specimen, so failure rates cannot be compared yet.")
	}
	c.Features = []FeatureContest{}
	if c.A.Dimensions == nil {
		return nil
	}
	for _, f := range c.A.Dimensions.Features {
		va, vb := c.A.values[f.Feature], c.B.values[f.Feature]
		if len(va) < 2 || len(vb) < 2 {
			continue
		}
		means, err := evidence.Means(evidence.MeansInput{A: va, B: vb})
		if err != nil {
			return err
		}
		c.Features = append(c.Features, FeatureContest{Feature: f.Feature, NominalMM: f.NominalMM, NA: int64(len(va)), NB: int64(len(vb)), Means: means})
	}
	return nil
}

func failureSentence(r evidence.TwoRatesResult) string {
	switch {
	case r.Verdict == evidence.Clear:
		return fmt.Sprintf("The failure rates are clearly different (p %s).", chance(r.P))
	case r.Verdict == evidence.Likely:
		return fmt.Sprintf("The failure rates are likely different (p %s).", chance(r.P))
	case r.NeededPerGroup == nil:
		return "The failure rates are the same as far as these counts go; that shows no difference, and no equality either."
	}
	return fmt.Sprintf("The difference in failure rates is not shown (p %s); if it is real, about %s a side would show it.", chance(r.P), say.Counted(*r.NeededPerGroup, "specimen"))
}

// chance is a p as it stands in a sentence: = 0.03, or below 0.001.
func chance(p float64) string {
	words := say.Chance(p)
	if strings.HasPrefix(words, "below") {
		return words
	}
	return "= " + words
}

func policyNotes(policy string, a, b Side) []string {
	notes := []string{}
	wanted := map[string]string{"each_calibrated": "calibrated", "maker_default": "default"}[policy]
	for _, s := range []struct {
		name string
		side Side
	}{{"A", a}, {"B", b}} {
		if wanted != "" && s.side.Basis != wanted {
			notes = append(notes, fmt.Sprintf("The review says %s settings, but side %s (%s) is %s.", say.Words(policy), s.name, s.side.Profile, s.side.Basis))
		}
	}
	return notes
}

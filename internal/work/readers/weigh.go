package readers

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/claims"
	"ojime/internal/core/verdict"
	"ojime/internal/say"
	"ojime/internal/work/ledger"
)

// ReaderSheet is a reader with the set-ups weighed for them: Quality without money, Whole with it; nil where fewer than two
// can be ranked. Says is what that comes to, Turns what would turn it.
type ReaderSheet struct {
	Reader  bench.Reader        `json:"reader"`
	Options []ReaderOption      `json:"options"`
	Rows    []ReaderRow         `json:"rows"`
	Quality *verdict.RankResult `json:"quality"`
	Whole   *verdict.RankResult `json:"whole"`
	Says    []string            `json:"says"`
	Turns   []string            `json:"turns"`
	Lines   []SensitivityLine   `json:"lines"`
}

// ReaderOption is a set-up as a reader sees it. Out says why it is not ranked; empty where it is.
type ReaderOption struct {
	Name   string      `json:"name"`
	Label  string      `json:"label"`
	Out    string      `json:"out"`
	Limits []LimitHeld `json:"limits"`
}

// LimitHeld is a must-have of a reader against a set-up.
type LimitHeld struct {
	Name  string `json:"name"`
	State string `json:"state" enum:"kept,broken,not_shown,not_known"`
	Says  string `json:"says"`
}

// ReaderRow is a criterion with the values of the options. Share is its part of all weight, LeftOut why it does not count.
type ReaderRow struct {
	Name    string   `json:"name"`
	Label   string   `json:"label"`
	Unit    string   `json:"unit"`
	Share   float64  `json:"share"`
	Worst   float64  `json:"worst"`
	Best    float64  `json:"best"`
	Money   bool     `json:"money"`
	LeftOut string   `json:"left_out"`
	Values  []string `json:"values"`
}

// SensitivityLine is the scores of the ranked options as the weight of one criterion runs from 0 to 1; Now is what it is.
type SensitivityLine struct {
	Criterion string                     `json:"criterion"`
	Now       float64                    `json:"now"`
	Options   []string                   `json:"options"`
	Points    []verdict.SensitivityPoint `json:"points"`
}

// sensitivitySteps are so many that a plot shows where lines cross; between them they are straight.
const sensitivitySteps = 4

// weigh weighs the options for a reader.
func (f field) weigh(r bench.Reader, claimed ledger.LedgerSheet) (ReaderSheet, error) {
	out := ReaderSheet{Reader: r, Options: []ReaderOption{}, Rows: []ReaderRow{}, Says: []string{}, Turns: []string{}, Lines: []SensitivityLine{}}
	values := make([][]*reached, len(r.Criteria))
	for i, k := range r.Criteria {
		values[i] = f.values(k.Measure, k.PieceID)
	}
	for o := range f.options {
		out.Options = append(out.Options, f.option(r, o))
	}
	var in []int // the options that are ranked
	for o, option := range out.Options {
		if option.Out == "" {
			in = append(in, o)
		}
	}
	input := f.input(r, values, in, &out)
	if len(in) < 2 || len(input.Criteria) == 0 {
		out.Says = append(out.Says, "Fewer than two set-ups can be weighed for this reader.")
		return out, nil
	}
	whole, err := verdict.Rank(input)
	if err != nil {
		return out, err
	}
	out.Whole = &whole
	out.Says = append(out.Says, verdict.Words(whole))
	if quality := withoutMoney(input, r); len(quality.Criteria) > 0 && len(quality.Criteria) < len(input.Criteria) {
		of, err := verdict.Rank(quality)
		if err != nil {
			return out, err
		}
		out.Quality = &of
		out.Says = append(out.Says, "Money apart: "+verdict.Words(of))
	}
	out.Says = append(out.Says, f.notes(r, values, in, out)...)
	if out.Turns, err = f.turns(r, input, whole, values, in, claimed); err != nil {
		return out, err
	}
	return out, out.sense(input)
}

// option holds the must-haves of a reader against a set-up.
func (f field) option(r bench.Reader, o int) ReaderOption {
	out := ReaderOption{Name: f.names[o], Label: f.options[o].Label, Limits: []LimitHeld{}}
	for _, l := range r.Limits {
		m, _ := f.measure(l.Measure)
		held := LimitHeld{Name: l.Name, State: verdict.NotKnown, Says: "not known"}
		if v := f.values(l.Measure, l.PieceID)[o]; v != nil {
			held.State, held.Says = verdict.Keeps(l.Bound, l.Value, &v.value, v.ci), v.says(m.Unit)
		}
		held.Says = fmt.Sprintf("%s %s: %s", say.Words(l.Bound), say.InUnit(say.Figure(l.Value), m.Unit), held.Says)
		if out.Limits = append(out.Limits, held); held.State == verdict.Broken {
			out.Out = fmt.Sprintf("%s, %s", l.Name, held.Says)
		}
	}
	return out
}

// input is what is ranked, and fills the rows: a criterion that fewer than two of the ranked have is left out.
func (f field) input(r bench.Reader, values [][]*reached, in []int, out *ReaderSheet) verdict.RankInput {
	input := verdict.RankInput{}
	for _, o := range in {
		input.Options = append(input.Options, f.names[o])
	}
	sum := 0.0
	for i, k := range r.Criteria {
		m, known := f.measure(k.Measure)
		row := ReaderRow{Name: k.Name, Label: m.Label, Unit: m.Unit, Worst: k.Worst, Best: k.Best, Money: isMoney(k.Measure), Values: []string{}}
		var of []*reached
		for o := range f.options {
			said := "not known"
			if v := values[i][o]; v != nil {
				said = v.says(m.Unit)
			}
			row.Values = append(row.Values, said)
			if slices.Contains(in, o) {
				of = append(of, values[i][o])
			}
		}
		switch {
		case !known:
			row.LeftOut = "this review measured nothing of the kind"
		case k.Weight == 0:
			row.LeftOut = "it weighs nothing"
		case knownOf(of) < 2:
			row.LeftOut = "it is known of fewer than two"
		default:
			input.Criteria = append(input.Criteria, verdict.Criterion{Name: k.Name, Weight: k.Weight, Worst: k.Worst, Best: k.Best, Values: weighed(of)})
			row.Share, sum = k.Weight, sum+k.Weight
		}
		out.Rows = append(out.Rows, row)
	}
	for i := range out.Rows {
		if sum > 0 {
			out.Rows[i].Share /= sum
		}
	}
	return input
}

func isMoney(measure string) bool { return measure == ofPrice || measure == ofCost }

// withoutMoney is a weighing without price and cost.
func withoutMoney(in verdict.RankInput, r bench.Reader) verdict.RankInput {
	out := verdict.RankInput{Options: in.Options}
	for _, k := range in.Criteria {
		at := slices.IndexFunc(r.Criteria, func(c bench.ReaderCriterion) bool { return c.Name == k.Name })
		if at >= 0 && !isMoney(r.Criteria[at].Measure) {
			out.Criteria = append(out.Criteria, k)
		}
	}
	return out
}

// notes say what was left out, who is out, and what counts as exact though it is not.
func (f field) notes(r bench.Reader, values [][]*reached, in []int, s ReaderSheet) []string {
	var out, exact []string
	for _, o := range s.Options {
		if o.Out != "" {
			out = append(out, fmt.Sprintf("%s is out: %s.", o.Name, o.Out))
		}
	}
	out = append(out, f.unshown(r, s.Options)...)
	for i, row := range s.Rows {
		if row.LeftOut != "" && row.LeftOut != "it weighs nothing" {
			out = append(out, fmt.Sprintf("%s is left out: %s.", row.Name, row.LeftOut))
			continue
		}
		for _, o := range in {
			if v := values[i][o]; v != nil && v.ci == nil && row.LeftOut == "" && r.Criteria[i].Measure != ofPrice {
				exact = append(exact, row.Name)
				break
			}
		}
	}
	for _, score := range s.Whole.Scores {
		if score.Score == nil {
			out = append(out, score.Option+" is not ranked: something that weighs is not known of it.")
		}
	}
	if len(exact) > 0 {
		out = append(out, fmt.Sprintf("Counted as exact, since there is no interval: %s. The odds are surer than they should be.", say.List(exact)))
	}
	return out
}

// unshown say of each must-have whom it is not shown to hold for.
func (f field) unshown(r bench.Reader, options []ReaderOption) (out []string) {
	for i, l := range r.Limits {
		var names []string
		for _, o := range options {
			if held := o.Limits[i]; held.State == verdict.NotShown || held.State == verdict.NotKnown {
				names = append(names, o.Name)
			}
		}
		if len(names) > 0 {
			m, _ := f.measure(l.Measure)
			out = append(out, fmt.Sprintf("That it holds is not shown of %s: %s, %s %s.", say.List(names), l.Name, say.Words(l.Bound), strings.TrimSpace(say.InUnit(say.Figure(l.Value), m.Unit))))
		}
	}
	return out
}

// turns say what would turn a verdict: a weight, a value of the leader, a claim that nobody tested.
func (f field) turns(r bench.Reader, in verdict.RankInput, whole verdict.RankResult, values [][]*reached, options []int, claimed ledger.LedgerSheet) ([]string, error) {
	out := []string{}
	if whole.Leader == nil {
		return out, nil
	}
	sum := 0.0
	for _, k := range in.Criteria {
		sum += k.Weight
	}
	for i, flip := range whole.Flips {
		if flip.Weight != nil {
			out = append(out, fmt.Sprintf("If %s weighed %s of all instead of %s, %s would lead.", flip.Criterion, percent(*flip.Weight), percent(in.Criteria[i].Weight/sum), *flip.To))
		}
	}
	leader := slices.Index(in.Options, *whole.Leader)
	for i, flip := range whole.ValueFlips {
		if flip.Value == nil || in.Criteria[i].Values[leader] == nil {
			continue
		}
		k := r.Criteria[slices.IndexFunc(r.Criteria, func(c bench.ReaderCriterion) bool { return c.Name == flip.Criterion })]
		m, _ := f.measure(k.Measure)
		out = append(out, fmt.Sprintf("If %s of %s were %s instead of %s, the second would be level.", flip.Criterion, *whole.Leader, say.InUnit(say.Figure(*flip.Value), m.Unit), say.InUnit(say.Figure(in.Criteria[i].Values[leader].Value), m.Unit)))
	}
	for _, row := range claimed.Rows {
		if row.Claim == nil || row.Claim.Kind != bench.ClaimMeasure || row.State != claims.Untested && row.State != claims.CannotTell && row.State != claims.Partly {
			continue
		}
		if text, err := f.ifTrue(*row.Claim, r, in, *whole.Leader, options); err != nil {
			return out, err
		} else if text != "" {
			out = append(out, text)
		}
	}
	return out, nil
}

// percent is a weight in two figures.
func percent(share float64) string { return say.Figures(100*share, 2) + " %" }

// ifTrue says who would lead if a claim were true; empty where that changes nothing.
func (f field) ifTrue(c bench.LedgerClaim, r bench.Reader, in verdict.RankInput, leader string, options []int) (string, error) {
	changed := false
	then := verdict.RankInput{Options: in.Options}
	for _, k := range in.Criteria {
		at := slices.IndexFunc(r.Criteria, func(x bench.ReaderCriterion) bool { return x.Name == k.Name })
		k.Values = slices.Clone(k.Values)
		for i, o := range options {
			s := f.options[o]
			if r.Criteria[at].Measure == c.Of && (c.MachineID == nil || *c.MachineID == s.MachineID) && (c.ResinID == nil || *c.ResinID == s.ResinID) {
				k.Values[i], changed = &verdict.Value{Value: *c.Value}, true
			}
		}
		then.Criteria = append(then.Criteria, k)
	}
	if !changed {
		return "", nil
	}
	result, err := verdict.Rank(then)
	if err != nil || result.Leader == nil || *result.Leader == leader {
		return "", err
	}
	return fmt.Sprintf("If claim %s were true (“%s”), %s would lead.", c.Code, c.Words, *result.Leader), nil
}

// sense is how the scores run as each weight is turned.
func (s *ReaderSheet) sense(in verdict.RankInput) error {
	sum := 0.0
	for _, k := range in.Criteria {
		sum += k.Weight
	}
	for i, k := range in.Criteria {
		points, err := verdict.Sensitivity(in, i, sensitivitySteps)
		if err != nil {
			return err
		}
		s.Lines = append(s.Lines, SensitivityLine{k.Name, k.Weight / sum, in.Options, points})
	}
	return nil
}

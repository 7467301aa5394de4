// Package verdict weighs options for one reader: criteria with their anchors and weights, how sure the order is, and
// what would turn it.
package verdict

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/integrate/quad"
	"gonum.org/v1/gonum/stat/distuv"

	"ojime/internal/core/quantity"
)

// Value is what an option reaches of a criterion, in its unit, with its standard error, 0 where none is said.
type Value struct {
	Value float64  `json:"value"`
	SD    *float64 `json:"sd,omitempty"`
}

// Values are those of the options in their order, nil where one is not known.
type Values []*Value

// Criterion is something that a reader weighs: Worst and Best are the values worth nothing and everything, in the
// unit of the values; Best may lie below Worst. Values has one for each option, nil where it is not known. Weight is
// not below 0, on any scale.
type Criterion struct {
	Name   string  `json:"name"`
	Weight float64 `json:"weight"`
	Worst  float64 `json:"worst"`
	Best   float64 `json:"best"`
	Values Values  `json:"values"`
}

// RankInput is two or more options of different names, and criteria of which some weigh.
type RankInput struct {
	Options  []string    `json:"options"`
	Criteria []Criterion `json:"criteria"`
}

// Score is what an option comes to, from 0 to 1, with its standard error and the probability of being the best of
// those that have scores; all nil where a value that weighs is not known.
type Score struct {
	Option string   `json:"option"`
	Score  *float64 `json:"score"`
	SD     *float64 `json:"sd"`
	PBest  *float64 `json:"p_best"`
}

// Flip is the weight of a criterion, of all being 1, nearest to the present one at which To draws level with the leader
// and leads beyond, the others keeping their proportions; nil where there is none.
type Flip struct {
	Criterion string   `json:"criterion"`
	Weight    *float64 `json:"weight"`
	To        *string  `json:"to"`
}

// ValueFlip is the value of the leader at which the second draws level, all else equal; nil where none between the
// anchors does.
type ValueFlip struct {
	Criterion string   `json:"criterion"`
	Value     *float64 `json:"value"`
}

// RankResult is the scores in the order of the options, the leader (nil for a tie at the top) with its margin over the
// second, and what would turn that. It warns missing.
type RankResult struct {
	Scores     []Score     `json:"scores"`
	Leader     *string     `json:"leader"`
	Margin     *float64    `json:"margin"`
	Flips      []Flip      `json:"flips"`
	ValueFlips []ValueFlip `json:"value_flips"`
	quantity.Warnings
}

// Bounds of what counts as level, and the least error of a score.
const (
	levelWithin = 1e-9
	leastSD     = 1e-6
)

// Rank weighs the options by an additive value function (Keeney & Raiffa 1976): each value on a line between its
// anchors, errors as of independent normal values. An error names the field (criteria[0].worst).
func Rank(in RankInput) (RankResult, error) {
	if err := in.check(); err != nil {
		return RankResult{}, err
	}
	r := ranking{in: in, weights: in.weights(), share: in.shares()}
	out := RankResult{Scores: []Score{}, Flips: []Flip{}, ValueFlips: []ValueFlip{}, Warnings: quantity.None()}
	for o, name := range in.Options {
		s := Score{Option: name}
		if r.known(o) {
			r.scored = append(r.scored, o)
			s.Score, s.SD = quantity.Ptr(r.score(o)), quantity.Ptr(r.sd(o))
		} else {
			out.Warn("missing", "A value that weighs is not known for some options; they have no score.")
		}
		out.Scores = append(out.Scores, s)
	}
	for _, o := range r.scored {
		out.Scores[o].PBest = quantity.Ptr(r.best(o))
	}
	leader, second := r.top()
	if leader >= 0 {
		out.Leader = &in.Options[leader]
		if second >= 0 {
			out.Margin = quantity.Ptr(r.score(leader) - r.score(second))
		}
	}
	for c := range in.Criteria {
		out.Flips = append(out.Flips, r.flip(c, leader))
		out.ValueFlips = append(out.ValueFlips, r.valueFlip(c, leader, second))
	}
	return out, nil
}

func (in RankInput) check() error {
	var c quantity.Checks
	if len(in.Options) < 2 {
		c.Fail("options", "are %d; two at least are weighed", len(in.Options))
	}
	for i, name := range in.Options {
		if slices.Contains(in.Options[:i], name) {
			c.Fail(fmt.Sprintf("options[%d]", i), "is %.40q, which stands there already", name)
		}
	}
	sum := 0.0
	for i, k := range in.Criteria {
		at := fmt.Sprintf("criteria[%d].", i)
		c.NotBelow(at+"weight", k.Weight)
		c.Number(at+"worst", k.Worst)
		c.Number(at+"best", k.Best)
		if k.Worst == k.Best {
			c.Fail(at+"worst", "is %g, as is best; the anchors of a criterion differ", k.Worst)
		}
		if len(k.Values) != len(in.Options) {
			c.Fail(at+"values", "are %d for %d options", len(k.Values), len(in.Options))
		}
		for j, v := range k.Values {
			if v != nil {
				c.Number(fmt.Sprintf("%svalues[%d].value", at, j), v.Value)
				c.NotBelowIf(fmt.Sprintf("%svalues[%d].sd", at, j), v.SD)
			}
		}
		sum += k.Weight
	}
	if c.Err() == nil && !(sum > 0) {
		c.Fail("criteria", "weigh nothing; give one a weight above 0")
	}
	return c.Err()
}

// weights are those of the criteria, scaled to sum 1.
func (in RankInput) weights() []float64 {
	sum, out := 0.0, make([]float64, len(in.Criteria))
	for _, k := range in.Criteria {
		sum += k.Weight
	}
	for i, k := range in.Criteria {
		out[i] = k.Weight / sum
	}
	return out
}

// reached is how far a value lies from the worst to the best, held within 0 to 1, and its error on that line.
type reached struct{ share, sd float64 }

func (in RankInput) shares() [][]*reached {
	out := make([][]*reached, len(in.Criteria))
	for c, k := range in.Criteria {
		out[c] = make([]*reached, len(k.Values))
		for o, v := range k.Values {
			if v != nil {
				out[c][o] = &reached{min(1, max(0, (v.Value-k.Worst)/(k.Best-k.Worst))), quantity.Or(v.SD, 0) / math.Abs(k.Best-k.Worst)}
			}
		}
	}
	return out
}

// ranking is a reader's weighing while it is worked out; scored are the options that have scores.
type ranking struct {
	in      RankInput
	weights []float64
	share   [][]*reached // by criterion and option
	scored  []int
}

// known reports an option with a value of every criterion that weighs.
func (r ranking) known(o int) bool {
	for c, w := range r.weights {
		if w > 0 && r.share[c][o] == nil {
			return false
		}
	}
	return true
}

func (r ranking) score(o int) (sum float64) {
	for c, w := range r.weights {
		if w > 0 {
			sum += w * r.share[c][o].share
		}
	}
	return sum
}

func (r ranking) sd(o int) float64 {
	sum := 0.0
	for c, w := range r.weights {
		if w > 0 {
			sum += w * w * r.share[c][o].sd * r.share[c][o].sd
		}
	}
	return math.Sqrt(sum)
}

// top is the leader, −1 for none, and the second after it, −1 for none.
func (r ranking) top() (leader, second int) {
	order := slices.Clone(r.scored)
	slices.SortStableFunc(order, func(a, b int) int {
		if r.score(a) > r.score(b) {
			return -1
		}
		if r.score(a) < r.score(b) {
			return 1
		}
		return 0
	})
	switch {
	case len(order) == 0:
		return -1, -1
	case len(order) == 1:
		return order[0], -1
	case r.score(order[0])-r.score(order[1]) <= levelWithin:
		return -1, -1
	}
	return order[0], order[1]
}

// farEnough is so many standard errors out that nothing is left.
const farEnough = 9

// best is the probability that an option has the highest score: the integral over its own error of all others lying
// below it. Where another's error is small beside its own, that jumps, so that it is integrated piece by piece.
func (r ranking) best(o int) float64 {
	own, sd := r.score(o), math.Max(leastSD, r.sd(o))
	cuts := []float64{-farEnough, farEnough}
	for _, other := range r.scored {
		if other == o {
			continue
		}
		at, width := (r.score(other)-own)/sd, math.Max(leastSD, r.sd(other))/sd
		for _, n := range []float64{-8, -3, -1, 0, 1, 3, 8} {
			if cut := at + n*width; cut > -farEnough && cut < farEnough {
				cuts = append(cuts, cut)
			}
		}
	}
	slices.Sort(cuts)
	normal, sum := distuv.UnitNormal, 0.0
	for i := range cuts[1:] {
		sum += quad.Fixed(func(t float64) float64 {
			p := normal.Prob(t)
			for _, other := range r.scored {
				if other != o {
					p *= normal.CDF((own + sd*t - r.score(other)) / math.Max(leastSD, r.sd(other)))
				}
			}
			return p
		}, cuts[i], cuts[i+1], 64, quad.Legendre{}, 0)
	}
	return sum
}

// flip is where another option takes the lead as the weight of a criterion is turned.
func (r ranking) flip(c, leader int) Flip {
	out := Flip{Criterion: r.in.Criteria[c].Name}
	w := r.weights[c]
	if leader < 0 || quantity.Equal(w, 1) || r.share[c][leader] == nil {
		return out
	}
	// The lead over an option is a straight line of the weight: over what it is without this criterion, and with it alone.
	rest := func(o int) float64 {
		if w == 0 {
			return r.score(o)
		}
		return (r.score(o) - w*r.share[c][o].share) / (1 - w)
	}
	best, steepest := -1, 0.0
	var at float64
	for _, o := range r.scored {
		if o == leader || r.share[c][o] == nil {
			continue
		}
		without, alone := rest(leader)-rest(o), r.share[c][leader].share-r.share[c][o].share
		slope := alone - without
		if math.Abs(slope) <= levelWithin {
			continue
		}
		root := -without / slope
		if root <= levelWithin || root >= 1-levelWithin {
			continue
		}
		beyond := slope * math.Copysign(1, root-w) // below 0: it leads there
		nearer := best < 0 || math.Abs(root-w) < math.Abs(at-w)-levelWithin
		level := best >= 0 && math.Abs(root-at) <= levelWithin && beyond < steepest
		if nearer || level {
			best, at, steepest = o, root, beyond
		}
	}
	if best >= 0 {
		out.Weight, out.To = &at, &r.in.Options[best]
	}
	return out
}

// valueFlip is how much less of a criterion costs the leader its lead.
func (r ranking) valueFlip(c, leader, second int) ValueFlip {
	k := r.in.Criteria[c]
	out := ValueFlip{Criterion: k.Name}
	if leader < 0 || second < 0 || r.weights[c] <= 0 {
		return out
	}
	share := r.share[c][leader].share - (r.score(leader)-r.score(second))/r.weights[c]
	if share >= 0 && share <= 1 {
		out.Value = quantity.Ptr(k.Worst + share*(k.Best-k.Worst))
	}
	return out
}

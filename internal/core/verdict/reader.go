package verdict

import (
	"fmt"
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// What becomes of a must-have.
const (
	Kept     = "kept"
	Broken   = "broken"
	NotShown = "not_shown"
	NotKnown = "not_known"
)

// AtMost and AtLeast are the bounds of a must-have.
const (
	AtMost  = "at_most"
	AtLeast = "at_least"
)

// Keeps holds a must-have against a value and its interval at 95 %, in the same unit: kept or broken where all of the
// interval is on one side, else not shown; a value without an interval counts as exact, and nil is not known.
func Keeps(bound string, limit float64, value *float64, ci *quantity.Interval) string {
	if value == nil {
		return NotKnown
	}
	low, high := *value, *value
	if ci != nil {
		low, high = ci[0], ci[1]
	}
	if bound == AtLeast {
		low, high, limit = -high, -low, -limit
	}
	switch {
	case high <= limit:
		return Kept
	case low > limit:
		return Broken
	}
	return NotShown
}

// SensitivityPoint is the scores of all options at a weight of one criterion, of all being 1; nil where an option has none.
type SensitivityPoint struct {
	Weight float64    `json:"weight"`
	Scores []*float64 `json:"scores"`
}

// Sensitivity is the scores as the weight of one criterion (from 0) runs from 0 to 1 in so many even steps, the others
// keeping their proportions: between two points they are straight. Where no other criterion weighs, the end at 0 is left
// out.
func Sensitivity(in RankInput, criterion, steps int) ([]SensitivityPoint, error) {
	if err := in.check(); err != nil {
		return nil, err
	}
	if criterion < 0 || criterion >= len(in.Criteria) || steps < 1 {
		return nil, quantity.Errorf("criterion", "is %d in %d steps; it is one of the criteria, from 0, in a step or more", criterion, steps)
	}
	weights, share := in.weights(), in.shares()
	rest := 1 - weights[criterion]
	out := []SensitivityPoint{}
	for i := range steps + 1 {
		at := float64(i) / float64(steps)
		turned := make([]float64, len(weights))
		for c, w := range weights {
			switch {
			case c == criterion:
				turned[c] = at
			case rest > 0:
				turned[c] = w / rest * (1 - at)
			}
		}
		if !(rest > 0) && at < 1 {
			continue
		}
		r := ranking{in: in, weights: turned, share: share}
		point := SensitivityPoint{Weight: at, Scores: make([]*float64, len(in.Options))}
		for o := range in.Options {
			if r.known(o) {
				point.Scores[o] = quantity.Ptr(r.score(o))
			}
		}
		out = append(out, point)
	}
	return out, nil
}

// Bounds of how sure a verdict is said: a practitioner's.
const (
	sure   = 0.95
	likely = 0.8
)

// Words say who is best for a reader, and how sure that is: nobody wins where the leader's chance of being the best is
// below four in five.
func Words(r RankResult) string {
	if r.Leader == nil {
		scored := 0
		for _, s := range r.Scores {
			if s.Score != nil {
				scored++
			}
		}
		if scored == 0 {
			return "Nothing can be ranked: no option has a value of every criterion that weighs."
		}
		return "Nobody wins on these data: the first are level."
	}
	var leader, second *Score
	for i := range r.Scores {
		s := &r.Scores[i]
		switch {
		case s.Score == nil:
		case s.Option == *r.Leader:
			leader = s
		case second == nil || *s.Score > *second.Score:
			second = s
		}
	}
	if second == nil {
		return fmt.Sprintf("Only %s has a value of every criterion that weighs: there is nobody to rank it against.", *r.Leader)
	}
	figures := fmt.Sprintf("%s against %s for %s; the chance that it is the best is %s", say.Figures(*leader.Score, 2), say.Figures(*second.Score, 2), second.Option, chance(*leader.PBest))
	switch {
	case *leader.PBest >= sure:
		return fmt.Sprintf("%s is the best for this reader: it scores %s.", *r.Leader, figures)
	case *leader.PBest >= likely:
		return fmt.Sprintf("%s is likely the best for this reader: it scores %s.", *r.Leader, figures)
	}
	return fmt.Sprintf("Nobody wins on these data. %s stands first with %s.", *r.Leader, figures)
}

// chance is a probability in per cent, which is never said to be none or all.
func chance(p float64) string {
	switch pct := math.Round(100 * p); {
	case pct >= 100:
		return "above 99 %"
	case pct <= 0:
		return "below 1 %"
	default:
		return say.Percent(pct / 100)
	}
}

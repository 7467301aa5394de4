package contest

import (
	"math"

	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
)

// Counted is how many p values a table holds, and how many of them were declared to decide.
type Counted struct {
	Table    int `json:"table"`
	Declared int `json:"declared"`
}

// Among is over how many p values that of a pair is adjusted.
func (c Counted) Among(p Pair) int {
	if p.Declared {
		return c.Declared
	}
	return c.Table
}

// Adjust counts all p of a table: Holm's method (1979) holds the chance that anything in it
// is wrongly called likely or clear to one in twenty. Those of a measure and of pairs that
// were declared to decide are adjusted among themselves; every other among all of the
// table. What so many prints could show at all, and how many would, are said after that.
// Declared may be nil.
func Adjust(measures []Measure, declared func(Measure, Pair) bool) (Counted, error) {
	var all, deciding []*Pair
	for i := range measures {
		for j := range measures[i].Pairs {
			pair := &measures[i].Pairs[j]
			all = append(all, pair)
			if pair.Declared = declared != nil && declared(measures[i], *pair); pair.Declared {
				deciding = append(deciding, pair)
			}
		}
	}
	var out Counted
	var err error
	if out.Table, err = adjust(all, false); err != nil {
		return out, err
	}
	out.Declared, err = adjust(deciding, true)
	return out, err
}

// adjust adjusts the p of pairs among themselves and gives their number; those that were
// declared are left to a family of their own.
func adjust(pairs []*Pair, declared bool) (int, error) {
	var in evidence.HolmInput
	for _, pair := range pairs {
		in.P = append(in.P, pair.P)
	}
	adjusted, err := evidence.Holm(in)
	if err != nil {
		return 0, err
	}
	for i, pair := range pairs {
		if pair.Declared != declared {
			continue
		}
		pair.PAdjusted, pair.Verdict = adjusted.Adjusted[i], evidence.NotShown
		if pair.PAdjusted != nil {
			pair.Verdict = evidence.VerdictOf(*pair.PAdjusted)
		}
		if pair.LeastP != nil {
			pair.LeastP = quantity.Ptr(math.Min(1, *pair.LeastP*float64(adjusted.M)))
		}
		pair.CanShow = pair.P != nil && (pair.LeastP == nil || *pair.LeastP < evidence.Significance)
		if pair.PrintsNeeded != nil {
			pair.PrintsNeeded = quantity.Ptr(max(*pair.PrintsNeeded, FewestPrints(adjusted.M)))
		}
	}
	return adjusted.M, nil
}

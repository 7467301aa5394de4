package contest

import (
	"ojime/internal/core/evidence"
	"ojime/internal/core/setup"
)

// MatchedRates are Rates of prints that hold different things: strata[kind][side] are the
// prints of one kind. What a side shows is over all of its prints; two sides are set
// against each other kind by kind, over those that both have.
func MatchedRates(key, label string, strata [][][]evidence.PrintCount, pairs [][2]int, matters *float64) (Measure, error) {
	if len(strata) == 0 {
		return Rates(key, label, nil, nil, matters)
	}
	sides := make([][]evidence.PrintCount, len(strata[0]))
	for _, kind := range strata {
		for i, prints := range kind {
			sides[i] = append(sides[i], prints...)
		}
	}
	m, err := Rates(key, label, sides, pairs, matters)
	if err != nil || len(strata) == 1 {
		return m, err
	}
	for i := range m.Pairs {
		p := &m.Pairs[i]
		if p.P == nil {
			continue
		}
		var both []evidence.Stratum
		for _, kind := range strata {
			if s := (evidence.Stratum{A: kind[p.A], B: kind[p.B]}); len(s.A) > 0 && len(s.B) > 0 {
				both = append(both, s)
			}
		}
		p.Kinds = int64(len(both))
		if len(both) == 0 {
			*p = Pair{A: p.A, B: p.B, Verdict: evidence.NotShown, Reason: "No print of one side holds what a print of the other does."}
			continue
		}
		r, err := evidence.Matched(both)
		if err != nil {
			return m, err
		}
		p.Difference, p.CI, p.P, p.LeastP = &r.Difference, &r.CI, &r.P, &r.LeastP
	}
	return m, nil
}

// MatchedTimes are the ratios of two sides' times plate by plate: strata[kind][side] are the
// times in s of one kind of plate. A side has no time of its own over different plates.
func MatchedTimes(key, label string, strata [][][]float64, pairs [][2]int) Measure {
	m := Measure{Key: key, Label: label, Kind: Time, Pairs: []Pair{}}
	if len(strata) == 0 {
		return m
	}
	for i := range strata[0] {
		e := Estimate{Note: "Plates of other fill are not averaged; see the differences."}
		for _, kind := range strata {
			e.Prints += int64(len(kind[i]))
		}
		m.Sides = append(m.Sides, e)
	}
	for _, at := range pairs {
		pair := Pair{A: at[0], B: at[1], Verdict: evidence.NotShown}
		var both []setup.TimeStratum
		for _, kind := range strata {
			if s := (setup.TimeStratum{A: kind[at[0]], B: kind[at[1]]}); len(s.A) > 0 && len(s.B) > 0 {
				both = append(both, s)
			}
		}
		if pair.Kinds = int64(len(both)); len(both) == 0 {
			pair.Reason = "No plate of one side holds what a plate of the other does."
		} else {
			r := setup.MatchedTimes(both)
			pair.Difference, pair.CI, pair.P = &r.Ratio, r.CI, r.P
			if r.P == nil {
				pair.Reason = "So few times have no spread."
			}
		}
		m.Pairs = append(m.Pairs, pair)
	}
	return m
}

// MatchedErrors are errors in millimetres of several pieces, each counting alike:
// pieces[piece][side]. Two sides are set against each other piece by piece, over those that
// both have.
func MatchedErrors(key, label string, pieces [][]evidence.NestedSide, pairs [][2]int) (Measure, error) {
	m := Measure{Key: key, Label: label, Kind: Length, Signed: true, Pairs: []Pair{}}
	if len(pieces) == 0 {
		return m, nil
	}
	for i := range pieces[0] {
		e := Estimate{Note: "by piece"}
		for _, piece := range pieces {
			e.Prints += int64(len(piece[i].Prints))
		}
		m.Sides = append(m.Sides, e)
	}
	for _, at := range pairs {
		pair := Pair{A: at[0], B: at[1], Verdict: evidence.NotShown}
		var both []evidence.NestedResult
		for _, piece := range pieces {
			a, b := piece[at[0]], piece[at[1]]
			if len(a.Prints) == 0 || len(b.Prints) == 0 {
				continue
			}
			r, err := evidence.Nested(evidence.NestedInput{A: a, B: &b})
			if err != nil {
				return m, err
			}
			if r.CI != nil { // a single print has no interval, and enters no mean
				both = append(both, r)
			}
		}
		pair.Kinds = int64(len(both))
		if pair.Difference, pair.CI, pair.P = evidence.MatchedNested(both); pair.P == nil {
			pair.Reason = "No piece was read on two prints of either side."
		}
		m.Pairs = append(m.Pairs, pair)
	}
	return m, nil
}

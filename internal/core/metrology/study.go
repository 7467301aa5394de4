package metrology

import "math/rand/v2"

// StudyStep is one reading of a repeatability study: round, operator and part, from 0 on.
type StudyStep struct{ Round, Operator, Part int }

// StudyOrder is the order in which a study is taken, drawn from a seed: in each round every
// operator measures every part once, in an order of the round's own, so that no reading of a
// part follows another by the same hand, and what warms up or tires falls on all parts alike.
func StudyOrder(parts, operators, repeats int, seed uint64) []StudyStep {
	chance := rand.New(rand.NewPCG(seed, 0x9e3779b97f4a7c15))
	out := make([]StudyStep, 0, parts*operators*repeats)
	for round := range repeats {
		for _, operator := range chance.Perm(operators) {
			order := chance.Perm(parts)
			if n := len(out); n > 0 && out[n-1].Operator == operator && out[n-1].Part == order[0] {
				order[0], order[len(order)-1] = order[len(order)-1], order[0]
			}
			for _, part := range order {
				out = append(out, StudyStep{round, operator, part})
			}
		}
	}
	return out
}

// StudyValues puts readings in the order of a study by part, operator and repeat, as Gauge
// takes them. There are as many readings as steps.
func StudyValues(steps []StudyStep, readings []float64) [][][]float64 {
	var out [][][]float64
	for i, s := range steps {
		for len(out) <= s.Part {
			out = append(out, nil)
		}
		for len(out[s.Part]) <= s.Operator {
			out[s.Part] = append(out[s.Part], nil)
		}
		for len(out[s.Part][s.Operator]) <= s.Round {
			out[s.Part][s.Operator] = append(out[s.Part][s.Operator], 0)
		}
		out[s.Part][s.Operator][s.Round] = readings[i]
	}
	return out
}

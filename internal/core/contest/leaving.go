package contest

import (
	"fmt"

	"ojime/internal/say"
)

// Changed says what leaving prints of one side out did: each of its figures that reads
// otherwise without them, and each verdict that does. Both tables have the same sides; a
// row that stands in the first only is of the prints left out alone.
func Changed(with, without []Measure, side int, names []string) (out []string) {
	after := map[string]Measure{}
	for _, m := range without {
		after[m.Key] = m
	}
	for _, before := range with {
		m, stands := after[before.Key]
		if !stands {
			out = append(out, fmt.Sprintf("%s: read on what is left out alone.", before.Label))
			continue
		}
		if a, b := before.Sides[side], m.Sides[side]; !before.readAlike(a, b) {
			out = append(out, fmt.Sprintf("%s: %s with it, %s without.", before.Label, before.Told(a), m.Told(b)))
		}
		for i, p := range before.Pairs {
			if q := m.Pairs[i]; p.Verdict != q.Verdict {
				out = append(out, fmt.Sprintf("%s, %s against %s: %s with it, %s without.", before.Label, names[p.A], names[p.B], verdictOf(p), verdictOf(q)))
			}
		}
	}
	return out
}

// readAlike says that two estimates are written alike, however many prints they rest on.
func (m Measure) readAlike(a, b Estimate) bool {
	if m.Kind == Share && a.Value != nil && b.Value != nil {
		return say.Percent(*a.Value) == say.Percent(*b.Value)
	}
	a.Prints, b.Prints = 0, 0
	return m.Told(a) == m.Told(b)
}

func verdictOf(p Pair) string {
	if p.Verdict == "" {
		return "nothing to hold against each other"
	}
	return say.Words(p.Verdict)
}

package contest

import (
	"math"
	"strings"
	"testing"

	"ojime/internal/core/evidence"
)

// sixAgainstOne are six sides against the first, for two measures of the same prints: the
// last side fails throughout.
func sixAgainstOne(t *testing.T, prints int) []Measure {
	t.Helper()
	var all [][]evidence.PrintCount
	for side := range 6 {
		counts := make([]evidence.PrintCount, prints)
		for i := range counts {
			counts[i] = evidence.PrintCount{Judged: 6}
			if side == 5 {
				counts[i].Failed = 6
			}
		}
		all = append(all, counts)
	}
	var out []Measure
	for _, key := range []string{"failures", "marks"} {
		m, err := Rates(key, key, all, Between(6, 0), nil)
		out = append(out, must(t, m, err))
	}
	return out
}

// What was declared to decide is adjusted among itself: one pair of four prints a side can
// show what it could not among ten.
func TestWhatWasDeclaredIsAdjustedAmongItself(t *testing.T) {
	open := sixAgainstOne(t, 4)
	counted, err := Adjust(open, nil)
	if err != nil || counted != (Counted{Table: 10}) {
		t.Fatalf("%+v, %v", counted, err)
	}
	last := open[0].Pairs[4]
	if last.Verdict != evidence.NotShown || last.CanShow || last.Declared {
		t.Errorf("among ten: %+v", last)
	}
	one := sixAgainstOne(t, 4)
	counted, err = Adjust(one, func(m Measure, p Pair) bool { return m.Key == "failures" && p.A == 5 })
	if err != nil || counted != (Counted{Table: 10, Declared: 1}) {
		t.Fatalf("%+v, %v", counted, err)
	}
	pair := one[0].Pairs[4]
	if !pair.Declared || pair.Verdict != evidence.Likely || !pair.CanShow || math.Abs(*pair.LeastP-2.0/70) > 1e-12 || *pair.PAdjusted != *pair.P {
		t.Errorf("declared alone: %+v", pair)
	}
	// What was not declared is still counted among all of the table.
	if other := one[1].Pairs[4]; other.Declared || *other.PAdjusted != *last.PAdjusted || other.CanShow {
		t.Errorf("the other measure: %+v", other)
	}
	names := []string{"A", "B", "C", "D", "E", "F"}
	if said := Sentence(one[0], pair, names, counted); !strings.Contains(said, "likely different (p = 0.029)") {
		t.Errorf("says %q", said)
	}
}

func TestAllAgainstOneAreAFamilyOfTheirOwn(t *testing.T) {
	table := sixAgainstOne(t, 5)
	counted, err := Adjust(table, func(m Measure, _ Pair) bool { return m.Key == "failures" })
	if err != nil || counted != (Counted{Table: 10, Declared: 5}) {
		t.Fatalf("%+v, %v", counted, err)
	}
	pair := table[0].Pairs[4]
	if pair.Verdict != evidence.Likely || math.Abs(*pair.PAdjusted-5*2.0/252) > 1e-12 || *pair.PrintsNeeded < FewestPrints(5) {
		t.Errorf("declared against one: %+v", pair)
	}
	if same := table[1].Pairs[4]; same.Verdict != evidence.NotShown || math.Abs(*same.PAdjusted-10*2.0/252) > 1e-12 {
		t.Errorf("not declared: %+v", same)
	}
	if said := Sentence(table[0], pair, []string{"A", "B", "C", "D", "E", "F"}, counted); !strings.Contains(said, "(p = 0.04 among the 5 declared to decide)") {
		t.Errorf("says %q", said)
	}
}

package timing

import "testing"

func TestTheNearestKindThatCarriesAnIntervalIsLearnedFrom(t *testing.T) {
	plate := Past{SameJob: true, SameSettings: true, ActualS: 1}
	settings := Past{SameSettings: true, ActualS: 2}
	machine := Past{ActualS: 3}
	for _, c := range []struct {
		past []Past
		n    int
		from string
	}{
		{[]Past{machine, settings, plate, plate}, 2, "of the same plate"},
		{[]Past{machine, settings, plate}, 2, "with these settings"},
		{[]Past{machine, settings}, 2, "of this machine"},
		{[]Past{machine}, 1, "of this machine"},
		{nil, 0, "of this machine"},
	} {
		chosen, from := LearnFrom(c.past)
		if len(chosen) != c.n || from != c.from {
			t.Errorf("of %d prints %d were chosen, %s; want %d %s", len(c.past), len(chosen), from, c.n, c.from)
		}
	}
}

func TestUnlikelyEnds(t *testing.T) {
	for took, want := range map[float64]bool{69: true, 70: false, 100: false, 160: false, 161: true} {
		if UnlikelyEnd(took, 100) != want {
			t.Errorf("%v s for an estimate of 100 s: unlikely is %v", took, !want)
		}
	}
}

func TestMinutesForSeconds(t *testing.T) {
	for typed, want := range map[float64]bool{100: true, 7200: false, 120: true, 240: true, 241: false, 60: true, 59: false, 432000: true, 100000: false} {
		if UnitSlip(typed, 7200) != want {
			t.Errorf("%v s typed where 7200 s is estimated: slip is %v", typed, !want)
		}
	}
}

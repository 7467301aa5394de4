package metrology

import (
	"cmp"
	"math"
	"slices"
)

// InstrumentCheck is what an instrument showed for a known size, in its own unit, and how
// far it may be off (> 0), at an instant in UTC milliseconds.
type InstrumentCheck struct {
	AtMS                   int64
	True, Shown, Tolerance float64
}

// Good reports an instrument that showed the size within its tolerance; the last digit of a
// decimal fraction is no error.
func (c InstrumentCheck) Good() bool {
	return math.Abs(c.Shown-c.True) <= c.Tolerance*(1+1e-9)
}

// Doubt is a time in which readings of an instrument are in doubt, in UTC milliseconds: after
// FromMS, its last good check (the least instant where there was none), to UntilMS, its next
// good one (the greatest where there is none yet). Failed is the first check in it that
// failed.
type Doubt struct {
	FromMS, UntilMS int64
	Failed          InstrumentCheck
}

// Holds reports a reading that was taken in the doubt.
func (d Doubt) Holds(atMS int64) bool { return atMS > d.FromMS && atMS < d.UntilMS }

// Doubts are the times in which an instrument cannot be relied on by its checks, in order: a
// failed check puts all readings since the last good one in doubt, and all that follow until
// a good one. Without a failed check there is none.
func Doubts(checks []InstrumentCheck) []Doubt {
	sorted := slices.Clone(checks)
	slices.SortStableFunc(sorted, func(a, b InstrumentCheck) int { return cmp.Compare(a.AtMS, b.AtMS) })
	out := []Doubt{}
	lastGood, open := int64(math.MinInt64), false
	for _, c := range sorted {
		switch {
		case c.Good():
			if open {
				out[len(out)-1].UntilMS = c.AtMS
			}
			lastGood, open = c.AtMS, false
		case !open:
			out, open = append(out, Doubt{FromMS: lastGood, UntilMS: math.MaxInt64, Failed: c}), true
		}
	}
	return out
}

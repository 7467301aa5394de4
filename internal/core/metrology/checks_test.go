package metrology

import (
	"cmp"
	"math/rand/v2"
	"slices"
	"testing"
)

func TestAFailedCheckDoubtsWhatIsSinceTheLastGoodOne(t *testing.T) {
	good := func(at int64) InstrumentCheck { return InstrumentCheck{at, 10, 10.02, 0.02} }
	bad := func(at int64) InstrumentCheck { return InstrumentCheck{at, 10, 10.03, 0.02} }
	inDoubt := func(checks ...InstrumentCheck) (out []int64) {
		for at := int64(5); at < 100; at += 10 {
			if slices.ContainsFunc(Doubts(checks), func(d Doubt) bool { return d.Holds(at) }) {
				out = append(out, at)
			}
		}
		return out
	}
	for name, c := range map[string]struct{ got, want []int64 }{
		"never checked":           {inDoubt(), nil},
		"always good":             {inDoubt(good(20), good(60)), nil},
		"good, bad, good":         {inDoubt(good(20), bad(60), good(80)), []int64{25, 35, 45, 55, 65, 75}},
		"bad at first":            {inDoubt(bad(30), good(50)), []int64{5, 15, 25, 35, 45}},
		"bad and not mended":      {inDoubt(good(70), bad(80), bad(90)), []int64{75, 85, 95}},
		"in no order":             {inDoubt(good(80), bad(60), good(20)), []int64{25, 35, 45, 55, 65, 75}},
		"bad twice, once between": {inDoubt(good(0), bad(20), good(30), bad(60), good(70)), []int64{5, 15, 25, 35, 45, 55, 65}},
	} {
		if !slices.Equal(c.got, c.want) {
			t.Errorf("%s: %v, want %v", name, c.got, c.want)
		}
	}
	if d := Doubts([]InstrumentCheck{good(1), bad(5), bad(6)}); len(d) != 1 || d[0].Failed.AtMS != 5 {
		t.Errorf("%+v", d)
	}
}

// A reading is in doubt just when the check before it or the one after it failed: an oracle
// that knows nothing of times in doubt.
func TestDoubtIsBetweenTheChecksBesideAReading(t *testing.T) {
	chance := rand.New(rand.NewPCG(53, 59))
	for range 300 {
		var checks []InstrumentCheck
		for range chance.IntN(8) {
			shown := 10.0
			if chance.IntN(2) == 0 {
				shown = 10.1
			}
			checks = append(checks, InstrumentCheck{int64(10 * (1 + chance.IntN(20))), 10, shown, 0.02})
		}
		slices.SortStableFunc(checks, func(a, b InstrumentCheck) int { return cmp.Compare(a.AtMS, b.AtMS) })
		checks = slices.CompactFunc(checks, func(a, b InstrumentCheck) bool { return a.AtMS == b.AtMS })
		doubts := Doubts(checks)
		for at := int64(5); at < 220; at += 10 {
			next := slices.IndexFunc(checks, func(c InstrumentCheck) bool { return c.AtMS > at })
			before := next - 1
			if next < 0 {
				before = len(checks) - 1
			}
			want := next >= 0 && !checks[next].Good() || before >= 0 && !checks[before].Good()
			if got := slices.ContainsFunc(doubts, func(d Doubt) bool { return d.Holds(at) }); got != want {
				t.Fatalf("a reading at %d among %v: in doubt %v, want %v", at, checks, got, want)
			}
		}
	}
}

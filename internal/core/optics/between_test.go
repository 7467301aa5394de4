package optics

import (
	"math"
	"testing"
)

func TestWhatTheEyeTellsBetweenTwoSizes(t *testing.T) {
	b, err := SightBetween(46, 38)
	if err != nil || b == nil || b.DifferenceUM != 8 {
		t.Fatalf("%+v, %v", b, err)
	}
	// 0.2' is 5.818e-5 rad: 8 µm subtend it at 137.5 mm, and 1' at a fifth of that.
	if math.Abs(b.WithinMM-137.51) > 0.01 || math.Abs(b.WithinMM/b.AloneMM-5) > 1e-6 {
		t.Errorf("within sight below %v mm, alone below %v", b.WithinMM, b.AloneMM)
	}
	want := map[float64]string{1000: "below", 600: "below", 300: "below", 50: "plain"}
	for _, s := range b.Seen {
		if s.Verdict != want[s.DistanceMM] {
			t.Errorf("%s: %s, want %s", s.Name, s.Verdict, want[s.DistanceMM])
		}
	}
	if len(b.Seen) != len(Stations) {
		t.Errorf("seen from %d of %d stations", len(b.Seen), len(Stations))
	}
	// The difference counts, not which of the two is the finer, nor how coarse both are.
	for _, pair := range [][2]float64{{38, 46}, {108, 100}} {
		if o, _ := SightBetween(pair[0], pair[1]); math.Abs(o.WithinMM-b.WithinMM) > 1e-9 {
			t.Errorf("%v: %v mm", pair, o.WithinMM)
		}
	}
	if same, err := SightBetween(46, 46.005); same != nil || err != nil {
		t.Errorf("the same sizes: %+v, %v", same, err)
	}
	if seen, _ := SightBetween(50, 49.98); seen == nil {
		t.Error("two hundredths of a micrometre are a difference, however near one has to go")
	}
}

// Twenty micrometres subtend 0.2′ at 344 mm: plain well within it, borderline about it, below
// well beyond.
func TestWhatIsExpectedOfScoresFromAStation(t *testing.T) {
	for _, c := range []struct {
		distance float64
		verdict  string
	}{{50, "plain"}, {InHandMM, "borderline"}, {TableMM, "below"}} {
		e, err := Expected(50, 30, c.distance)
		if err != nil || e == nil || e.Verdict != c.verdict || math.Abs(e.DifferenceUM-20) > 1e-9 {
			t.Errorf("from %v mm: %+v, %v; want %s", c.distance, e, err, c.verdict)
		}
	}
	if e, err := Expected(50, 50.005, 300); e != nil || err != nil {
		t.Errorf("the same size: %+v, %v", e, err)
	}
	said := map[string]bool{}
	for _, verdict := range []string{"plain", "borderline", "below"} {
		for _, shown := range []bool{true, false} {
			said[(Expectation{20, verdict}).Words(shown)] = true
		}
	}
	if len(said) != 6 {
		t.Errorf("%d different answers, want one for each of six cases", len(said))
	}
}

package setup

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"
)

func TestADegreeIsHeldWithinKindsOfPlates(t *testing.T) {
	// Each degree takes one percent off; the long plates were printed warmer, which must not matter.
	var prints []WarmPrint
	for i := range 5 {
		c := 18 + float64(i)
		prints = append(prints, warm("short", c, 1000*math.Pow(0.99, c), 0, 1), warm("long", c+6, 9000*math.Pow(0.99, c+6), 0, 1))
	}
	s := TimePerDegree(prints)
	if s == nil || math.Abs(s.PctPerC+1) > 1e-9 || math.Abs(s.CI[0]+1) > 1e-6 || math.Abs(s.CI[1]+1) > 1e-6 || s.Prints != 10 || s.Kinds != 2 || s.FromC != 18 || s.ToC != 28 {
		t.Fatalf("%+v", s)
	}
	if !strings.HasPrefix(s.Says, "One degree more changes the time by −1 % (") {
		t.Error(s.Says)
	}
}

func TestTooLittleTellsNothingOfADegree(t *testing.T) {
	few := []WarmPrint{warm("a", 18, 100, 0, 1), warm("a", 25, 90, 0, 1), warm("a", 22, 95, 0, 1), warm("b", 22, 95, 0, 1)}
	if s := TimePerDegree(few); s != nil {
		t.Errorf("three of a kind: %+v", s)
	}
	var near []WarmPrint
	for i := range 9 {
		near = append(near, warm("a", 20+float64(i)*0.3, 100+float64(i), 0, 1))
	}
	if s := TimePerDegree(near); s != nil {
		t.Errorf("2.4 degrees apart: %+v", s)
	}
}

// The interval of a slope holds the truth as often as it says.
func TestTheIntervalOfADegreeHoldsTheTruth(t *testing.T) {
	chance := rand.New(rand.NewPCG(11, 4))
	held, of := 0, 1000
	for range of {
		var prints []WarmPrint
		for i := range 12 {
			c := 16 + 10*chance.Float64()
			prints = append(prints, warm([]string{"a", "b", "c"}[i%3], c, 1000*float64(1+i%3)*math.Exp(-0.005*c+0.02*chance.NormFloat64()), 0, 1))
		}
		truth := 100 * math.Expm1(-0.005)
		if s := TimePerDegree(prints); s.CI[0] <= truth && truth <= s.CI[1] {
			held++
		}
	}
	if held < 930 || held > 970 {
		t.Errorf("%d of %d intervals hold the truth", held, of)
	}
}

// Four degrees of freedom and three degrees apart are enough, one less of either is not.
func TestWhatASlopeAsksForAtLeast(t *testing.T) {
	of := func(prints int, span float64) []WarmPrint {
		var out []WarmPrint
		for i := range prints {
			out = append(out, warm("a", 20+span*float64(i)/float64(prints-1), 100+float64(i%2), 0, 1))
		}
		return out
	}
	for _, c := range []struct {
		prints int
		span   float64
		told   bool
	}{{6, 3, true}, {5, 3, false}, {6, 2.9, false}} {
		if got := TimePerDegree(of(c.prints, c.span)); (got != nil) != c.told {
			t.Errorf("%d prints over %v degrees: %+v", c.prints, c.span, got)
		}
	}
}

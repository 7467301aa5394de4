package contest

import (
	"math"
	"math/rand/v2"
	"testing"

	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
)

// Of copies that share a plate, some of their fate is the plate's.
const correlation = 0.35

// failing deals the copies of one print: the plate's own rate is drawn from a beta
// distribution with the correlation.
func failing(chance *rand.Rand, copies int64, rate float64) evidence.PrintCount {
	theta := (1 - correlation) / correlation
	own := beta(chance, rate*theta, (1-rate)*theta)
	p := evidence.PrintCount{Judged: copies}
	for range copies {
		if chance.Float64() < own {
			p.Failed++
		}
	}
	return p
}

// beta is by two gammas, each by summing uniform powers (Jöhnk 1964).
func beta(chance *rand.Rand, a, b float64) float64 {
	for {
		x, y := math.Pow(chance.Float64(), 1/a), math.Pow(chance.Float64(), 1/b)
		if x+y <= 1 && x+y > 0 {
			return x / (x + y)
		}
	}
}

// sized deals the readings of one print, of which the print's own deviation is so much of
// all variance that specimens of it correlate.
func sized(chance *rand.Rand, copies int64) (p evidence.NestedPrint) {
	const all = 0.03
	plate := all * math.Sqrt(correlation) * chance.NormFloat64()
	for range copies {
		specimen := plate + all*math.Sqrt(1-correlation)*chance.NormFloat64()
		var values []float64
		for range 2 {
			values = append(values, math.Round(100*(20+specimen+0.005*chance.NormFloat64()))/100)
		}
		p.Specimens = append(p.Specimens, evidence.NestedSpecimen{ValuesMM: values})
	}
	return p
}

// falseAlarms is in how many of so many tables of sides between which nothing differs
// anything is called likely or clear.
func falseAlarms(t *testing.T, tables, sides int, seed uint64, declared bool) float64 {
	t.Helper()
	chance := rand.New(rand.NewPCG(seed, 77))
	caliper := evidence.NestedInstrument{ID: quantity.Ptr("I1"), ResolutionMM: 0.01, ReferenceUMM: 0.01}
	alarms := 0
	for range tables {
		failures, sizes := make([][]evidence.PrintCount, sides), make([]evidence.NestedSide, sides)
		rate := 0.1 + 0.3*chance.Float64()
		for s := range sides {
			sizes[s].Instrument = caliper
			for range 2 + chance.IntN(3) {
				copies := 4 + chance.Int64N(5)
				failures[s] = append(failures[s], failing(chance, copies, rate))
				sizes[s].Prints = append(sizes[s].Prints, sized(chance, copies))
			}
		}
		pairs := Between(sides, -1)
		failed, err := Rates("failures", "Failures", failures, pairs, nil)
		if err != nil {
			t.Fatal(err)
		}
		length, err := Lengths("length", "Length", sizes, 20, pairs)
		if err != nil {
			t.Fatal(err)
		}
		table := []Measure{failed, length}
		if _, err := Adjust(table, func(m Measure, p Pair) bool { return declared && m.Key == "failures" && p.B == 0 }); err != nil {
			t.Fatal(err)
		}
		if alarmed(table, declared) {
			alarms++
		}
	}
	return float64(alarms) / float64(tables)
}

func alarmed(table []Measure, declared bool) bool {
	for _, m := range table {
		for _, p := range m.Pairs {
			if p.Declared == declared && p.Verdict != evidence.NotShown {
				return true
			}
		}
	}
	return false
}

// With nothing different, copies of a plate must not be taken for evidence: at most five
// of a hundred tables may raise an alarm, of a pair and of six sides each with each.
func TestNothingIsShownWhereNothingDiffers(t *testing.T) {
	for sides, tables := range map[int]int{2: 2000, 6: 600} {
		if share := falseAlarms(t, tables, sides, uint64(sides), false); share > 0.05 {
			t.Errorf("%.3f of tables of %d sides raise a false alarm", share, sides)
		}
	}
}

// And what does differ is found, given prints enough.
func TestWhatDiffersIsFound(t *testing.T) {
	chance := rand.New(rand.NewPCG(8, 1))
	found := 0
	const tables = 300
	for range tables {
		var good, bad []evidence.PrintCount
		for range 10 {
			good, bad = append(good, failing(chance, 6, 0.1)), append(bad, failing(chance, 6, 0.6))
		}
		m, err := Rates("failures", "Failures", [][]evidence.PrintCount{good, bad}, Between(2, 0), nil)
		if err != nil {
			t.Fatal(err)
		}
		if m.Pairs[0].Verdict != evidence.NotShown {
			found++
		}
	}
	if share := float64(found) / tables; share < 0.8 {
		t.Errorf("a difference of a half is found in %.2f of cases", share)
	}
}

// What was declared to decide keeps its own chance of a false alarm, too.
func TestADeclaredFamilyRaisesNoMoreFalseAlarms(t *testing.T) {
	if share := falseAlarms(t, 600, 6, 66, true); share > 0.05 {
		t.Errorf("%.3f of declared families raise a false alarm", share)
	}
}

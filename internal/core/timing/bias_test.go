package timing

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"
)

func pairsOf(actual func(estimate float64) float64, estimates ...float64) (in BiasInput) {
	for _, e := range estimates {
		in.Pairs = append(in.Pairs, BiasPair{EstimateS: e, ActualS: actual(e)})
	}
	return in
}

func bias(t *testing.T, in BiasInput) BiasResult {
	t.Helper()
	out, err := Bias(in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

func steady(e float64) float64 { return 1.15 * e * (1 + 0.01*math.Sin(e)) }

// A stopped print is not the time of its plate, and one that took three times as long had
// something happen to it: neither teaches.
func TestWhatTeachesNothingIsLeftOut(t *testing.T) {
	in := pairsOf(steady, 3600, 5400, 7200, 9000, 10800)
	clean := bias(t, in)
	in.Pairs = append(in.Pairs, BiasPair{7200, 800, p(Stopped)})
	if got := bias(t, in); *got.Factor != *clean.Factor || !slices.Equal(got.LeftOut, []int{5}) || !got.Has("stopped_left_out") || got.Has("outlier_left_out") || got.N != 5 {
		t.Errorf("one stopped: %+v", got)
	}
	in.Pairs = append(in.Pairs, BiasPair{6000, 20000, nil}, BiasPair{6000, 900, p(Stopped)})
	if got := bias(t, in); *got.Factor != *clean.Factor || !slices.Equal(got.LeftOut, []int{5, 6, 7}) || !got.Has("outlier_left_out") {
		t.Errorf("one far off: %+v", got)
	}
	few := pairsOf(steady, 3600, 5400, 7200)
	few.Pairs = append(few.Pairs, BiasPair{6000, 20000, nil})
	if got := bias(t, few); len(got.LeftOut) != 0 {
		t.Errorf("of four none is known to be far off: %+v", got.LeftOut)
	}
	near := pairsOf(steady, 3600, 5400, 7200, 9000, 10800)
	near.Pairs = append(near.Pairs, BiasPair{6000, 6000 * 1.15 * math.Exp(0.19), nil})
	if got := bias(t, near); len(got.LeftOut) != 0 {
		t.Errorf("within a fifth is no outlier: %+v", got.LeftOut)
	}
}

// A fixed start-up and a slope: short prints are off by more than long ones, which no
// factor says.
func TestAFixedShareIsFound(t *testing.T) {
	in := pairsOf(func(e float64) float64 { return 600 + 1.05*e }, 1800, 2700, 3600, 7200, 14400, 21600)
	in.EstimateS = p(2000.0)
	got := bias(t, in)
	if got.Model != LineModel || math.Abs(got.Line.FixedS-600) > 1e-6 || math.Abs(got.Line.Slope-1.05) > 1e-9 || math.Abs(*got.CorrectedS-2700) > 1e-6 || got.Has("extrapolated") {
		t.Errorf("%+v, corrected %v", got, *got.CorrectedS)
	}
	if factor := 2000 * *got.Factor; math.Abs(factor-2700) < 100 {
		t.Errorf("the factor says %v as well; the test shows nothing", factor)
	}
	in.EstimateS = p(25000.0)
	if got := bias(t, in); !got.Has("extrapolated") {
		t.Error("beyond the prints on record the line is a guess")
	}
	proportional := pairsOf(steady, 1800, 2700, 3600, 7200, 14400, 21600)
	if got := bias(t, proportional); got.Model != FactorModel || got.Line == nil {
		t.Errorf("a steady factor: %s, line %v", got.Model, got.Line)
	}
	narrow := pairsOf(steady, 3600, 3700, 3800, 3900, 4000, 4100)
	if got := bias(t, narrow); got.Line != nil {
		t.Errorf("estimates that are all alike have no line: %+v", got.Line)
	}
}

// A prediction interval covers the next print about as often as it says.
func TestThePredictionCovers(t *testing.T) {
	chance := rand.New(rand.NewPCG(77, 3))
	for name, actual := range map[string]func(e float64) float64{"factor": func(e float64) float64 { return 1.2 * e }, "line": func(e float64) float64 { return 900 + 1.02*e }} {
		covered := 0
		const many = 1500
		for range many {
			noisy := func(e float64) float64 { return actual(e) * math.Exp(0.03*chance.NormFloat64()) }
			in := pairsOf(noisy, 1800, 2400, 3600, 5400, 7200, 10800, 14400, 18000)
			in.EstimateS = p(4000.0)
			got := bias(t, in)
			if next := noisy(4000); got.CorrectedPI[0] <= next && next <= got.CorrectedPI[1] {
				covered++
			}
		}
		if share := float64(covered) / many; share < 0.92 || share > 0.985 {
			t.Errorf("%s: %.3f of next prints lie within", name, share)
		}
	}
}

func TestBiasesThatCannotBe(t *testing.T) {
	for path, in := range map[string]BiasInput{
		"pairs": {Pairs: []BiasPair{{100, 10, p(Stopped)}}}, "pairs[0].ended": {Pairs: []BiasPair{{100, 10, p("broken")}}}, "pairs[1].actual_s": {Pairs: []BiasPair{{100, 10, nil}, {100, 0, p(Stopped)}}},
		"estimate_s": {Pairs: []BiasPair{{100, 110, nil}}, EstimateS: p(0.0)},
	} {
		_, err := Bias(in)
		wantPath(t, err, path)
	}
}

// Phases add up to the difference, and taking all of b's settings at once makes a into b.
func TestADifferenceIsExplained(t *testing.T) {
	chance := rand.New(rand.NewPCG(6, 66))
	some := func() MaskedInput {
		in := job()
		in.HeightMM, in.LayerUM, in.ExposureS = 5+30*chance.Float64(), 25+25*float64(chance.IntN(3)), 1+3*chance.Float64()
		in.Lift, in.Retract = []Move{{MM: 4 + 4*chance.Float64(), MMMin: 40 + 100*chance.Float64()}}, []Move{{MM: 6, MMMin: 60 + 100*chance.Float64()}}
		if chance.IntN(3) == 0 {
			in.ReleaseS = p(1 + chance.Float64())
		}
		if chance.IntN(2) == 0 {
			in.Wait, in.StartS = &Wait{AfterLiftS: p(chance.Float64())}, p(60*chance.Float64())
		}
		return in
	}
	for range 200 {
		a, b := some(), some()
		got, err := Explain(ExplainInput{a, b})
		if err != nil {
			t.Fatal(err)
		}
		f := got.Phases
		if sum := f.ExposureS + f.LiftS + f.RetractS + f.WaitS + f.OverheadS; math.Abs(sum-got.DifferenceS) > 1e-6 {
			t.Fatalf("phases add up to %v of %v", sum, got.DifferenceS)
		}
		all := a
		for _, s := range borrowed {
			s.take(&all, b)
		}
		with, err := Masked(all)
		if err != nil {
			t.Fatal(err)
		}
		of, err := Masked(b)
		if err != nil || math.Abs(with.TotalS-of.TotalS) > 1e-6 {
			t.Fatalf("a with all of b's settings takes %v s, b %v s (%v)", with.TotalS, of.TotalS, err)
		}
		for _, s := range got.Settings {
			if !alike(a, b) && (s.Setting == "lift" || s.Setting == "retract") && s.EffectS != 0 {
				t.Fatalf("%s has an effect of %v where the release takes the moves along", s.Setting, s.EffectS)
			}
		}
	}
	_, err := Explain(ExplainInput{A: job(), B: MaskedInput{}})
	wantPath(t, err, "b.height_mm")
}

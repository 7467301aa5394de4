package optics

import (
	"math"
	"testing"

	"ojime/internal/core/quantity"
)

func masked(pitch, spread float64, levels int64) Light {
	return Light{PitchXUM: &pitch, PitchYUM: &pitch, GreyLevels: levels, SpreadUM: spread, Threshold: 0.5}
}

func square(x, y, size float64) Polygon {
	return Polygon{{x, y}, {x + size, y}, {x + size, y + size}, {x, y + size}}
}

func turned(p Polygon, angle float64) Polygon {
	sin, cos := math.Sincos(angle)
	out := make(Polygon, len(p))
	for i, v := range p {
		out[i] = [2]float64{v[0]*cos - v[1]*sin, v[0]*sin + v[1]*cos}
	}
	return out
}

func predict(t *testing.T, outlines []Polygon, light Light, view View) Prediction {
	t.Helper()
	p, err := Predict(outlines, light, view)
	if err != nil {
		t.Fatal(err)
	}
	if p.OffsetUM == nil {
		t.Fatalf("nothing was measured: %+v", p.Warnings)
	}
	return p
}

func TestAnEdgeOnTheGridComesTrue(t *testing.T) {
	p := predict(t, []Polygon{square(1, 1, 2)}, masked(50, 0, 2), View{0, 0, 4, 4})
	if math.Abs(*p.OffsetUM) > 0.5 || *p.RippleUM > 3 || *p.LostPct != 0 {
		t.Errorf("%v ± %v µm, %v %% lost", *p.OffsetUM, *p.RippleUM, *p.LostPct)
	}
}

func TestASlantedEdgeRipplesWithThePitchAndLessWithGrey(t *testing.T) {
	body := []Polygon{turned(square(-2, -2, 4), 0.2)}
	view := View{-4, -4, 8, 8}
	coarse := *predict(t, body, masked(80, 10, 2), view).RippleUM
	fine := *predict(t, body, masked(40, 10, 2), view).RippleUM
	grey := *predict(t, body, masked(80, 25, 16), view).RippleUM
	if !(fine < 0.7*coarse && grey < 0.6*coarse) {
		t.Errorf("ripple %v µm at 80 µm pitch, %v at 40, %v with grey levels", coarse, fine, grey)
	}
}

func TestAThresholdMovesTheEdge(t *testing.T) {
	light := masked(40, 60, 256)
	view := View{0, 0, 6, 6}
	for _, threshold := range []float64{0.3, 0.5, 0.7} {
		light.Threshold = threshold
		p := predict(t, []Polygon{square(1.5, 1.5, 3)}, light, view)
		// On a straight edge the dose is a Gaussian's integral; corners differ.
		want := 60 * math.Sqrt2 * math.Erfinv(1-2*threshold)
		if math.Abs(*p.OffsetUM-want) > 6 {
			t.Errorf("threshold %v: offset %v µm, want about %v", threshold, *p.OffsetUM, want)
		}
	}
}

func TestInnerOutlinesThatOverlapAreNotMeasured(t *testing.T) {
	one := predict(t, []Polygon{square(1, 1, 2)}, masked(50, 20, 2), View{0, 0, 4, 4})
	two := predict(t, []Polygon{square(1, 1, 2), square(1.5, 1.5, 0.5)}, masked(50, 20, 2), View{0, 0, 4, 4})
	if math.Abs(*one.OffsetUM-*two.OffsetUM) > 1 {
		t.Errorf("%v and %v µm", *one.OffsetUM, *two.OffsetUM)
	}
}

func TestASpotRoundsAndLosesThinThings(t *testing.T) {
	light := Light{SpotUM: quantity.Ptr(80.0), GreyLevels: 2, Threshold: 0.5}
	rungs, err := PredictLadder([]float64{0.02, 0.05, 0.3}, false, light)
	if err != nil {
		t.Fatal(err)
	}
	if rungs[0].MostMM != 0 || rungs[0].VanishPct != 100 || math.Abs(rungs[2].MeanMM-0.3) > 0.005 {
		t.Errorf("%+v", rungs)
	}
	// Peak of a strip: erf(w/(2√2σ)) = threshold decides what vanishes.
	sigma := 0.02
	edge := 2 * math.Sqrt2 * sigma * math.Erfinv(0.5)
	rungs, err = PredictLadder([]float64{0.93 * edge, 1.07 * edge}, false, light)
	if err != nil || rungs[0].VanishPct != 100 || rungs[1].VanishPct != 0 {
		t.Errorf("around %v mm: %+v, %v", edge, rungs, err)
	}
	if p := predict(t, []Polygon{square(0.5, 0.5, 1)}, light, View{0, 0, 2, 2}); math.Abs(*p.OffsetUM) > 5 {
		t.Errorf("offset %v µm", *p.OffsetUM)
	}
}

func TestThinWallsComeAndGoWithTheirPlaceOnTheGrid(t *testing.T) {
	rungs, err := PredictLadder([]float64{0.02, 0.04, 0.075, 0.5}, false, masked(50, 0, 2))
	if err != nil {
		t.Fatal(err)
	}
	if rungs[0].VanishPct != 100 || rungs[1].VanishPct <= 0 || rungs[1].VanishPct >= 100 || rungs[2].VanishPct != 0 {
		t.Errorf("%+v", rungs)
	}
	for _, r := range rungs[2:] {
		if r.LeastMM > r.MeanMM+1e-9 || r.MeanMM > r.MostMM+1e-9 || r.MostMM-r.LeastMM > 0.0501 || math.Abs(r.MeanMM-r.SizeMM) > 0.002 {
			t.Errorf("%+v", r)
		}
	}
	voids, err := PredictLadder([]float64{0.02, 0.5}, true, masked(50, 0, 2))
	if err != nil || voids[0].VanishPct != 100 || math.Abs(voids[1].MeanMM-0.5) > 0.002 {
		t.Errorf("%+v, %v", voids, err)
	}
}

func TestPredictionNamesNonsense(t *testing.T) {
	good := masked(50, 10, 2)
	for name, bad := range map[string]Light{
		"no pitch": {GreyLevels: 2, Threshold: 0.5}, "levels": masked(50, 0, 1), "threshold": {SpotUM: quantity.Ptr(80.0), GreyLevels: 2, Threshold: 1},
	} {
		if _, err := Predict(nil, bad, View{0, 0, 1, 1}); err == nil {
			t.Errorf("%s was accepted", name)
		}
	}
	if _, err := Predict(nil, good, View{0, 0, 500, 500}); err == nil {
		t.Error("a whole plate was accepted")
	}
	p, err := Predict(nil, good, View{0, 0, 1, 1})
	if err != nil || !p.Has("no_outline") || p.OffsetUM != nil || p.Picture == nil {
		t.Errorf("%+v, %v", p, err)
	}
}

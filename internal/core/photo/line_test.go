package photo

import (
	"math"
	"math/rand/v2"
	"testing"

	"ojime/internal/core/quantity"
)

// drawn is a picture by a formula, with grain.
func drawn(w, h int, grain float64, grey func(x, y float64) float64) Grey {
	chance := rand.New(rand.NewPCG(3, 5))
	g := Grey{Width: w, Height: h, Values: make([]float64, w*h)}
	for i := range g.Values {
		g.Values[i] = grey(float64(i%w)+0.5, float64(i/w)+0.5) + grain*chance.NormFloat64()
	}
	return g
}

// An edge that was blurred by a normal of standard deviation s has 2·1.2816·s between a
// tenth and nine tenths, whichever way the line runs and however the edge is turned.
func TestWidthOfABlurredEdge(t *testing.T) {
	for _, sigma := range []float64{2, 4, 8} {
		for _, turn := range []float64{0, 0.3, -0.8} {
			sin, cos := math.Sincos(turn)
			g := drawn(240, 240, 0.5, func(x, y float64) float64 {
				return 120 + 80*math.Erf(((x-120)*cos+(y-120)*sin)/(sigma*math.Sqrt2))
			})
			across := Line{120 - 60*cos, 120 - 60*sin, 120 + 60*cos, 120 + 60*sin}
			for _, l := range []Line{across, {across.ToX, across.ToY, across.FromX, across.FromY}} {
				got, err := EdgeAcross(g, l)
				if want := 2 * 1.28155 * sigma; err != nil || math.Abs(got.SizePX-want) > 0.06*want || got.UPX <= 0 || *got.RipplePX > 0.35 || got.N < 50 {
					t.Errorf("σ %v turned %v: %+v %v, want about %v", sigma, turn, got, err, want)
				}
			}
		}
	}
	if _, err := EdgeAcross(drawn(100, 100, 0, func(float64, float64) float64 { return 90 }), Line{10, 50, 90, 50}); err == nil {
		t.Error("an edge was found on plain ground")
	}
	if got, err := EdgeAcross(drawn(200, 200, 3, func(float64, float64) float64 { return 90 }), Line{40, 100, 160, 100}); err == nil {
		t.Errorf("an edge was found in grain: %+v", got)
	}
	if _, err := EdgeAcross(drawn(100, 100, 0, func(x, _ float64) float64 { return x }), Line{10, 50, 18, 50}); err == nil {
		t.Error("a line of eight pixels was taken")
	}
}

// An edge whose place waves by an amplitude has a ripple of that over √2; a slant is none.
func TestRippleOfAWavyEdge(t *testing.T) {
	g := drawn(300, 300, 0.5, func(x, y float64) float64 {
		return 120 + 80*math.Erf((x-150-0.1*(y-150)-3*math.Sin(2*math.Pi*y/20))/(2*math.Sqrt2))
	})
	got, err := EdgeAcross(g, Line{70, 150, 230, 150})
	if err != nil || math.Abs(*got.RipplePX-3/math.Sqrt2) > 0.15 {
		t.Errorf("%+v %v", got, err)
	}
}

func TestPeriodOfLines(t *testing.T) {
	for _, period := range []float64{6, 12.5, 31} {
		g := drawn(400, 60, 4, func(x, _ float64) float64 { return 120 + 50*math.Sin(2*math.Pi*x/period) })
		got, err := PeriodAlong(g, Line{5, 30, 395, 30})
		if err != nil || math.Abs(got.SizePX-period) > 0.01*period || got.N < int64(390/period)-2 || math.Abs(got.SizePX-period) > 4*got.UPX+0.02 {
			t.Errorf("%v: %+v %v", period, got, err)
		}
	}
	two := drawn(400, 60, 0, func(x, _ float64) float64 { return 120 + 50*math.Sin(2*math.Pi*x/150) })
	plain := drawn(400, 60, 3, func(float64, float64) float64 { return 120 })
	for _, g := range []Grey{two, drawn(400, 60, 0, func(float64, float64) float64 { return 7 })} {
		if got, err := PeriodAlong(g, Line{5, 30, 395, 30}); err == nil {
			t.Errorf("%+v", got)
		}
	}
	if got, err := PeriodAlong(plain, Line{5, 30, 9, 30}); err == nil {
		t.Errorf("%+v", got)
	}
}

// A size on a photograph is that of Scale where two clicks made it, and a known length that
// is less certain makes every size on it less certain.
func TestSizesByTheScaleOfThePhotograph(t *testing.T) {
	length, err := LengthBetween(Line{100, 100, 400, 500})
	if err != nil || length.SizePX != 500 {
		t.Fatalf("%+v %v", length, err)
	}
	known := KnownLength{MM: 20, UMM: 0.01, PX: 2000}
	want, _ := Scale(ScaleInput{KnownMM: 20, KnownUMM: 0.01, KnownPX: 2000, MeasuredPX: 500})
	got, err := length.InMM(known)
	if err != nil || got.SizeMM != want.SizeMM || math.Abs(got.UMM-want.UMM) > 1e-12 || got.RippleMM != nil {
		t.Errorf("%+v, want %+v, %v", got, want, err)
	}
	edge := OnPhoto{SizePX: 30, UPX: 0.2, RipplePX: quantity.Ptr(4.0), N: 40}
	sure, _ := edge.InMM(KnownLength{20, 0, 2000})
	unsure, err := edge.InMM(KnownLength{20, 2, 2000})
	if err != nil || math.Abs(sure.SizeMM-0.3) > 1e-12 || math.Abs(*sure.RippleMM-0.04) > 1e-12 || unsure.UMM < 0.029 || sure.UMM > 0.0021 {
		t.Errorf("%+v %+v %v", sure, unsure, err)
	}
	if _, err := edge.InMM(KnownLength{}); err == nil {
		t.Error("a photograph without a scale gave a size")
	}
	if _, err := LengthBetween(Line{3, 3, 3, 3}); err == nil {
		t.Error("a line of no length was taken")
	}
}

// The blur of one picture rises as it is blurred, whatever its contrast, and the threshold
// lies where edges are about eight pixels wide.
func TestBlurRisesWithTheWidthOfEdges(t *testing.T) {
	chart := func(sigma, contrast float64) Grey {
		return drawn(240, 240, 0, func(x, y float64) float64 {
			square := math.Erf(math.Sin(2*math.Pi*x/60)*60/(2*math.Pi)/(sigma*math.Sqrt2)) * math.Erf(math.Sin(2*math.Pi*y/60)*60/(2*math.Pi)/(sigma*math.Sqrt2))
			return 120 + contrast*square
		})
	}
	last := 0.0
	for _, sigma := range []float64{0.3, 1, 2, 4, 8} {
		b := Blur(chart(sigma, 80))
		if b <= last || b > 1 {
			t.Errorf("σ %v: %v after %v", sigma, b, last)
		}
		if pale := Blur(chart(sigma, 8)); math.Abs(pale-b) > 1e-9 {
			t.Errorf("σ %v: %v, and %v where it is paler", sigma, b, pale)
		}
		last = b
	}
	if sharp, soft := Blur(chart(2, 80)), Blur(chart(4, 80)); sharp > TooBlurred || soft < TooBlurred {
		t.Errorf("edges of 5 pixels have %v, of 10 %v; the threshold is %v", sharp, soft, TooBlurred)
	}
	// Grain makes no blurred picture sharp.
	grainy := func(sigma float64) Grey {
		return drawn(400, 400, 2.5, func(x, y float64) float64 {
			return 120 + 60*math.Erf((x-200)/(sigma*math.Sqrt2))*math.Erf((y-200)/(sigma*math.Sqrt2))
		})
	}
	if sharp, soft := Blur(grainy(1)), Blur(grainy(8)); sharp > TooBlurred || soft < TooBlurred {
		t.Errorf("with grain, edges of 2.5 pixels have %v, of 20 %v", sharp, soft)
	}
	if Blur(Grey{Width: 3, Height: 3, Values: make([]float64, 9)}) != 1 || Blur(Grey{}) != 1 {
		t.Error("a picture without detail is sharp")
	}
}

// A picture that is twice as large has edges twice as wide and periods twice as long, so that
// a size by the scale is the same from any camera.
func TestSizesGrowWithThePicture(t *testing.T) {
	at := func(times float64) (OnPhoto, OnPhoto) {
		size := int(200 * times)
		edge, err := EdgeAcross(drawn(size, size, 0.3, func(x, _ float64) float64 {
			return 120 + 80*math.Erf((x/times-100)/(3*math.Sqrt2))
		}), Line{50 * times, 100 * times, 150 * times, 100 * times})
		if err != nil {
			t.Fatal(err)
		}
		period, err := PeriodAlong(drawn(size, size, 0.3, func(x, _ float64) float64 {
			return 120 + 50*math.Sin(2*math.Pi*x/times/15)
		}), Line{5 * times, 100 * times, 195 * times, 100 * times})
		if err != nil {
			t.Fatal(err)
		}
		return edge, period
	}
	edge, period := at(1)
	for _, times := range []float64{2, 3.5} {
		e, p := at(times)
		if math.Abs(e.SizePX/times-edge.SizePX) > 0.03*edge.SizePX || math.Abs(p.SizePX/times-period.SizePX) > 0.005*period.SizePX {
			t.Errorf("%v times as large: edge %v for %v, period %v for %v", times, e.SizePX, edge.SizePX, p.SizePX, period.SizePX)
		}
		small, err := edge.InMM(KnownLength{MM: 1, PX: 100})
		if err != nil {
			t.Fatal(err)
		}
		large, err := e.InMM(KnownLength{MM: 1, PX: 100 * times})
		if err != nil || math.Abs(small.SizeMM-large.SizeMM) > 0.03*small.SizeMM {
			t.Errorf("%v mm and %v mm: %v", small, large, err)
		}
	}
}

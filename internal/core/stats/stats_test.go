package stats

import (
	"math"
	"slices"
	"testing"
)

func near(t *testing.T, what string, got, want, tolerance float64) {
	t.Helper()
	if math.Abs(got-want) > tolerance {
		t.Errorf("%s is %.10g, want %.10g", what, got, want)
	}
}

// Quantiles of Student's distribution as tables print them.
func TestStudentsQuantiles(t *testing.T) {
	for df, want := range map[float64]float64{1: 12.706, 2: 4.303, 5: 2.571, 10: 2.228, 30: 2.042, 1e6: 1.960} {
		near(t, "T", T(df), want, 6e-4)
	}
	near(t, "Z", Z, 1.9599639845, 1e-9)
}

// Wilson's score interval: 0 of 10 ends at z²/(n+z²), and 5 of 10 is symmetric.
// 81 of 263 is an example that Newcombe published (1998): 0.2553 to 0.3662.
func TestWilson(t *testing.T) {
	none, half, published := Wilson(0, 10), Wilson(5, 10), Wilson(81, 263)
	near(t, "none, low", none[0], 0, 0)
	near(t, "none, high", none[1], Z*Z/(10+Z*Z), 1e-12)
	near(t, "half", half[0]+half[1], 1, 1e-12)
	near(t, "published low", published[0], 0.2553, 5e-5)
	near(t, "published high", published[1], 0.3662, 5e-5)
	near(t, "all, high", Wilson(7, 7)[1], 1, 0)
}

// Anscombe's first set (1973), whose line is published: y = 3.00 + 0.500 x, R² 0.67.
func TestAnscombesLine(t *testing.T) {
	x := []float64{10, 8, 13, 9, 11, 14, 6, 4, 12, 7, 5}
	y := []float64{8.04, 6.95, 7.58, 8.81, 8.33, 9.96, 7.24, 4.26, 10.84, 4.82, 5.68}
	xs, ys := slices.Clone(x), slices.Clone(y)
	l := Fit(x, y)
	near(t, "intercept", l.A, 3.0001, 1e-4)
	near(t, "slope", l.B, 0.5001, 1e-4)
	near(t, "standard error of the slope", math.Sqrt(l.VarB), 0.1179, 1e-4)
	near(t, "standard error of the intercept", math.Sqrt(l.VarA), 1.1247, 1e-4)
	near(t, "R²", 1-l.SSE/l.SumYY, 0.6665, 1e-4)
	near(t, "at 10", l.At(10), 8.001, 1e-3)
	if !slices.Equal(x, xs) || !slices.Equal(y, ys) || l.N != 11 || l.DF != 9 {
		t.Error("the input was changed, or the counts are wrong")
	}
}

// Shifting and scaling what is fitted moves the line with it; what does not vary has
// no slope.
func TestALineMovesWithItsData(t *testing.T) {
	x, y := []float64{1, 2, 4, 7}, []float64{2, 3, 3.5, 9}
	l := Fit(x, y)
	moved := Fit([]float64{101, 102, 104, 107}, []float64{20, 30, 35, 90})
	near(t, "slope", moved.B, 10*l.B, 1e-9)
	near(t, "value", moved.At(103), 10*l.At(3), 1e-9)
	if flat := Fit(x, []float64{5, 5, 5, 5}); flat.B != 0 || flat.A != 5 || flat.SSE != 0 {
		t.Errorf("flat: %+v", flat)
	}
	if two := Fit([]float64{0, 1}, []float64{1, 3}); two.S2 != 0 || two.DF != 0 || two.B != 2 {
		t.Errorf("two points: %+v", two)
	}
}

func TestMeansAndVariances(t *testing.T) {
	v := []float64{2, 4, 4, 4, 5, 5, 7, 9}
	near(t, "mean", Mean(v), 5, 0)
	near(t, "variance", SampleVar(v), 32.0/7, 1e-12)
	near(t, "of equal values", SampleVar([]float64{0.1, 0.1, 0.1}), 0, 0)
	if Distinct(v) != 5 {
		t.Errorf("%d distinct values", Distinct(v))
	}
}

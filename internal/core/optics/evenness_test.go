package optics

import (
	"math"
	"strings"
	"testing"
)

func TestEvennessIsInShareOfTheMean(t *testing.T) {
	readings := [][]float64{{2, 4, 4}, {4, 4, 4}, {4, 4, 6}}
	got, err := Even(EvennessInput{Readings: readings})
	if err != nil {
		t.Fatal(err)
	}
	if got.Mean != 4 || got.LeastPct != 50 || got.MostPct != 150 || got.ToMean != 2 || got.Pct[1][1] != 100 || got.Weakest != (GridPlace{0, 0, "at the front left"}) {
		t.Errorf("%+v", got)
	}
	// In another unit, the shares are the same; the readings are left as they were.
	for i := range readings {
		for j := range readings[i] {
			readings[i][j] *= 0.35
		}
	}
	scaled, err := Even(EvennessInput{Readings: readings})
	if err != nil || math.Abs(scaled.ToMean-2) > 1e-12 || readings[0][0] != 2*0.35 {
		t.Errorf("%+v, %v", scaled, err)
	}
	if even, err := Even(EvennessInput{Readings: [][]float64{{3, 3}, {3, 3}}}); err != nil || even.ToMean != 1 || even.LeastPct != 100 || even.MostPct != 100 {
		t.Errorf("even light: %+v, %v", even, err)
	}
}

func TestPlacesOfAGridAreNamedByThirds(t *testing.T) {
	for _, c := range []struct {
		row, column, rows, columns int
		want                       string
	}{
		{0, 0, 2, 2, "at the front left"}, {1, 1, 2, 2, "at the back right"}, {1, 1, 3, 3, "in the middle"}, {1, 0, 3, 3, "at the left"}, {0, 2, 3, 5, "at the front"}, {2, 4, 3, 5, "at the back right"}, {0, 1, 3, 5, "at the front left"}, {2, 3, 5, 7, "in the middle"},
	} {
		if got := whereIn(c.row, c.column, c.rows, c.columns); got != c.want {
			t.Errorf("%d, %d of %d by %d is %q, want %q", c.row, c.column, c.rows, c.columns, got, c.want)
		}
	}
}

func TestWhatIsNoGridOfLightIsRefused(t *testing.T) {
	for field, readings := range map[string][][]float64{
		"readings:":       {{1, 2}},
		"readings[0]:":    {{1}, {1}},
		"readings[1]:":    {{1, 2}, {1}},
		"readings[1][0]:": {{1, 2}, {0, 1}},
		"readings[0][1]:": {{1, math.NaN()}, {1, 1}},
	} {
		if _, err := Even(EvennessInput{Readings: readings}); err == nil || !strings.HasPrefix(err.Error(), field) {
			t.Errorf("%v: %v, want an error of %s", readings, err, field)
		}
	}
}

func TestLightBetweenReadings(t *testing.T) {
	e, err := Even(EvennessInput{Readings: [][]float64{{80, 120}, {100, 100}}}) // their mean is 100
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct{ across, deep, want float64 }{
		{0.25, 0.25, 80}, {0.75, 0.25, 120}, {0.25, 0.75, 100}, {0.5, 0.25, 100}, {0.25, 0.5, 90}, {0.5, 0.5, 100}, {0.375, 0.25, 90},
		{0, 0, 80}, {1, 0, 120}, {1, 1, 100}, {-3, -3, 80}, {9, 0, 120},
	} {
		if got := e.At(c.across, c.deep); math.Abs(got-c.want) > 1e-9 {
			t.Errorf("at %v, %v the light is %v %%, want %v", c.across, c.deep, got, c.want)
		}
	}
	// Nowhere does it leave the span of the readings.
	wide, err := Even(EvennessInput{Readings: [][]float64{{3, 4, 9}, {2, 7, 5}, {6, 1, 8}, {4, 4, 4}}})
	if err != nil {
		t.Fatal(err)
	}
	for i := range 41 {
		for j := range 41 {
			if v := wide.At(float64(i)/40, float64(j)/40); v < wide.LeastPct-1e-9 || v > wide.MostPct+1e-9 {
				t.Fatalf("at %d, %d it is %v, outside %v to %v", i, j, v, wide.LeastPct, wide.MostPct)
			}
		}
	}
}

package kit

import (
	"math"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
)

// Of a plate that holds several pieces, a comparison of one asks for the light under its copies alone.
func TestTheLightUnderSomeOfThePlate(t *testing.T) {
	p := quantity.Ptr[float64]
	m := bench.Machine{WidthMM: 100, DepthMM: 60}
	lights := Lights{grids: []bench.LightGrid{{AtMS: 5, Readings: bench.GridRows{{80, 120}, {80, 120}}}}}
	left, right := bench.Specimen{ID: "left", XMM: p(25), YMM: p(30)}, bench.Specimen{ID: "right", XMM: p(75), YMM: p(30)}
	there, err := lights.Under(m, 9, []bench.Specimen{left, right})
	if err != nil || there == nil || there.LeastPct != 80 || there.MostPct != 120 || math.Abs(there.MeanPct-100) > 1e-9 {
		t.Fatalf("%+v, %v", there, err)
	}
	if got := there.MeanOf([]bench.Specimen{left}); got != 80 {
		t.Errorf("under the left one %v %%", got)
	}
	for name, specimens := range map[string][]bench.Specimen{"none": nil, "one that lay nobody knows where": {left, {ID: "x"}}} {
		if there, err := lights.Under(m, 9, specimens); err != nil || there != nil {
			t.Errorf("%s: %+v, %v", name, there, err)
		}
	}
	if over := (Lights{}).OverSpot(9, []bench.Specimen{left}, func(bench.Specimen) float64 { return 10 }); over != nil {
		t.Errorf("nobody looked at the plate: %v", *over)
	}
}

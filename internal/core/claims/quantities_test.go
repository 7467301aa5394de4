package claims

import (
	"math"
	"slices"
	"testing"

	"ojime/internal/core/quantity"
)

// "Ten times the pixels" of two plates of one size is no ten times finer: what a claim means hangs on which quantity
// it is, and what a is of b, b is the inverse of a.
func TestAClaimMeansWhatItMatches(t *testing.T) {
	a := Plate{WidthMM: 153.6, DepthMM: 86.4, PxX: 11_520, PxY: 5120, HeightMM: quantity.Ptr(200.0)}
	b := Plate{WidthMM: 143.4, DepthMM: 89.6, PxX: 4098, PxY: 2560, HeightMM: quantity.Ptr(175.0)}
	there, err := Quantity(QuantityInput{A: a, B: b, ClaimedRatio: quantity.Ptr(5.6)})
	if err != nil {
		t.Fatal(err)
	}
	back, err := Quantity(QuantityInput{A: b, B: a})
	if err != nil {
		t.Fatal(err)
	}
	if !slices.Equal(there.Matches, []string{"pixel_count", "density"}) || back.Matches != nil {
		t.Errorf("%v, %v", there.Matches, back.Matches)
	}
	for _, pair := range [][2]float64{{there.Ratios.PixelCount, back.Ratios.PixelCount}, {there.Ratios.LinearResolution, back.Ratios.LinearResolution}, {there.Ratios.Density, back.Ratios.Density},
		{there.Ratios.PlateWidth, back.Ratios.PlateWidth}, {there.Ratios.PlateArea, back.Ratios.PlateArea}, {*there.Ratios.Volume, *back.Ratios.Volume}} {
		if math.Abs(pair[0]*pair[1]-1) > 1e-12 {
			t.Errorf("%v and back %v", pair[0], pair[1])
		}
	}
	if r := there.Ratios; math.Abs(r.LinearResolution*r.LinearResolution-r.Density) > 1e-12 || math.Abs(r.Density*r.PlateArea-r.PixelCount) > 1e-12 {
		t.Errorf("%+v", r)
	}
}

package photo

import (
	"math"
	"testing"

	"ojime/internal/core/quantity"
)

// Twice the clicks' spread on a long scale is twice the part that the clicks have.
func TestWhatClicksAddToALength(t *testing.T) {
	in := ScaleInput{KnownMM: 20, KnownPX: 2000, MeasuredPX: 500, ClickUPX: quantity.Ptr(1.0)}
	one, _ := Scale(in)
	in.ClickUPX = quantity.Ptr(2.0)
	two, err := Scale(in)
	if err != nil || math.Abs(two.UMM-2*one.UMM) > 1e-12 || two.SizeMM != one.SizeMM || one.ExpandedMM != 2*one.UMM {
		t.Errorf("%+v %+v %v", one, two, err)
	}
	in.ClickUPX = quantity.Ptr(0.0)
	if _, err := Scale(in); err == nil {
		t.Error("a click without spread was taken")
	}
}

// A linear ramp of a width has four fifths of it between a tenth and nine tenths, whichever
// way it runs, however bright it is and wherever it begins.
func TestEdgeOfARamp(t *testing.T) {
	ramp := func(width, offset, low, high float64) (out []Point) {
		for x := 0.0; x <= 200; x += 2 {
			share := min(1, max(0, (x-60)/width))
			out = append(out, Point{AtUM: x + offset, Grey: low + share*(high-low)})
		}
		return out
	}
	for _, c := range [][4]float64{{50, 0, 10, 200}, {50, 1000, 200, 10}, {80, 0, 0, 1}, {30, -500, 250, 3}} {
		got, err := Edge(EdgeInput{ramp(c[0], c[1], c[2], c[3])})
		if err != nil || math.Abs(*got.EdgeWidthUM-0.8*c[0]) > 1e-9 || math.Abs(*got.PositionUM-(60+c[0]/2+c[1])) > 1e-9 || len(got.Warnings.Warnings) != 0 {
			t.Errorf("%v: %+v %v", c, got, err)
		}
	}
}

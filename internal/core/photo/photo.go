// Package photo tells what a picture file is and how its camera was held, and measures on
// photographs: lengths by a known length beside them, edges, periods of lines, blur. It
// decodes no pictures: it takes their bytes, or their pixels.
package photo

import (
	"fmt"
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
	"ojime/internal/say"
)

// ScaleInput is a known length in mm (> 0) with its standard uncertainty (≥ 0), how many
// pixels it spans and how many what is measured spans (> 0). ClickUPX is the standard
// uncertainty of one click in pixels, > 0, 1 where nil.
type ScaleInput struct {
	KnownMM    float64  `json:"known_mm"`
	KnownUMM   float64  `json:"known_u_mm"`
	KnownPX    float64  `json:"known_px"`
	MeasuredPX float64  `json:"measured_px"`
	ClickUPX   *float64 `json:"click_u_px,omitempty"`
}

// ScaleResult is the size in mm with its standard and its expanded uncertainty (k = 2).
type ScaleResult struct {
	MMPerPX    float64 `json:"mm_per_px"`
	SizeMM     float64 `json:"size_mm"`
	UMM        float64 `json:"u_mm"`
	ExpandedMM float64 `json:"expanded_mm"`
	quantity.Warnings
}

// Scale propagates the uncertainty of the known length and of two clicks on either length
// (GUM, ISO/IEC Guide 98-3).
func Scale(in ScaleInput) (ScaleResult, error) {
	click := quantity.Or(in.ClickUPX, 1)
	var c quantity.Checks
	c.Above("known_mm", in.KnownMM)
	c.NotBelow("known_u_mm", in.KnownUMM)
	c.Above("known_px", in.KnownPX)
	c.Above("measured_px", in.MeasuredPX)
	c.Above("click_u_px", click)
	if c.Err() != nil {
		return ScaleResult{}, c.Err()
	}
	scale := in.KnownMM / in.KnownPX
	size, clicks := scale*in.MeasuredPX, math.Sqrt2*click
	u := math.Hypot(size*math.Hypot(in.KnownUMM/in.KnownMM, clicks/in.KnownPX), scale*clicks)
	return ScaleResult{MMPerPX: scale, SizeMM: size, UMM: u, ExpandedMM: 2 * u, Warnings: quantity.None()}, nil
}

// Point is a grey value at a place in µm along a line across an edge.
type Point struct {
	AtUM float64 `json:"at_um"`
	Grey float64 `json:"grey"`
}

// EdgeInput is at least 10 points at rising places.
type EdgeInput struct {
	Profile []Point `json:"profile"`
}

// EdgeResult is how an edge rises from its first level to its last: where it passes a
// tenth, a half and nine tenths, in µm; nil where it does not. Contrast and Noise are grey
// values.
type EdgeResult struct {
	Contrast    float64  `json:"contrast"`
	Noise       float64  `json:"noise"`
	At10UM      *float64 `json:"at_10_um"`
	At90UM      *float64 `json:"at_90_um"`
	EdgeWidthUM *float64 `json:"edge_width_um"`
	PositionUM  *float64 `json:"position_um"`
	quantity.Warnings
}

const (
	fewestPoints  = 10
	levelShare    = 5  // the first and the last fifth are the levels
	noiseContrast = 20 // times the noise below which a width reads narrow
)

// Edge is the 10–90 % edge width (as in ISO 12233's edge profiles): the first crossing of
// nine tenths, and the last of one tenth before it. It warns no_edge and low_contrast.
func Edge(in EdgeInput) (EdgeResult, error) {
	if err := checkProfile(in.Profile); err != nil {
		return EdgeResult{}, err
	}
	n := len(in.Profile) / levelShare
	first, last := greys(in.Profile[:n]), greys(in.Profile[len(in.Profile)-n:])
	from, to := stats.Mean(first), stats.Mean(last)
	out := EdgeResult{Contrast: math.Abs(to - from), Noise: math.Sqrt((stats.SampleVar(first) + stats.SampleVar(last)) / 2), Warnings: quantity.None()}
	if !out.cross(in.Profile, from, to) {
		out.At10UM, out.At90UM, out.EdgeWidthUM, out.PositionUM = nil, nil, nil, nil
		out.Warn("no_edge", "The profile does not rise from one level to another; draw the line across one edge.")
	}
	if out.Contrast < noiseContrast*out.Noise {
		out.Warn("low_contrast", "The edge hardly stands out from the noise; the width reads up to 15 %% narrow. Use more light.")
	}
	return out, nil
}

func checkProfile(profile []Point) error {
	var c quantity.Checks
	if len(profile) < fewestPoints {
		c.Fail("profile", "holds %d points; at least %d are needed", len(profile), fewestPoints)
	}
	for i, p := range profile {
		at := fmt.Sprintf("profile[%d].", i)
		c.Number(at+"at_um", p.AtUM)
		c.Number(at+"grey", p.Grey)
		if i > 0 && !(p.AtUM > profile[i-1].AtUM) {
			c.Fail(at+"at_um", "is %s after %s; places rise", say.Figures(p.AtUM, 6), say.Figures(profile[i-1].AtUM, 6))
		}
	}
	return c.Err()
}

func greys(points []Point) []float64 {
	out := make([]float64, len(points))
	for i, p := range points {
		out[i] = p.Grey
	}
	return out
}

// cross finds the places where the edge, 0 at its first level and 1 at its last, is passed.
func (out *EdgeResult) cross(profile []Point, from, to float64) bool {
	if from == to {
		return false
	}
	rising := func(level, after float64) (at []float64) {
		for i := 1; i < len(profile); i++ {
			a, b := (profile[i-1].Grey-from)/(to-from), (profile[i].Grey-from)/(to-from)
			if a < level && b >= level {
				if x := profile[i-1].AtUM + (level-a)/(b-a)*(profile[i].AtUM-profile[i-1].AtUM); x >= after {
					at = append(at, x)
				}
			}
		}
		return at
	}
	high := rising(0.9, math.Inf(-1))
	if len(high) == 0 {
		return false
	}
	out.At90UM = &high[0]
	for _, x := range rising(0.1, math.Inf(-1)) {
		if x < high[0] {
			out.At10UM = &x
		}
	}
	if out.At10UM == nil {
		return false
	}
	out.EdgeWidthUM = quantity.Ptr(*out.At90UM - *out.At10UM)
	half := rising(0.5, *out.At10UM)
	if len(half) == 0 {
		return false
	}
	out.PositionUM = &half[0]
	return true
}

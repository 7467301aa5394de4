package claims

import (
	"math"

	"ojime/internal/core/quantity"
)

// Plate is what a masked or projected plate is made of: mm and pixels along its sides, and its height in mm, nil
// where that is not known.
type Plate struct {
	WidthMM  float64  `json:"width_mm"`
	DepthMM  float64  `json:"depth_mm"`
	PxX      int64    `json:"px_x"`
	PxY      int64    `json:"px_y"`
	HeightMM *float64 `json:"height_mm,omitempty"`
}

// QuantityInput is two plates, and the ratio of a over b that somebody claims without saying of what; nil for none.
type QuantityInput struct {
	A            Plate    `json:"a"`
	B            Plate    `json:"b"`
	ClaimedRatio *float64 `json:"claimed_ratio,omitempty"`
}

// Ratios are all that "so many times" may mean of two plates, a over b, where larger is more or finer. Volume is nil
// without both heights.
type Ratios struct {
	PixelCount       float64  `json:"pixel_count"`
	LinearResolution float64  `json:"linear_resolution"` // of pixels a millimetre, the geometric mean of both sides
	Density          float64  `json:"density"`           // of pixels a square millimetre
	PlateWidth       float64  `json:"plate_width"`
	PlateArea        float64  `json:"plate_area"`
	Volume           *float64 `json:"volume"`
}

// QuantityResult is what each ratio is, and Matches the names of those that the claim may mean, in their order: within
// sameRatio of it. Matches is nil where nothing is claimed.
type QuantityResult struct {
	Ratios  Ratios   `json:"ratios"`
	Matches []string `json:"matches"`
	quantity.Warnings
}

// sameRatio is how far from a ratio, as a share of it, a claim still means it.
const sameRatio = 0.03

// Quantity says which quantity a claimed ratio can mean. Every number of a plate is above 0, as is the claim; an error
// names the field (b.px_y).
func Quantity(in QuantityInput) (QuantityResult, error) {
	var c quantity.Checks
	for side, p := range map[string]Plate{"a.": in.A, "b.": in.B} {
		c.Above(side+"width_mm", p.WidthMM)
		c.Above(side+"depth_mm", p.DepthMM)
		c.CountAbove(side+"px_x", p.PxX)
		c.CountAbove(side+"px_y", p.PxY)
		c.AboveIf(side+"height_mm", p.HeightMM)
	}
	c.AboveIf("claimed_ratio", in.ClaimedRatio)
	if c.Err() != nil {
		return QuantityResult{}, c.Err()
	}
	r := Ratios{PixelCount: in.A.pixels() / in.B.pixels(), PlateWidth: in.A.WidthMM / in.B.WidthMM, PlateArea: in.A.area() / in.B.area()}
	r.Density = r.PixelCount / r.PlateArea
	r.LinearResolution = math.Sqrt(r.Density)
	if in.A.HeightMM != nil && in.B.HeightMM != nil {
		r.Volume = quantity.Ptr(r.PlateArea * *in.A.HeightMM / *in.B.HeightMM)
	}
	out := QuantityResult{Ratios: r, Warnings: quantity.None()}
	if in.ClaimedRatio != nil {
		out.Matches = r.matching(*in.ClaimedRatio)
	}
	return out, nil
}

func (p Plate) pixels() float64 { return float64(p.PxX) * float64(p.PxY) }
func (p Plate) area() float64   { return p.WidthMM * p.DepthMM }

func (r Ratios) matching(claimed float64) []string {
	out := []string{}
	for _, one := range []struct {
		name  string
		value *float64
	}{{"pixel_count", &r.PixelCount}, {"linear_resolution", &r.LinearResolution}, {"density", &r.Density}, {"plate_width", &r.PlateWidth}, {"plate_area", &r.PlateArea}, {"volume", r.Volume}} {
		if one.value != nil && quantity.AtMost(math.Abs(claimed-*one.value), sameRatio*claimed) {
			out = append(out, one.name)
		}
	}
	return out
}

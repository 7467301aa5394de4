// Package optics computes what a machine can draw and what an eye can see:
// pixel pitch and what its ratios mean, the angle a detail subtends, steps on
// tilted faces, and what scaling or a support tip does to the finest feature.
package optics

import (
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Panel is the drawn plate and its pixel counts: millimetres > 0, counts >= 1.
type Panel struct {
	WidthMM float64 `json:"width_mm"`
	DepthMM float64 `json:"depth_mm"`
	PxX     int64   `json:"px_x"`
	PxY     int64   `json:"px_y"`
}

// PitchInput asks for a machine's pitch, optionally against a reference.
type PitchInput struct {
	Panel
	Reference *Panel `json:"reference,omitempty"`
}

// Versus holds four ratios that answer four different questions. Linear is
// reference over own (above 1 is finer); the others are own over reference.
type Versus struct {
	PixelCountRatio float64 `json:"pixel_count_ratio"`
	LinearRatio     float64 `json:"linear_ratio"`
	DensityRatio    float64 `json:"density_ratio"`
	PlateAreaRatio  float64 `json:"plate_area_ratio"`
}

// PitchResult gives pitches in micrometres, density per square millimetre and
// the plate's area. PitchUM is the geometric mean of the two pitches.
type PitchResult struct {
	PitchXUM      float64 `json:"pitch_x_um"`
	PitchYUM      float64 `json:"pitch_y_um"`
	PitchUM       float64 `json:"pitch_um"`
	Pixels        int64   `json:"pixels"`
	DensityPerMM2 float64 `json:"density_per_mm2"`
	PlateAreaMM2  float64 `json:"plate_area_mm2"`
	Versus        *Versus `json:"versus"`
	quantity.Warnings
}

// notSquareRatio is the ratio of a machine's own pitches above which its
// pixels are called not square.
const notSquareRatio = 1.02

// Pitch divides the plate by its pixel counts. It warns not_square when the
// larger pitch is over 1.02 times the smaller. Errors name the field.
func Pitch(in PitchInput) (PitchResult, error) {
	var c quantity.Checks
	checkPanel(&c, "", in.Panel)
	if in.Reference != nil {
		checkPanel(&c, "reference.", *in.Reference)
	}
	if c.Err() != nil {
		return PitchResult{}, c.Err()
	}
	x, y := in.pitches()
	out := PitchResult{
		PitchXUM: x, PitchYUM: y, PitchUM: math.Sqrt(x * y),
		Pixels: in.PxX * in.PxY, DensityPerMM2: 1e6 / (x * y),
		PlateAreaMM2: in.WidthMM * in.DepthMM, Warnings: quantity.None(),
	}
	if r := in.Reference; r != nil {
		rx, ry := r.pitches()
		out.Versus = &Versus{
			PixelCountRatio: float64(out.Pixels) / (float64(r.PxX) * float64(r.PxY)),
			LinearRatio:     math.Sqrt(rx*ry) / out.PitchUM,
			DensityRatio:    rx * ry / (x * y),
			PlateAreaRatio:  out.PlateAreaMM2 / (r.WidthMM * r.DepthMM),
		}
	}
	if quantity.Less(notSquareRatio*math.Min(x, y), math.Max(x, y)) {
		out.Warn("not_square", "Pixels are not square: %s µm by %s µm. Check the plate size and the pixel counts.", say.Figures(x, 4), say.Figures(y, 4))
	}
	return out, nil
}

func (p Panel) pitches() (x, y float64) {
	return 1000 * p.WidthMM / float64(p.PxX), 1000 * p.DepthMM / float64(p.PxY)
}

func checkPanel(c *quantity.Checks, at string, p Panel) {
	c.Above(at+"width_mm", p.WidthMM)
	c.Above(at+"depth_mm", p.DepthMM)
	c.CountAbove(at+"px_x", p.PxX)
	c.CountAbove(at+"px_y", p.PxY)
}

// SightInput asks how large a detail looks. AcuityArcmin defaults to 1.0.
type SightInput struct {
	SizeUM       float64  `json:"size_um"`
	DistanceMM   float64  `json:"distance_mm"`
	AcuityArcmin *float64 `json:"acuity_arcmin,omitempty"`
}

// SightResult gives the angle in arc-minutes, the size just resolved in
// micrometres, and plain, borderline or below.
type SightResult struct {
	AngleArcmin float64 `json:"angle_arcmin"`
	ThresholdUM float64 `json:"threshold_um"`
	Ratio       float64 `json:"ratio"`
	Verdict     string  `json:"verdict"`
	quantity.Warnings
}

// arcminPerRad converts radians to minutes of arc.
const arcminPerRad = 180 * 60 / math.Pi

// straightAngleArcmin is 180°: no detail can subtend it.
const straightAngleArcmin = 10800

// Sight computes the angle 2·atan(size/(2·distance)) and compares it with the
// acuity: plain from 1.5 times it, borderline from two thirds of it.
func Sight(in SightInput) (SightResult, error) {
	acuity := quantity.Or(in.AcuityArcmin, 1.0)
	var c quantity.Checks
	c.Above("size_um", in.SizeUM)
	c.Above("distance_mm", in.DistanceMM)
	c.Above("acuity_arcmin", acuity)
	if acuity >= straightAngleArcmin {
		c.Fail("acuity_arcmin", "is %s; it must be below %d", say.Figures(acuity, 6), straightAngleArcmin)
	}
	if c.Err() != nil {
		return SightResult{}, c.Err()
	}
	distanceUM := 1000 * in.DistanceMM
	out := SightResult{
		AngleArcmin: 2 * math.Atan(in.SizeUM/(2*distanceUM)) * arcminPerRad,
		ThresholdUM: 2 * distanceUM * math.Tan(acuity/arcminPerRad/2),
		Verdict:     "below", Warnings: quantity.None(),
	}
	out.Ratio = out.AngleArcmin / acuity
	switch {
	case quantity.AtMost(1.5, out.Ratio):
		out.Verdict = "plain"
	case quantity.AtMost(2.0/3, out.Ratio):
		out.Verdict = "borderline"
	}
	return out, nil
}

// StepsInput is a face tilted from the plate by 0 < TiltDeg <= 90.
type StepsInput struct {
	LayerUM float64 `json:"layer_um"`
	PitchUM float64 `json:"pitch_um"`
	TiltDeg float64 `json:"tilt_deg"`
}

// StepsResult gives the width and height of a layer step in micrometres and
// the tilt at which layer and pixel steps coincide, in degrees.
type StepsResult struct {
	LayerRunUM     float64 `json:"layer_run_um"`
	LayerCuspUM    float64 `json:"layer_cusp_um"`
	MatchedTiltDeg float64 `json:"matched_tilt_deg"`
	quantity.Warnings
}

// Steps computes run = layer/tan(tilt), cusp = layer·cos(tilt), both 0 at 90°,
// and the matched tilt atan(layer/pitch).
func Steps(in StepsInput) (StepsResult, error) {
	var c quantity.Checks
	c.Above("layer_um", in.LayerUM)
	c.Above("pitch_um", in.PitchUM)
	c.Above("tilt_deg", in.TiltDeg)
	if in.TiltDeg > 90 {
		c.Fail("tilt_deg", "is %s; it must be above 0 and at most 90", say.Figures(in.TiltDeg, 6))
	}
	if c.Err() != nil {
		return StepsResult{}, c.Err()
	}
	out := StepsResult{MatchedTiltDeg: math.Atan(in.LayerUM/in.PitchUM) * 180 / math.Pi, Warnings: quantity.None()}
	if in.TiltDeg != 90 {
		tilt := in.TiltDeg * math.Pi / 180
		out.LayerRunUM = in.LayerUM / math.Tan(tilt)
		out.LayerCuspUM = in.LayerUM * math.Cos(tilt)
	}
	return out, nil
}

// ScaleInput is a piece printed at ScalePct of its size. FeatureUM is its
// finest feature at 100 %.
type ScaleInput struct {
	ScalePct  float64  `json:"scale_pct"`
	FeatureUM float64  `json:"feature_um"`
	LayerUM   float64  `json:"layer_um"`
	PitchUM   *float64 `json:"pitch_um,omitempty"`
}

// ScaleResult gives the scaled feature in micrometres, pixels and layers, and
// what the scale does to peel area and resin volume. Pixels is nil without a
// pitch.
type ScaleResult struct {
	FeatureUM   float64  `json:"feature_um"`
	Pixels      *float64 `json:"pixels"`
	Layers      float64  `json:"layers"`
	AreaRatio   float64  `json:"area_ratio"`
	VolumeRatio float64  `json:"volume_ratio"`
	quantity.Warnings
}

// Scale multiplies the finest feature by k = scale/100; areas go with k² and
// volumes with k³. It warns below_two_pixels.
func Scale(in ScaleInput) (ScaleResult, error) {
	var c quantity.Checks
	c.Above("scale_pct", in.ScalePct)
	c.Above("feature_um", in.FeatureUM)
	c.Above("layer_um", in.LayerUM)
	c.AboveIf("pitch_um", in.PitchUM)
	if c.Err() != nil {
		return ScaleResult{}, c.Err()
	}
	k := in.ScalePct / 100
	out := ScaleResult{FeatureUM: in.FeatureUM * k, AreaRatio: k * k, VolumeRatio: k * k * k, Warnings: quantity.None()}
	out.Layers = out.FeatureUM / in.LayerUM
	if in.PitchUM != nil {
		pixels := out.FeatureUM / *in.PitchUM
		out.Pixels = &pixels
		if quantity.Less(pixels, 2) {
			out.Warn("below_two_pixels", "The finest feature is %s pixels wide at this scale; below two it may come or go with its place on the grid.", say.Figures(pixels, 2))
		}
	}
	return out, nil
}

// TipInput changes a support tip's diameter, in millimetres.
type TipInput struct {
	FromMM  float64  `json:"from_mm"`
	ToMM    float64  `json:"to_mm"`
	PitchUM *float64 `json:"pitch_um,omitempty"`
}

// TipResult gives ratios of the new tip to the old one and its area.
type TipResult struct {
	DiameterRatio float64  `json:"diameter_ratio"`
	AreaRatio     float64  `json:"area_ratio"`
	AreaMM2       float64  `json:"area_mm2"`
	PixelsAcross  *float64 `json:"pixels_across"`
	quantity.Warnings
}

// Tip compares support tips: hold and scar go with the area, the square of
// the diameter ratio. It warns below_three_pixels.
func Tip(in TipInput) (TipResult, error) {
	var c quantity.Checks
	c.Above("from_mm", in.FromMM)
	c.Above("to_mm", in.ToMM)
	c.AboveIf("pitch_um", in.PitchUM)
	if c.Err() != nil {
		return TipResult{}, c.Err()
	}
	ratio := in.ToMM / in.FromMM
	out := TipResult{DiameterRatio: ratio, AreaRatio: ratio * ratio, AreaMM2: math.Pi * in.ToMM * in.ToMM / 4, Warnings: quantity.None()}
	if in.PitchUM != nil {
		across := 1000 * in.ToMM / *in.PitchUM
		out.PixelsAcross = &across
		if quantity.Less(across, 3) {
			out.Warn("below_three_pixels", "The tip is %s pixels across; below three its size depends on where it falls on the grid.", say.Figures(across, 2))
		}
	}
	return out, nil
}

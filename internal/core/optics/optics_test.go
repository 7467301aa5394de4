package optics

import (
	"errors"
	"math"
	"testing"

	"ojime/internal/core/quantity"
)

func wantPath(t *testing.T, err error, path string) {
	t.Helper()
	var wrong *quantity.FieldError
	if !errors.As(err, &wrong) || wrong.Path != path {
		t.Errorf("error %v, want one of field %s", err, path)
	}
}

// Half as many pixels again on a larger plate can be coarser: the four ratios answer four
// questions.
func TestPixelCountIsNotResolution(t *testing.T) {
	small, large := Panel{WidthMM: 120, DepthMM: 67.5, PxX: 3840, PxY: 2160}, Panel{WidthMM: 220, DepthMM: 123.75, PxX: 5760, PxY: 3240}
	got, err := Pitch(PitchInput{Panel: large, Reference: &small})
	if err != nil {
		t.Fatal(err)
	}
	v := got.Versus
	if !quantity.Equal(v.PixelCountRatio, 2.25) || v.LinearRatio >= 1 || !quantity.Equal(v.LinearRatio, (120.0/3840)/(220.0/5760)) || !quantity.Equal(v.DensityRatio, v.LinearRatio*v.LinearRatio) ||
		!quantity.Equal(v.PlateAreaRatio, 220*123.75/(120*67.5)) || !quantity.Equal(v.PixelCountRatio, v.DensityRatio*v.PlateAreaRatio) {
		t.Errorf("%+v", *v)
	}
	if alone, err := Pitch(PitchInput{Panel: small}); err != nil || alone.Versus != nil || !quantity.Equal(alone.PitchUM, 31.25) || alone.Pixels != 3840*2160 || alone.Has("not_square") {
		t.Errorf("%+v (%v)", alone, err)
	}
}

func TestPixelsThatAreNotSquareAreNamed(t *testing.T) {
	for depth, want := range map[float64]bool{90: false, 91.8: false, 91.9: true, 88.3: false, 88.2: true} {
		got, err := Pitch(PitchInput{Panel: Panel{WidthMM: 160, DepthMM: depth, PxX: 4000, PxY: 2250}})
		if err != nil || got.Has("not_square") != want {
			t.Errorf("%v mm deep: %v by %v µm, warned %v (%v)", depth, got.PitchXUM, got.PitchYUM, got.Has("not_square"), err)
		}
	}
	wide, err := Pitch(PitchInput{Panel: Panel{WidthMM: 200, DepthMM: 90, PxX: 4000, PxY: 2250}})
	if err != nil || !quantity.Equal(wide.PitchUM, math.Sqrt(50*40)) {
		t.Errorf("the pitch of 50 by 40 µm is %v (%v)", wide.PitchUM, err)
	}
	for path, in := range map[string]PitchInput{
		"width_mm": {Panel: Panel{DepthMM: 1, PxX: 1, PxY: 1}}, "px_y": {Panel: Panel{WidthMM: 1, DepthMM: 1, PxX: 1}},
		"reference.depth_mm": {Panel: Panel{1, 1, 1, 1}, Reference: &Panel{WidthMM: 1, PxX: 1, PxY: 1}},
	} {
		_, err := Pitch(in)
		wantPath(t, err, path)
	}
}

func TestWhatAnEyeSees(t *testing.T) {
	for _, c := range []struct {
		sizeUM, distanceMM float64
		verdict            string
	}{
		// One minute of arc at 300 mm is 87.3 µm.
		{131, 300, "plain"}, {130, 300, "borderline"}, {58.3, 300, "borderline"}, {58, 300, "below"}, {30, 100, "borderline"}, {30, 300, "below"},
	} {
		got, err := Sight(SightInput{SizeUM: c.sizeUM, DistanceMM: c.distanceMM})
		if err != nil || got.Verdict != c.verdict || !quantity.Equal(got.Ratio, got.AngleArcmin) {
			t.Errorf("%v µm at %v mm: %+v (%v), want %s", c.sizeUM, c.distanceMM, got, err, c.verdict)
		}
	}
	sharp, err := Sight(SightInput{SizeUM: 18, DistanceMM: 300, AcuityArcmin: quantity.Ptr(0.2)})
	if err != nil || math.Abs(sharp.ThresholdUM-17.45) > 0.01 || sharp.Verdict != "borderline" {
		t.Errorf("steps are noticed finer: %+v (%v)", sharp, err)
	}
	// The threshold subtends the acuity.
	at, err := Sight(SightInput{SizeUM: sharp.ThresholdUM, DistanceMM: 300})
	if err != nil || math.Abs(at.AngleArcmin-0.2) > 1e-9 {
		t.Errorf("%+v (%v)", at, err)
	}
	for path, in := range map[string]SightInput{"size_um": {DistanceMM: 1}, "distance_mm": {SizeUM: 1}, "acuity_arcmin": {SizeUM: 1, DistanceMM: 1, AcuityArcmin: quantity.Ptr(10800.0)}} {
		_, err := Sight(in)
		wantPath(t, err, path)
	}
}

func TestStepsOfATiltedFace(t *testing.T) {
	for tilt, want := range map[float64][2]float64{45: {50, 50 / math.Sqrt2}, 90: {0, 0}, 30: {50 * math.Sqrt(3), 25 * math.Sqrt(3)}, 5: {50 / math.Tan(5*math.Pi/180), 50 * math.Cos(5*math.Pi/180)}} {
		got, err := Steps(StepsInput{LayerUM: 50, PitchUM: 50, TiltDeg: tilt})
		if err != nil || math.Abs(got.LayerRunUM-want[0]) > 1e-9 || math.Abs(got.LayerCuspUM-want[1]) > 1e-9 || math.Abs(got.MatchedTiltDeg-45) > 1e-9 {
			t.Errorf("%v°: %+v (%v), want %v", tilt, got, err, want)
		}
	}
	for path, in := range map[string]StepsInput{"layer_um": {PitchUM: 1, TiltDeg: 1}, "pitch_um": {LayerUM: 1, TiltDeg: 1}, "tilt_deg": {LayerUM: 1, PitchUM: 1, TiltDeg: 90.1}} {
		_, err := Steps(in)
		wantPath(t, err, path)
	}
}

func TestWhatAScaleDoes(t *testing.T) {
	got, err := Scale(ScaleInput{ScalePct: 50, FeatureUM: 200, LayerUM: 25, PitchUM: quantity.Ptr(50.0)})
	if err != nil || got.FeatureUM != 100 || *got.Pixels != 2 || got.Layers != 4 || got.AreaRatio != 0.25 || got.VolumeRatio != 0.125 || got.Has("below_two_pixels") {
		t.Errorf("%+v (%v)", got, err)
	}
	if got, err := Scale(ScaleInput{ScalePct: 49, FeatureUM: 200, LayerUM: 25, PitchUM: quantity.Ptr(50.0)}); err != nil || !got.Has("below_two_pixels") {
		t.Errorf("just under two pixels: %+v (%v)", got, err)
	}
	if got, err := Scale(ScaleInput{ScalePct: 10, FeatureUM: 200, LayerUM: 25}); err != nil || got.Pixels != nil || len(got.Warnings.Warnings) != 0 {
		t.Errorf("without a pitch: %+v (%v)", got, err)
	}
	_, err = Scale(ScaleInput{FeatureUM: 1, LayerUM: 1})
	wantPath(t, err, "scale_pct")
}

func TestATipHoldsByItsArea(t *testing.T) {
	got, err := Tip(TipInput{FromMM: 0.3, ToMM: 0.45, PitchUM: quantity.Ptr(50.0)})
	if err != nil || !quantity.Equal(got.DiameterRatio, 1.5) || !quantity.Equal(got.AreaRatio, 2.25) || !quantity.Equal(*got.PixelsAcross, 9) || !quantity.Equal(got.AreaMM2, math.Pi*0.45*0.45/4) {
		t.Errorf("%+v (%v)", got, err)
	}
	for to, want := range map[float64]bool{0.15: false, 0.149: true} {
		if got, err := Tip(TipInput{FromMM: 0.3, ToMM: to, PitchUM: quantity.Ptr(50.0)}); err != nil || got.Has("below_three_pixels") != want {
			t.Errorf("%v mm: %+v (%v)", to, got, err)
		}
	}
	_, err = Tip(TipInput{FromMM: 0.3})
	wantPath(t, err, "to_mm")
}

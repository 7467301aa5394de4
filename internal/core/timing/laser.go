package timing

import "ojime/internal/core/quantity"

// LaserInput is a print on a machine whose spot traces every layer. Area and
// perimeter are summed over the layers of one copy.
type LaserInput struct {
	Layers           int64    `json:"layers"`
	AreaMM2Total     float64  `json:"area_mm2_total"`
	PerimeterMMTotal float64  `json:"perimeter_mm_total"`
	Copies           int64    `json:"copies"`
	HatchMM          float64  `json:"hatch_mm"`
	HatchMMS         float64  `json:"hatch_mm_s"`
	ContourPasses    int64    `json:"contour_passes"`
	ContourMMS       float64  `json:"contour_mm_s"`
	SettleS          float64  `json:"settle_s"`
	StartS           *float64 `json:"start_s,omitempty"`
	EndS             *float64 `json:"end_s,omitempty"`
}

// LaserBreakdown is where the time of a laser print goes, in seconds.
type LaserBreakdown struct {
	ExposureS float64 `json:"exposure_s"`
	WaitS     float64 `json:"wait_s"`
	OverheadS float64 `json:"overhead_s"`
}

// LaserResult is the time of a print in seconds; LayerS is the mean layer.
// LightDuty is nil for a print that takes no time at all.
type LaserResult struct {
	Layers    int64          `json:"layers"`
	TotalS    float64        `json:"total_s"`
	LightOnS  float64        `json:"light_on_s"`
	LightDuty *float64       `json:"light_duty"`
	LayerS    float64        `json:"layer_s"`
	Breakdown LaserBreakdown `json:"breakdown"`
	quantity.Warnings
}

// Laser adds hatching (area over hatch distance and speed), contours (passes
// times perimeter over speed) and a settling time per layer.
func Laser(in LaserInput) (LaserResult, error) {
	var c quantity.Checks
	c.CountAbove("layers", in.Layers)
	c.NotBelow("area_mm2_total", in.AreaMM2Total)
	c.NotBelow("perimeter_mm_total", in.PerimeterMMTotal)
	c.CountAbove("copies", in.Copies)
	c.Above("hatch_mm", in.HatchMM)
	c.Above("hatch_mm_s", in.HatchMMS)
	c.CountNotBelow("contour_passes", in.ContourPasses)
	c.Above("contour_mm_s", in.ContourMMS)
	c.NotBelow("settle_s", in.SettleS)
	c.NotBelowIf("start_s", in.StartS)
	c.NotBelowIf("end_s", in.EndS)
	if c.Err() != nil {
		return LaserResult{}, c.Err()
	}
	light := float64(in.Copies) * (in.AreaMM2Total/(in.HatchMM*in.HatchMMS) +
		float64(in.ContourPasses)*in.PerimeterMMTotal/in.ContourMMS)
	parts := LaserBreakdown{
		ExposureS: light, WaitS: float64(in.Layers) * in.SettleS,
		OverheadS: quantity.Or(in.StartS, 0) + quantity.Or(in.EndS, 0),
	}
	out := LaserResult{
		Layers: in.Layers, LightOnS: light, Breakdown: parts,
		TotalS:   parts.ExposureS + parts.WaitS + parts.OverheadS,
		LayerS:   light/float64(in.Layers) + in.SettleS,
		Warnings: quantity.None(),
	}
	if out.TotalS > 0 {
		out.LightDuty = quantity.Ptr(out.LightOnS / out.TotalS)
	}
	return out, nil
}
